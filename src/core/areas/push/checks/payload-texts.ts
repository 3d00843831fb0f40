/** Keys of a message stand in the catalogue of every language, with as many arguments as the message gives; its texts fit. */

import { z } from 'zod';
import type { PayloadFact } from '../../../model/facts/push.ts';
import { type PreviewTrouble, previewPayload } from '../../../platform/push/preview-payload.ts';
import { textFor } from '../../../platform/push/text-for.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { payloadsOf } from '../payloads-of.ts';

const placeShape = { name: z.string(), part: z.enum(['title', 'subtitle', 'body']), locale: z.string() };
const dataSchema = z.union([
  z.strictObject({ ...placeShape, kind: z.literal('no-key'), key: z.string() }),
  z.strictObject({
    ...placeShape,
    kind: z.literal('arguments'),
    key: z.string(),
    given: z.number(),
    needed: z.number(),
  }),
  z.strictObject({ ...placeShape, kind: z.literal('cut'), linesNeeded: z.number(), linesShown: z.number() }),
]);
type Data = z.infer<typeof dataSchema>;

export const payloadTexts = defineCheck({
  id: 'payload-texts',
  area: 'push',
  priority: 'wrong',
  standard: 'Apple, Generating a remote notification (loc-key); Firebase, FCM HTTP v1 API (body_loc_key)',
  basis: 'either',
  needs: 'package',
  reads: ['payload', 'catalogue-text', 'push-setup'],
  data: dataSchema,
  words: (data, { occurrences }) => {
    const { name, part } = data;
    const locales = [...new Set(occurrences.map((one) => one.data.locale))].join(', ');
    switch (data.kind) {
      case 'no-key':
        return {
          what: `${name}: the app has no text ${quote(data.key)}`,
          measured: `none in ${locales}`,
          required: 'the key in the catalogue of every language',
          why: 'The key itself is shown, or nothing at all.',
          remedy: `Add the text, or correct the key of the ${part}.`,
        };
      case 'arguments':
        return {
          what: `${name}: the ${part} gives ${data.given} arguments to ${quote(data.key)}`,
          measured: `in ${locales} the text takes ${data.needed}`,
          required: 'as many as the text takes',
          why: 'Places in the text stay empty, or the message is not shown.',
          remedy: 'Give as many arguments as the text has placeholders.',
        };
      case 'cut':
        return {
          what: `${name}: the ${part} is cut until it is unfolded`,
          measured: `about ${data.linesNeeded} lines in ${locales}`,
          required: `${data.linesShown} ${data.linesShown === 1 ? 'line' : 'lines'}`,
          why: 'What matters may stand in the part that is not seen; how wide the letters of the device are is not known here.',
          remedy: 'Put what matters first, or shorten the text; or rule that it may be cut.',
        };
    }
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const texts = facts.of('catalogue-text');
    const locales = [...new Set([intent.sourceLocale, ...intent.locales])];
    for (const one of payloadsOf(facts, intent)) {
      if ('missingEvidence' in one) {
        yield { outcome: 'untested', missingEvidence: one.missingEvidence };
        continue;
      }
      for (const locale of locales) {
        const { trouble } = previewPayload(one.payload, locale, (key) => textFor(texts, key, locale));
        if (trouble.length === 0) yield { outcome: 'passed' };
        for (const found of trouble) yield toAssertion(one, locale, found);
      }
    }
  },

  doc: {
    looksAt: 'The keys of a message in each language, their arguments, how wide the texts come out',
    against: 'The catalogues of the package. Cut texts are estimated',
    matters: 'The key itself is shown, or nothing at all.',
    measured:
      'The keys of a message in the catalogue of each language, the arguments that they take, and how wide the texts come out.',
    errs: 'How wide the letters of a device are is not known here, so cut texts are estimated.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="sailing_late">%1$s leaves late</string>',
      },
      { where: 'Localizable.strings', language: 'text', code: '"sailing_late" = "%@ leaves late";' },
    ],
  },
});

/** Cut texts are estimated: how wide a phone and its letters are is not known here. */
function toAssertion(
  { evidence, name }: PayloadFact,
  locale: string,
  trouble: PreviewTrouble,
): Assertion<Data> {
  const isCut = trouble.kind === 'cut';
  const { kind, part, ...values } = trouble;
  const data = { name, locale, ...trouble };
  return {
    outcome: isCut ? 'cantTell' : 'failed',
    draft: {
      identity: { subject: `${name} ${part}`, aspect: kind },
      target: { kind: 'payload', id: name, part },
      basis: isCut ? 'estimated' : 'measured',
      severity: { 'no-key': 3, arguments: 2, cut: 1 }[kind],
      digest: JSON.stringify(values),
      occurrence: { evidence, shown: name, data },
    },
  };
}
