import type { Check } from '../../check.ts';
import { catalogueViews, sourceOf } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** Every translated key is one that the source has too. */
export const extraTranslation = {
  id: 'extra-translation',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    for (const { name, rows, counts } of facts.once(catalogueViews, intent)) {
      // a set of files without the source's own says nothing about it
      if (!counts.has(intent.sourceLocale) && !counts.has('default')) continue;
      let passed = 0;
      for (const row of rows) {
        // the source of these stands in Info.plist
        if (sourceOf(row, intent) || row.key.startsWith('InfoPlist/')) {
          passed += 1;
          continue;
        }
        const locales = [...row.byLocale.keys()];
        const [text] = row.byLocale.get(locales[0]!)!;
        yield departure(
          textDraft(
            { ...text!, form: undefined },
            {
              locale: 'no source',
              severity: locales.length,
              digest: 'no source',
              data: { locales, fromFiles: name !== '', platform: text!.platform },
            },
          ),
        );
      }
      yield { outcome: 'passed', count: passed };
    }
  },
} satisfies Check;
