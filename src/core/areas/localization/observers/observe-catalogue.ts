import type { CatalogueText } from '../../../model/app-package.ts';
import type { EntryKind } from '../../../model/catalogue.ts';
import { isPseudoLocale } from '../../../model/locale.ts';
import type { PackageObserver } from '../../observer.ts';
import { textFact } from '../texts/text-fact.ts';

/** Every text that the package holds, by key, locale and form. */
export const observeCatalogue = {
  id: 'catalogue',
  reads: 'package',
  *observe({ app, digest }) {
    const syntax = app.platform === 'ios' ? 'printf-apple' : 'printf-java';
    for (const of of app.texts) {
      const { file, form, key, line, locale, text } = of;
      if (isPseudoLocale(locale)) continue;
      yield textFact({
        platform: app.platform,
        evidence: digest,
        catalogue: '',
        key,
        entry: entryOf(of),
        locale,
        form,
        text,
        syntax,
        file,
        line,
      });
    }
  },
} satisfies PackageObserver;

const entryOf = ({ form, key }: CatalogueText): EntryKind =>
  form === undefined ? 'text' : key.startsWith('array/') ? 'list' : 'plural';
