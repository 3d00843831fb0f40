import { z } from 'zod';
import type { TextFault } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { languageOf, sourceBeside } from '../texts/catalogue.ts';
import { ownTexts } from '../texts/own-texts.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

// The tags of a text are `markup-mismatch`'s.
const OF_MARKUP = new Set<TextFault['code']>(['unclosed-tag', 'unopened-tag']);
const NONE: readonly Fault[] = [];
type Fault = NonNullable<CatalogueTextFact['faults']>[number];
const dataSchema = z.strictObject({
  ...textPlaceShape,
  fault: z.enum([
    'unclosed-placeholder',
    'unknown-conversion',
    'bare-percent',
    'unclosed-brace',
    'unopened-brace',
    'empty-argument',
    'bad-argument-name',
    'unknown-argument-type',
    'choice-without-other',
    'quoted-placeholder',
    'unclosed-tag',
    'unopened-tag',
  ]),
  excerpt: z.string(),
  syntax: z.enum([
    'printf-java',
    'printf-apple',
    'printf-c',
    'percent-python',
    'braces',
    'icu',
    'i18next',
    'plain',
  ]),
});

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
export const messageSyntax = defineCheck({
  id: 'message-syntax',
  area: 'localization',
  priority: 'wrong',
  standard: 'java.util.Formatter; NSString format specifiers; ICU MessageFormat',
  basis: 'either',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ excerpt, fault, syntax, ...place }) => {
    const [why, remedy] = formatFault(fault, syntax);
    return {
      what: `${keyForm(place)} in ${place.locale} cannot be formatted as it stands`,
      measured: `${quote(excerpt)} in ${quote(place.text)}${foundAt(place)}`,
      required: 'whole placeholders',
      why,
      remedy,
    };
  },

  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const faults = text.faults?.filter(({ code }) => !OF_MARKUP.has(code)) ?? NONE;
      const worst = faults.find(({ code }) => THROWS.has(code)) ?? faults[0];
      if (!worst || isOfItsSource(text, worst, sourceBeside(text, facts, intent))) {
        passed += 1;
        continue;
      }
      yield toAssertion(
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

  doc: {
    looksAt: 'Placeholders, braces and choices of every text',
    against: 'Java.util.Formatter, NSString, ICU MessageFormat',
    matters: 'Formatting throws, and the screen with it.',
    measured: 'Placeholders, braces and choices of every text, by the rules of its format.',
    errs: 'A text that is never formatted may hold what looks like a placeholder.',
    fixes: [
      { where: 'strings.xml', language: 'xml', code: '<string name="progress">%1$d%% done</string>' },
      { where: 'Localizable.strings', language: 'text', code: '"progress" = "%1$d%% done";' },
    ],
  },
});

const FORMATTERS: Record<string, string> = {
  'printf-apple': 'NSString',
  'printf-c': 'printf',
  'percent-python': 'Python',
};

/** Why a fault of syntax matters, and what to do. */
function formatFault(fault: string, syntax: string): [why: string, remedy: string] {
  switch (fault) {
    case 'unclosed-placeholder':
      return [
        'The placeholder ends before it says what it is, so formatting throws.',
        'Write it whole, as %1$s or %1$d.',
      ];
    case 'unknown-conversion':
      return [
        `${FORMATTERS[syntax] ?? 'java.util.Formatter'} knows no such conversion, so formatting throws or shows it as it is.`,
        syntax === 'printf-apple'
          ? 'Write one that it knows: @, d or f.'
          : 'Write one that it knows: s, d or f.',
      ];
    case 'bare-percent':
      return [
        'The text is formatted, since it has placeholders: a percent sign alone is taken for the beginning of one.',
        'Write %% for a percent sign.',
      ];
    case 'unclosed-brace':
      return ['The brace is never closed, so that the message cannot be read at all.', 'Close it.'];
    case 'unopened-brace':
      return ['The brace closes nothing.', "Delete it, or quote it as '}'."];
    case 'bad-argument-name':
      return [
        'The name of an argument may hold letters, digits and _ alone: formatters refuse the whole message.',
        'Give the argument another name, here and in the code.',
      ];
    case 'choice-without-other':
      return [
        'A choice without "other" has no text for values that it does not name, and is refused.',
        'Add other {…}.',
      ];
    case 'quoted-placeholder':
      return [
        'An apostrophe before a brace quotes what follows, so that the user sees the name of the argument.',
        "Write '' for an apostrophe, or take the quotes away.",
      ];
    default:
      return [
        'Formatters refuse it, or show it as it is.',
        'Write the argument as {name}, or {name, number}.',
      ];
  }
}
