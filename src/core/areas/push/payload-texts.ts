/** Keys of a message stand in the catalogue of every language, with as many arguments as the message gives; its texts fit. */
import type { PayloadFact } from '../../model/facts/push.ts';
import { type PreviewTrouble, previewPayload } from '../../platform/push/preview-payload.ts';
import { textFor } from '../../platform/push/text-for.ts';
import type { Assertion, Check } from '../check.ts';
import { payloadsOf } from './payloads-of.ts';

export const payloadTexts = {
  id: 'payload-texts',
  area: 'push',
  needs: ['package', 'payload', 'catalogue-text'],
  *run(facts, intent): Iterable<Assertion> {
    const texts = facts.of('catalogue-text');
    const locales = [...new Set([intent.sourceLocale, ...intent.locales])];
    for (const one of payloadsOf(facts, intent)) {
      if ('lacking' in one) {
        yield { outcome: 'untested', lacking: one.lacking };
        continue;
      }
      for (const locale of locales) {
        const { trouble } = previewPayload(one.payload, locale, (key) => textFor(texts, key, locale));
        if (trouble.length === 0) yield { outcome: 'passed' };
        for (const found of trouble) yield departure(one, locale, found);
      }
    }
  },
} satisfies Check;

/** Cut texts are estimated: how wide a phone and its letters are is not known here. */
function departure({ evidence, name }: PayloadFact, locale: string, trouble: PreviewTrouble): Assertion {
  const isCut = trouble.kind === 'cut';
  const { kind, part, ...values } = trouble;
  return {
    outcome: isCut ? 'cantTell' : 'failed',
    draft: {
      identity: { subject: `${name} ${part}`, aspect: kind },
      basis: isCut ? 'estimated' : 'measured',
      severity: { 'no-key': 3, arguments: 2, cut: 1 }[kind],
      digest: JSON.stringify(values),
      occurrence: { evidence, shown: name, data: { name, part, kind, locale, ...values } },
    },
  };
}
