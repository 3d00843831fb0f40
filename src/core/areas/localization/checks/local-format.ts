/** Money, dates and times on the screens, written as the language writes them (Unicode CLDR, by the platform's own tables). */

import { z } from 'zod';
import type { ScreenTextFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({
  kind: z.enum(['money', 'date', 'time']),
  found: z.string(),
  locale: z.string(),
  /** The same kind of thing, as the language writes it. */
  example: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const localFormat = defineCheck({
  id: 'local-format',
  area: 'localization',
  priority: 'wrong',
  standard: 'Unicode CLDR, numbers and dates',
  basis: 'estimated',
  needs: 'capture',
  reads: ['screen-text'],
  data: dataSchema,
  words: ({ example, found, kind, locale }) => ({
    what: `${quote(found)} is not how ${locale} writes ${WORDS[kind]}`,
    measured: found,
    required: `as in ${quote(example)} (Unicode CLDR)`,
    why: WHY[kind],
    remedy: 'Format it by the language and region of the user, with the platform’s own formatter.',
  }),

  *run(facts) {
    const byLocale = new Map<string, LocalFormats>();
    for (const fact of facts.of('screen-text')) {
      if (fact.isField || fact.from === 'label') continue;
      const { locale } = fact.cell;
      const formats = byLocale.get(locale) ?? new LocalFormats(locale);
      byLocale.set(locale, formats);
      for (const { fits, found, kind } of formats.in(fact.text))
        yield fits ? { outcome: 'passed', cell: fact.cell } : unfit(fact, kind, found);
    }
  },

  doc: {
    looksAt: 'Amounts of money, dates in digits and times with a. m. or p. m. in the texts of every capture',
    against:
      'The decimal mark, the order and marks of dates, and the clock of the language, from Unicode CLDR. Where regions of one language differ and the capture names none, nothing is said. Always estimated',
    matters:
      '“1.234 €” is a thousand euros to a German and one euro to an Irishman; 3/4 is in March or in April.',
    measured:
      'Digits and marks in the texts of the tree, against what the language’s own formatter makes of the same.',
    errs: 'A quotation, a product name or the number of a version may look like a date or an amount.',
    fixes: [
      {
        where: 'Android, Kotlin',
        language: 'kotlin',
        code: 'NumberFormat.getCurrencyInstance(locale).apply { currency = Currency.getInstance("EUR") }.format(amount)',
      },
      { where: 'iOS, Swift', language: 'swift', code: 'amount.formatted(.currency(code: "EUR"))' },
    ],
  },
});

const WORDS: Record<Data['kind'], string> = {
  money: 'amounts of money',
  date: 'dates',
  time: 'times',
};
const WHY: Record<Data['kind'], string> = {
  money: 'Read with the other mark it is another amount.',
  date: 'Read in the other order it is another day.',
  time: 'Readers of this language use the clock of 24 hours.',
};

function unfit(fact: ScreenTextFact, kind: Data['kind'], found: string): Assertion<Data> {
  const { locale } = fact.cell;
  return {
    outcome: 'cantTell',
    cell: fact.cell,
    draft: elementDraft<Data>(fact, {
      basis: 'estimated',
      severity: kind === 'money' ? 2 : 1,
      digest: found.replace(/\d/g, '0'),
      aspect: `${kind} ${locale}`,
      data: { kind, found, locale, example: EXAMPLE[kind](locale) },
    }),
  };
}

const SAMPLE_DAY = new Date(Date.UTC(2026, 10, 23, 18, 40));
const EXAMPLE: Record<Data['kind'], (locale: string) => string> = {
  money: (locale) => new Intl.NumberFormat(locale, { style: 'currency', currency: 'EUR' }).format(17.8),
  date: (locale) => dateFormat(locale).format(SAMPLE_DAY),
  time: (locale) =>
    new Intl.DateTimeFormat(locale, { hour: 'numeric', minute: '2-digit', timeZone: 'UTC' }).format(
      SAMPLE_DAY,
    ),
};

const dateFormat = (locale: string) =>
  new Intl.DateTimeFormat(locale, { year: 'numeric', month: '2-digit', day: '2-digit', timeZone: 'UTC' });

interface Seen {
  kind: Data['kind'];
  found: string;
  fits: boolean;
}

// Currencies by their marks and codes (ISO 4217), as texts of apps have them.
const CURRENCY =
  '(?:[€£¥₩₹₽₺₴]|[A-Z]{0,3}\\$|\\b(?:EUR|USD|GBP|CHF|NOK|SEK|DKK|PLN|CZK|JPY|INR)\\b|\\b(?:kr|zł|Kč|Ft)(?![\\p{L}]))';
const AMOUNT = "\\d[\\d.,\\u00a0\\u202f’' ]*?[.,]\\d{2}(?!\\d|[.,]\\d)";
const MONEY = new RegExp(
  `${CURRENCY}[\\s\\u00a0\\u202f]?(${AMOUNT})|(?<![\\d.,])(${AMOUNT})[\\s\\u00a0\\u202f]?${CURRENCY}`,
  'gu',
);
const DATE = /(?<![\d./-])(\d{4}|\d{1,2})([./-])(\d{1,2})\2(\d{4}|\d{1,2})(?![\d/-]|\.\d)/g;
const TIME = /(?<!\d)\d{1,2}(?:[:.]\d{2})?[\s\u00a0\u202f]?[AaPp]\.?[\s\u00a0]?[Mm]\b\.?/g;

// Their regions differ in it, so that a language alone says nothing.
const MANY_DECIMALS = new Set(['es', 'ar', 'hi', 'zh', 'ms', 'sw']);
const MANY_DATES = new Set(['en', 'es', 'fr', 'ar', 'zh', 'ms', 'sw', 'hi']);
const MANY_CLOCKS = new Set([
  'en',
  'es',
  'ar',
  'hi',
  'ms',
  'sw',
  'zh',
  'ko',
  'pt',
  'bn',
  'ur',
  'ta',
  'el',
  'sq',
  'bg',
]);

/** How one language writes, made once: formatters are slow to make. */
class LocalFormats {
  readonly #hasMoney: boolean;
  readonly #hasDates: boolean;
  readonly #hasClock: boolean;
  readonly #decimalMark: string;
  readonly #dateParts: Intl.DateTimeFormatPart[];

  constructor(locale: string) {
    const [language = '', region] = locale.split('-');
    const hasRegion = region !== undefined && /^([A-Z]{2}|\d{3})$/.test(region);
    this.#hasMoney = hasRegion || !MANY_DECIMALS.has(language);
    this.#hasDates = hasRegion || !MANY_DATES.has(language);
    const { hourCycle } = new Intl.DateTimeFormat(locale, { hour: 'numeric' }).resolvedOptions();
    this.#hasClock = (hasRegion || !MANY_CLOCKS.has(language)) && hourCycle === 'h23';
    const parts = new Intl.NumberFormat(locale).formatToParts(1.5);
    this.#decimalMark = parts.find(({ type }) => type === 'decimal')!.value;
    this.#dateParts = dateFormat(locale).formatToParts(SAMPLE_DAY);
  }

  *in(text: string): Iterable<Seen> {
    if (this.#hasMoney)
      for (const [found, before, after] of text.matchAll(MONEY))
        yield { kind: 'money', found: found.trim(), fits: (before ?? after)!.at(-3) === this.#decimalMark };
    if (this.#hasDates)
      for (const [found, first, mark, middle, last] of text.matchAll(DATE)) {
        // a date has a year of four digits, or is written with two in each part
        const parts = [first!, middle!, last!];
        const isDate = parts.some((part) => part.length === 4) || parts.every((part) => part.length === 2);
        if (isDate) yield { kind: 'date', found, fits: this.#isDate(parts, mark!) };
      }
    if (this.#hasClock)
      for (const [found] of text.matchAll(TIME)) yield { kind: 'time', found: found.trim(), fits: false };
  }

  /** ISO 8601 is meant for machines: a date that nobody formatted, but where it is the custom. */
  #isDate([first, , last]: readonly string[], mark: string): boolean {
    const order = this.#dateParts.filter(({ type }) => type !== 'literal').map(({ type }) => type);
    const marks = this.#dateParts
      .filter(({ type }) => type === 'literal')
      .map(({ value }) => value.trim().charAt(0));
    if (!marks.includes(mark)) return false;
    if (first!.length === 4) return order[0] === 'year';
    if (last!.length === 4) return order[2] === 'year' && !isOutOfOrder(Number(first), order[0]!);
    return true;
  }
}

/** A first part above 12 is a day. */
const isOutOfOrder = (first: number, type: string): boolean => first > 12 && type === 'month';
