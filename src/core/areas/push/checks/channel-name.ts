/** Channels of Android are what a user switches off one by one, so each has a name, in the user's language. */

import { z } from 'zod';
import type { PushChannelsFact } from '../../../model/facts/push.ts';
import { isSameLanguage } from '../../../model/locale.ts';
import { type Assertion, defineCheck, type FactIndex } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({
  channel: z.string(),
  fault: z.enum(['not-made', 'nameless', 'source-language']),
  locale: z.string(),
  name: z.string(),
  /** What the app has for it in that language; empty where nothing is known. */
  translated: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const channelName = defineCheck({
  id: 'channel-name',
  area: 'push',
  priority: 'harder',
  standard: 'Android developers, Create and manage notification channels',
  basis: 'either',
  needs: 'push-channels',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ channel, fault, locale, name, translated }) => ({
    what: {
      'not-made': `The app never makes the channel ${quote(channel)}`,
      nameless: `The channel ${quote(channel)} has no name that says anything in ${locale}`,
      'source-language': `The channel ${quote(channel)} is named in another language in ${locale}: ${quote(name)}`,
    }[fault],
    measured:
      fault === 'not-made' ? 'not among its channels' : `${quote(name)} in the settings of the system`,
    required: translated ? quote(translated) : 'a name in each language of the app',
    why: 'Who cannot tell which channel is which switches all messages off.',
    remedy:
      fault === 'not-made'
        ? 'Make it before the first message is shown, or take it out of push.channels in fenlok.yaml.'
        : 'Take the name from the resources, and make the channel again when the language changes: that changes its name and nothing else.',
  }),

  *run(facts, { push, sourceLocale }): Iterable<Assertion<Data>> {
    const seen = facts.of('push-channels');
    const translate = translations(facts, sourceLocale);
    // an app may have made none, or this system lists them in another way
    if (seen.every(({ channels }) => channels.length === 0)) {
      yield { outcome: 'untested', because: 'the system lists no channel of the app' };
      return;
    }
    for (const declared of push.channels)
      if (!seen.some(({ channels }) => channels.some(({ id }) => id === declared)))
        yield found(seen[0]!, { channel: declared, fault: 'not-made', locale: '', name: '', translated: '' });
    const source = seen.find(({ locale }) => isSameLanguage(locale, sourceLocale));
    for (const one of seen)
      for (const { id, name } of one.channels) {
        const { locale } = one;
        const data = { channel: id, locale, name, translated: '' };
        const isSource = isSameLanguage(locale, sourceLocale);
        if (name.trim() === '' || name === id) yield found(one, { ...data, fault: 'nameless' });
        else if (isSource || name !== source?.channels.find((other) => other.id === id)?.name)
          yield { outcome: 'passed', cell: one.cell };
        else {
          const translated = translate(name, locale);
          if (translated.includes(name)) yield { outcome: 'passed', cell: one.cell };
          else yield found(one, { ...data, fault: 'source-language', translated: translated[0] ?? '' });
        }
      }
  },

  doc: {
    looksAt:
      'The channels that the app has made, as the system lists them, after a start in each language of the app',
    against: '`push.channels` of the intent file, and a name that is not the one of the source language',
    matters: 'A channel is the only thing by which a user switches off some messages and keeps the others.',
    measured:
      'Ids and names that the system lists. A name of the source language is measured as a fault where the package has that text translated into another; else estimated, since some words are the same.',
    errs: 'A channel that is made only with its first message may not be there yet.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'manager.createNotificationChannel(NotificationChannel("delays", getString(R.string.channel_delays), IMPORTANCE_HIGH))',
      },
    ],
  },
});

function found(fact: PushChannelsFact, data: Data): Assertion<Data> {
  const { cell, evidence } = fact;
  // some words are the same in two languages
  const isMeasured = data.fault !== 'source-language' || data.translated !== '';
  return {
    outcome: isMeasured ? 'failed' : 'cantTell',
    cell,
    draft: {
      identity: {
        subject: `channel ${data.channel}`,
        aspect: [data.fault, data.locale].filter(Boolean).join(' '),
      },
      basis: isMeasured ? 'measured' : 'estimated',
      severity: data.fault === 'not-made' ? 2 : 1,
      digest: data.name,
      occurrence: { evidence, cell, shown: data.channel, data },
    },
  };
}

/** What the package says in a language for a text of the source language, by every key that has it. */
function translations(
  facts: FactIndex<'catalogue-text' | 'push-channels'>,
  sourceLocale: string,
): (text: string, locale: string) => string[] {
  const texts = facts.of('catalogue-text');
  const isSource = (locale: string) => locale === 'default' || isSameLanguage(locale, sourceLocale);
  return (text, wanted) => {
    const keys = new Set(
      texts.filter(({ locale, text: other }) => isSource(locale) && other === text).map(({ key }) => key),
    );
    return texts.flatMap(({ key, locale, text: other }) =>
      keys.has(key) && locale !== 'default' && isSameLanguage(locale, wanted) ? [other] : [],
    );
  };
}
