import type { CatalogueTextFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';
import { findPlaceholders } from './placeholders.ts';

/** Every text that the package holds, by key, locale and form. */
export const observeCatalogue = {
  id: 'catalogue',
  version: 2,
  reads: 'package',
  *observe({ app, digest }) {
    for (const { key, locale, form, text } of app.texts)
      yield {
        kind: 'catalogue-text',
        platform: app.platform,
        evidence: digest,
        key,
        locale,
        form,
        text,
        placeholders: findPlaceholders(text, app.platform),
      } satisfies CatalogueTextFact;
  },
} satisfies PackageObserver;
