import type { TextFault } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Check } from '../../check.ts';
import { languageOf, sourceBeside } from './catalogue.ts';
import { ownTexts } from './own-texts.ts';
import { departure, textDraft } from './text-draft.ts';

// The tags of a text are `markup-mismatch`'s.
const OF_MARKUP = new Set<TextFault['code']>(['unclosed-tag', 'unopened-tag']);
const NONE: readonly Fault[] = [];
type Fault = NonNullable<CatalogueTextFact['faults']>[number];
/** Those that make formatting throw, and not only look wrong. */
const THROWS = new Set<TextFault['code']>([
  'unclosed-brace',
  'unknown-conversion',
  'unclosed-placeholder',
  'choice-without-other',
  'bad-argument-name',
]);
/** Formatters show it as it stands; that it was meant for something is likely, and no more. */
const HARMLESS = new Set<TextFault['code']>(['unopened-brace']);

/** In ICU a closing brace outside of every argument is text; where braces alone mark what is filled in, it is refused. */
const isHarmless = ({ code }: Fault, { syntax }: CatalogueTextFact): boolean =>
  HARMLESS.has(code) && syntax === 'icu';

/** What the source has too is no fault of the translation: it is told there, or is no placeholder at all. */
const isOfItsSource = (
  text: CatalogueTextFact,
  { code, excerpt }: Fault,
  source: readonly CatalogueTextFact[],
): boolean =>
  !source.includes(text) &&
  source.some(({ faults }) =>
    faults?.some((other) => other.code === code && sameStart(other.excerpt, excerpt)),
  );

/** Of what stands behind it the language may differ. */
const sameStart = (one: string, other: string): boolean => one.slice(0, 2) === other.slice(0, 2);

/** Every text can be formatted: placeholders, braces and plural choices are whole. */
export const messageSyntax = {
  id: 'message-syntax',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const faults = text.faults?.filter(({ code }) => !OF_MARKUP.has(code)) ?? NONE;
      const worst = faults.find(({ code }) => THROWS.has(code)) ?? faults[0];
      if (!worst || isOfItsSource(text, worst, sourceBeside(text, facts, intent))) {
        passed += 1;
        continue;
      }
      yield departure(
        textDraft(text, {
          locale: languageOf(text, intent),
          ...(isHarmless(worst, text) && { basis: 'estimated' as const }),
          severity: THROWS.has(worst.code) ? 2 : 1,
          digest: faults.map(({ code, excerpt }) => `${code} ${excerpt}`).join('; '),
          data: { fault: worst.code, excerpt: worst.excerpt, syntax: text.syntax },
        }),
      );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;
