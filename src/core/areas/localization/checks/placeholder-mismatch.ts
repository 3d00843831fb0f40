import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { isFilled, quote } from '../../words.ts';
import { type Pair, translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({
  ...textPlaceShape,
  source: z.string(),
  expected: z.array(z.string()),
  found: z.array(z.string()),
  added: z.array(z.string()),
  lost: z.array(z.string()),
  retyped: z.array(z.string()),
  swapped: z.boolean(),
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
type Data = z.infer<typeof dataSchema>;

/** A translation takes the same arguments as its source: none lost, none added, none of another type, none swapped. */
export const placeholderMismatch = defineCheck({
  id: 'placeholder-mismatch',
  area: 'localization',
  priority: 'wrong',
  standard: 'java.util.Formatter; NSString format specifiers; ICU MessageFormat',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: (data) => {
    const { locale, source, swapped, syntax, text } = data;
    const say = (placeholders: readonly string[]) => formatPlaceholders(placeholders, syntax);
    const [expected, found, added, lost, retyped] = [
      say(data.expected),
      say(data.found),
      say(data.added),
      say(data.lost),
      say(data.retyped),
    ];
    return {
      what: `${keyForm(data)} in ${locale} takes other arguments than its source`,
      measured: `${found} in ${quote(text)}${foundAt(data)}`,
      required: `${expected} as in ${quote(source)}`,
      why: swapped
        ? 'The placeholders stand in another order and have no numbers, so each gets the value of another.'
        : [
            isFilled(data.lost) && `${lost} is lost, so the user never sees that value.`,
            isFilled(data.added) && `${added} is given no value, so formatting throws.`,
            isFilled(data.retyped) &&
              `${retyped} has another type than in the source, so formatting throws or writes the number in another form.`,
          ]
            .filter(Boolean)
            .join(' '),
      remedy: swapped
        ? `Number them, here and in the source: ${expected}.`
        : `Put ${expected} into the ${locale} text, where its grammar wants them.`,
    };
  },

  *run(facts, intent) {
    let passed = 0;
    for (const pair of facts.once(translations, intent)) {
      const draft = judgePair(pair);
      if (draft) yield toAssertion(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'The placeholders of every translation',
    against: 'Those of its source, by position and type',
    matters: 'Formatting throws, or people see the value of another placeholder.',
    measured: 'The placeholders of every translation against those of its source, by position and type.',
    errs: 'A plural form for one number may leave the number out.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="ticket_valid">%1$s gilt bis %2$s</string>',
      },
      { where: 'Localizable.strings', language: 'text', code: '"ticket_valid" = "%1$@ gilt bis %2$@";' },
    ],
  },
});

// A form that stands for one number may leave it out: "one seat". Which ones do not, `plural-forms` knows.
const MAY_DROP_NUMBER = /^(.*\/)?(zero|one|two|few|many|=\d+)$/;

const position = (placeholder: string): string => placeholder.slice(0, placeholder.indexOf(':'));

function judgePair({ from, locale, source: forms, text }: Pair): Draft<Data> | undefined {
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

/** `1:s` as the text writes it: `%1$s`; in ICU `name:text` is `{name}`. */
function formatPlaceholders(placeholders: readonly string[], syntax: Data['syntax']): string {
  if (placeholders.length === 0) return 'no placeholder';
  return placeholders
    .map((placeholder) => {
      const [name = '', conversion = ''] = placeholder.split(':');
      if (syntax === 'i18next') return name.startsWith('$t(') ? name : `{{${name}}}`;
      if (syntax === 'icu' || syntax === 'braces') return `{${name}}`;
      return /^\d+$/.test(name) ? `%${name}$${conversion}` : `%(${name})${conversion}`;
    })
    .join(', ');
}
