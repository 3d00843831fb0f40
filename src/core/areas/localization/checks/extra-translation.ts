import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { catalogueViews, sourceOf } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, someOf } from '../words.ts';

const dataSchema = z.strictObject({
  ...textPlaceShape,
  locales: z.array(z.string()),
  fromFiles: z.boolean(),
  platform: z.enum(['android', 'ios']),
});

/** Every translated key is one that the source has too. */
export const extraTranslation = defineCheck({
  id: 'extra-translation',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, App resources overview',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ fromFiles, locales, platform, ...place }) => ({
    what: `${place.key} is translated, and the source language does not have it`,
    measured: `only in ${someOf(locales)}: ${quote(place.text)}${foundAt(place)}`,
    required: 'a source text for every key',
    why:
      platform === 'android'
        ? 'On a device in any other language the app crashes where it asks for it.'
        : 'Users of every other language see the bare key, if anything asks for it.',
    remedy: `Add the source text, or delete ${place.key}${fromFiles ? ' from these files' : ''}: mostly it belongs to a text that was renamed.`,
  }),

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
        yield toAssertion(
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

  doc: {
    looksAt: 'Every translated key',
    against: 'The keys of the source language',
    matters: 'On Android the app crashes on devices in every other language, where it asks for the text.',
    measured: 'Every translated key against those of the source language.',
    errs: 'Catalogues of another set that share a folder may belong together; name them alike.',
    fixes: [
      {
        where: 'res/values/strings.xml',
        language: 'xml',
        code: '<string name="old_promo">…</string>  <!-- add the source, or delete the translations -->',
      },
      { where: 'Localizable.strings', language: 'text', code: '/* delete the key from every .lproj */' },
    ],
  },
});
