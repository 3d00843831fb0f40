/** Durations in a text: a number and a word for days, weeks, months or years, as a language writes them (CLDR, by way of Intl). */
import { parsePeriod } from './period.ts';

const UNITS = ['day', 'week', 'month', 'year'] as const;
type Unit = (typeof UNITS)[number];

/** `3 months`; undefined where there is none. */
export function findDuration(text: string, locale: string): string | undefined {
  const words = UNITS.flatMap((unit) => wordsOf(unit, locale));
  const pattern = new RegExp(
    `\\p{Nd}+[ \\u00a0-]?(?:${words.sort((a, b) => b.length - a.length).join('|')})(?!\\p{L})`,
    'iu',
  );
  return pattern.exec(text)?.[0];
}

// Forms that no number stands beside: "a year", "per year", "yearly".
const STEMS: Readonly<Record<string, Partial<Record<Unit, readonly string[]>>>> = {
  de: { year: ['jahr', 'jähr'], month: ['monat'], week: ['woch', 'wöch'], day: ['tag', 'täg'] },
  nb: { year: ['år'], month: ['måned'], week: ['uke'], day: ['dag'] },
  sv: { year: ['år'], month: ['månad'], week: ['veck'], day: ['dag'] },
  da: { year: ['år'], month: ['måned'], week: ['uge'], day: ['dag'] },
  nl: { year: ['jaar'], month: ['maand'], week: ['week', 'weke'], day: ['dag'] },
  pl: {
    year: ['rok', 'roc', 'rocz', 'lat'],
    month: ['miesi'],
    week: ['tydz', 'tygod'],
    day: ['dzie', 'dni'],
  },
  fr: { year: ['an'], month: ['mois', 'mens'], week: ['semaine', 'hebdo'], day: ['jour'] },
  es: { year: ['año', 'anual'], month: ['mes', 'mens'], week: ['seman'], day: ['día', 'dia'] },
  it: { year: ['ann'], month: ['mes', 'mens'], week: ['settiman'], day: ['giorn'] },
  ar: { year: ['سنة', 'سنو', 'عام'], month: ['شهر'], week: ['أسبوع'], day: ['يوم'] },
};

/** Whether a text names the unit of a period (`P1M`): a month. */
export function namesPeriod(text: string, period: string, locale: string): boolean {
  const unit = parsePeriod(period)?.unit;
  if (!unit) return false;
  const [language = ''] = locale.split('-');
  const lower = text.toLocaleLowerCase(locale);
  return [...wordsOf(unit, locale), ...(STEMS[language]?.[unit] ?? [])].some((word) =>
    lower.includes(word.toLocaleLowerCase(locale)),
  );
}

/** What stands beside a number, in all the plural forms that the language has. */
function wordsOf(unit: Unit, locale: string): string[] {
  const format = new Intl.NumberFormat(locale, { style: 'unit', unit, unitDisplay: 'long' });
  const words = [1, 2, 3, 5, 11, 100].map((n) =>
    format
      .formatToParts(n)
      .flatMap(({ type, value }) => (type === 'unit' ? [value.trim()] : []))
      .join(' '),
  );
  return [...new Set(words)].filter((word) => word.length > 1);
}
