/** Amounts of money in a text: digits of any script beside a sign, a code or a word of a currency, as a language writes them (CLDR, by way of Intl). */

interface Money {
  /** As it stands there. */
  text: string;
  amount: number;
}

// Where apps are sold most; their signs and words cover what people type into names.
const CURRENCIES =
  'EUR USD GBP JPY CNY INR BRL CAD AUD CHF SEK NOK DKK ISK PLN CZK HUF RON BGN UAH TRY ILS AED SAR EGP MAD ZAR NGN KES MXN COP CLP ARS KRW TWD HKD SGD THB VND IDR MYR PHP RUB NZD'.split(
    ' ',
  );

const patterns = new Map<string, RegExp>();

export function findMoney(text: string, locale: string): Money[] {
  const pattern = patterns.get(locale) ?? patternOf(locale);
  patterns.set(locale, pattern);
  return [...plainText(text).matchAll(pattern)].flatMap(([found, before, after]) => {
    const amount = amountIn(before ?? after ?? '');
    return amount === undefined ? [] : [{ text: found.trim(), amount }];
  });
}

const NUMBER = String.raw`\p{Nd}(?:[\p{Nd}.,'’٫٬ ]*\p{Nd})?`;

function patternOf(locale: string): RegExp {
  const tokens = [...new Set(CURRENCIES.flatMap((currency) => tokensOf(currency, locale)))]
    .sort((a, b) => b.length - a.length)
    .map((token) => token.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'));
  const token = `(?<![\\p{L}])(?:${tokens.join('|')})(?![\\p{L}])`;
  return new RegExp(`(?:${token} ?(${NUMBER})|(${NUMBER}) ?${token})`, 'giu');
}

function tokensOf(currency: string, locale: string): string[] {
  const shown = (currencyDisplay: 'symbol' | 'narrowSymbol' | 'name', amount: number) =>
    new Intl.NumberFormat(locale, { style: 'currency', currency, currencyDisplay })
      .formatToParts(amount)
      .flatMap(({ type, value }) => (type === 'currency' ? [plainText(value)] : []));
  return [
    currency,
    ...shown('symbol', 1),
    ...shown('narrowSymbol', 1),
    ...[1, 2, 5].flatMap((amount) => shown('name', amount)),
  ].filter((token) => token.length > 0);
}

/** Without marks of direction, and with one kind of blank. */
export const plainText = (text: string): string =>
  text.replace(/[\u200e\u200f\u061c\u2066-\u2069]/g, '').replace(/[\u00a0\u202f\u2009]/g, ' ');

/** One or two digits behind the last point or comma are cents; digits of every script count by their value. */
function amountIn(number: string): number | undefined {
  const digits = [...number].map(digitOf).join('');
  const [, whole = digits, cents = ''] = /^(.*)[.,](\d{1,2})$/.exec(digits) ?? [];
  const amount = Number(`${whole.replace(/\D/g, '')}.${cents || 0}`);
  return Number.isFinite(amount) ? amount : undefined;
}

function digitOf(char: string): string {
  if (char === '٫') return '.';
  if (!/\p{Nd}/u.test(char)) return char;
  // decimal digits stand in runs of ten, each beginning with its zero
  let zero = char.codePointAt(0)!;
  while (/\p{Nd}/u.test(String.fromCodePoint(zero - 1)) && char.codePointAt(0)! - zero < 9) zero -= 1;
  return String(char.codePointAt(0)! - zero);
}
