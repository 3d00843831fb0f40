import type { CatalogueText } from '../../model/app-package.ts';

/** A text of the package in a language as the platform falls back: that language, without its region, without any. */
export function textFor(
  texts: readonly Pick<CatalogueText, 'form' | 'key' | 'locale' | 'text'>[],
  key: string,
  locale: string,
): string | undefined {
  const [language = ''] = locale.split('-');
  for (const wanted of [locale, language, 'default'])
    for (const text of texts)
      if (text.key === key && text.locale === wanted && text.form === undefined) return text.text;
  return undefined;
}
