/** The texts that the team answers for: those of the package without what libraries brought along. */
import type { AppPackage, CatalogueText } from '../../../model/app-package.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { libraryOf } from '../../../platform/android/library-resources.ts';
import type { FactIndex } from '../../check.ts';

/** Use with `facts.once`. Files that were added are the team's whatever they hold. */
export function ownTexts(facts: FactIndex<'catalogue-text'>): CatalogueTextFact[] {
  const texts = facts.of('catalogue-text');
  const ofPackage = texts.filter(({ catalogue, platform }) => catalogue === '' && platform === 'android');
  const isLibrary = libraryTest(ofPackage);
  return texts.filter(
    ({ catalogue, key, platform }) => catalogue !== '' || platform !== 'android' || !isLibrary(key),
  );
}

export function ownTextsOf({ platform, texts }: AppPackage): CatalogueText[] {
  if (platform !== 'android') return texts;
  const isLibrary = libraryTest(texts);
  return texts.filter(({ key }) => !isLibrary(key));
}

/** Each key is looked up once, however many languages have it. */
function libraryTest(
  texts: readonly { key: string; locale: string; text: string }[],
): (key: string) => boolean {
  const source = new Map<string, string>();
  for (const { key, locale, text } of texts) if (locale === 'default') source.set(key, text);
  const known = new Map<string, boolean>();
  return (key) => {
    const is = known.get(key) ?? libraryOf(key, source.get(key)) !== undefined;
    known.set(key, is);
    return is;
  };
}
