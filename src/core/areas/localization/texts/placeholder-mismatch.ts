import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Check, Draft } from '../../check.ts';
import { type Pair, translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** A translation takes the same arguments as its source: none lost, none added, none of another type, none swapped. */
export const placeholderMismatch = {
  id: 'placeholder-mismatch',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const pair of facts.once(translations, intent)) {
      const draft = judgePair(pair);
      if (draft) yield departure(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

// A form that stands for one number may leave it out: "one seat". Which ones do not, `plural-forms` knows.
const MAY_DROP_NUMBER = /^(.*\/)?(zero|one|two|few|many|=\d+)$/;

const position = (placeholder: string): string => placeholder.slice(0, placeholder.indexOf(':'));

function judgePair({ from, locale, source: forms, text }: Pair): Draft | undefined {
  const { placeholders: found } = text;
  const { placeholders: expected } = from;
  // an empty text is another check's
  if ((found.length === 0 && expected.length === 0) || !/\S/.test(text.text)) return undefined;
  const has = (of: readonly string[], placeholder: string) =>
    of.some((other) => position(other) === position(placeholder));
  // what one form of the source leaves out, another may give: "one seat", "%1$d seats"
  const given = text.form === undefined ? expected : forms.flatMap(({ placeholders }) => placeholders);
  const added = found.filter((placeholder) => !has(given, placeholder));
  const retyped = found.filter(
    (placeholder) =>
      !given.includes(placeholder) && has(given, placeholder) && !isSameArgument(placeholder, given, text),
  );
  const mayDrop = text.form !== undefined && MAY_DROP_NUMBER.test(text.form);
  const lost = expected
    .filter((placeholder) => !has(found, placeholder))
    .filter(
      (placeholder) =>
        !(mayDrop && (isNumber(placeholder, text) || isLastNumber(placeholder, expected, text))),
    );
  if (added.length + lost.length + retyped.length === 0) return undefined;
  // the same kinds in another order, and nothing says which is which
  const swapped = text.unnumbered === true && sameKinds(found, expected);
  return textDraft(text, {
    locale,
    // more arguments than the code gives, or of another type, throw at run time; a lost one only drops a value
    severity: added.length > 0 ? 3 : retyped.length > 0 ? 2 : 1,
    digest: `${expected.join(' ')} → ${found.join(' ')}`,
    data: { source: from.text, expected, found, added, lost, retyped, swapped, syntax: text.syntax },
  });
}

/** In ICU a number may be chosen by, formatted, or written as it is: one language has no other form for it. */
const isSameArgument = (
  placeholder: string,
  given: readonly string[],
  { syntax }: CatalogueTextFact,
): boolean =>
  syntax === 'icu' &&
  !placeholder.endsWith(':date') &&
  given.some((other) => position(other) === position(placeholder) && !other.endsWith(':date'));

/** In C whatever comes last may be left out, and any number may be what the plural is chosen by. */
const isLastNumber = (
  placeholder: string,
  expected: readonly string[],
  { syntax }: CatalogueTextFact,
): boolean =>
  syntax === 'printf-c' && placeholder === expected.at(-1) && /:(hh|h|l|ll|j|z|t)?[diu]$/.test(placeholder);

/** What a plural is chosen by: the first argument, or in ICU any by its name. */
export const isNumber = (placeholder: string, { syntax }: Pick<CatalogueTextFact, 'syntax'>): boolean =>
  syntax === 'icu' ||
  (syntax === 'i18next' && placeholder === 'count:text') ||
  /^1:(d|u|@|ld|lu|lld|llu|zu|jd|ju)$/.test(placeholder);

function sameKinds(a: readonly string[], b: readonly string[]): boolean {
  const kinds = (of: readonly string[]) => of.map((placeholder) => placeholder.split(':')[1]).sort();
  return kinds(a).join() === kinds(b).join();
}
