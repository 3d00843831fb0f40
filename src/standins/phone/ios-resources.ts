/** Texts of an iOS app on the phone: the localization that the system picks, formats filled in as NSString does. */
import type { AppPackage } from '../../core/model/app-package.ts';
import { selectLocalization } from '../../core/platform/apple/select-localization.ts';
import type { InstalledResources } from './resources.ts';

/** @param drawn gives colours and drawings */
export function installTexts(app: AppPackage, drawn: InstalledResources): InstalledResources {
  const byLocale = new Map<string, Map<string, string>>();
  for (const { form = '', key, locale, text } of app.texts) {
    const texts = byLocale.get(locale) ?? new Map<string, string>();
    byLocale.set(locale, texts.set(`${key}|${form}`, text));
  }
  const locales = [...byLocale.keys()].filter((locale) => locale !== 'default');
  const region = app.ios?.info.CFBundleDevelopmentRegion;
  const fallback = typeof region === 'string' ? region : 'en';
  const textOf = (key: string, form: string, locale: string): string | undefined => {
    const chosen = selectLocalization([...locales, fallback], [locale], fallback);
    const texts = byLocale.get(chosen) ?? byLocale.get('default');
    return texts?.get(`${key}|${form}`) ?? texts?.get(`plurals/${key}|${form}`);
  };
  return {
    ...drawn,
    // a key that is not found is shown itself, as the platform does
    string: (key, { locale }, args) => fillIn(textOf(key, '', locale) ?? key, locale, args),
    plural: (key, count, { locale }, args) => {
      const form = new Intl.PluralRules(locale).select(count);
      const text = textOf(key, form, locale) ?? textOf(key, 'other', locale) ?? key;
      return fillIn(text, locale, [count, ...args]);
    },
  };
}

function fillIn(template: string, locale: string, args: readonly (string | number)[]): string {
  let next = 0;
  return template.replace(
    /%(?:(\d+)\$)?(@|d|ld|lu|%)/g,
    (_, position: string | undefined, conversion: string) => {
      if (conversion === '%') return '%';
      const arg = args[position ? Number(position) - 1 : next++];
      return typeof arg === 'number'
        ? new Intl.NumberFormat(locale, { useGrouping: false }).format(arg)
        : String(arg ?? '(null)');
    },
  );
}
