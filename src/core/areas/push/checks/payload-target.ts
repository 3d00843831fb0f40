/** The channel or category that a message names is one that the app makes or registers. */

import { z } from 'zod';
import { nearest } from '../../../platform/text/nearest.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { payloadsOf } from '../payloads-of.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  kind: z.string(),
  named: z.string(),
  known: z.array(z.string()),
  nearest: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const payloadTarget = defineCheck({
  id: 'payload-target',
  area: 'push',
  priority: 'wrong',
  standard: 'Android developers, Create and manage notification channels; Apple, UNNotificationCategory',
  basis: 'measured',
  needs: 'package',
  reads: ['payload', 'push-setup'],
  data: dataSchema,
  words: ({ kind, known, name, named, nearest }) => ({
    what: `${name} names a ${kind} that the app does not have: ${quote(named)}`,
    measured: `the app has ${known.join(', ') || 'none'}`,
    required: `a ${kind} of push.${kind === 'channel' ? 'channels' : 'categories'} in fenlok.yaml`,
    why:
      kind === 'channel'
        ? 'The message goes to a channel of the library, with a name and a sound that nobody chose, or is dropped.'
        : 'The message comes without its buttons.',
    remedy: nearest ? `Did you mean ${quote(nearest)}?` : `Make the ${kind} in the app, or name another.`,
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const { categories, channels } = intent.push;
    for (const one of payloadsOf(facts, intent)) {
      if ('missingEvidence' in one) {
        yield { outcome: 'untested', missingEvidence: one.missingEvidence };
        continue;
      }
      const { evidence, name, payload } = one;
      const kind = payload.form === 'apple' ? 'category' : 'channel';
      const named = payload[kind];
      const known = kind === 'category' ? categories : channels;
      if (named === undefined) yield { outcome: 'inapplicable' };
      else if (known.includes(named)) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: name, aspect: kind },
            target: { kind: 'payload', id: name },
            basis: 'measured',
            severity: 1,
            digest: named,
            occurrence: {
              evidence,
              shown: named,
              data: { name, kind, named, known, nearest: nearest(named, known) ?? '' },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'Channel and category of a message',
    against: '`push.channels` and `push.categories` of the intent file',
    matters: 'The message goes to a channel that nobody made, or comes without its buttons.',
    measured: 'Channel and category of each message against those of the intent file.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'manager.createNotificationChannel(NotificationChannel("delays", name, IMPORTANCE_HIGH))',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'center.setNotificationCategories([UNNotificationCategory(identifier: "DELAY", actions: actions, intentIdentifiers: [])])',
      },
    ],
  },
});
