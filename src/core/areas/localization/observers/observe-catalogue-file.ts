import type { CatalogueEntry, CatalogueFormat } from '../../../model/catalogue.ts';
import type { UnreadPartFact } from '../../../model/fact.ts';
import { isPseudoLocale } from '../../../model/locale.ts';
import type { CatalogueObserver } from '../../observer.ts';
import { textFact } from '../texts/text-fact.ts';

/** Every text of a catalogue file, and what of the file could not be read. */
export const observeCatalogueFile = {
  id: 'catalogue-file',
  reads: 'catalogue',
  *observe({ catalogue, digest, file, name, platform }) {
    const { entries, format, problems, syntax } = catalogue;
    for (const { expected = '', found, place = '', remedy = '' } of problems)
      yield {
        kind: 'unread-part',
        platform,
        evidence: digest,
        place: place.includes(file) ? place : `${file}: ${place}`,
        found,
        expected,
        remedy,
      } satisfies UnreadPartFact;
    for (const entry of entries.filter(({ locale }) => !isPseudoLocale(locale)))
      for (const { form, line, numbers, reference, swallowed, text } of entry.forms)
        yield textFact({
          platform,
          evidence: digest,
          catalogue: name,
          key: keyOf(entry, format),
          entry: entry.kind,
          locale: entry.locale,
          form: form === '' ? undefined : form,
          text,
          syntax: entry.syntax ?? syntax,
          swallowed,
          neededForms: entry.neededForms,
          numbers,
          reference: reference === text,
          translatable: entry.translatable,
          file,
          line,
        });
  },
} satisfies CatalogueObserver;

/** As the package's own texts are named, so that a finding on either is one. */
function keyOf({ key, kind, product }: CatalogueEntry, format: CatalogueFormat): string {
  if (format !== 'android-strings') return key;
  const name = product ? `${key} (${product})` : key;
  return kind === 'text' ? name : `${kind === 'plural' ? 'plurals' : 'array'}/${name}`;
}
