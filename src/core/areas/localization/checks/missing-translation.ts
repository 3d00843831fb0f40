import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Assertion, Draft, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import {
  type CatalogueView,
  catalogueViews,
  type Row,
  sourceForm,
  sourceOf,
  targetLocales,
  textsFor,
} from '../texts/catalogue.ts';

const dataSchema = z.strictObject({
  key: z.string(),
  locale: z.string(),
  source: z.string(),
  wholeLocale: z.boolean(),
  textCount: z.number(),
  measured: z.boolean(),
  doubt: z.enum(['code', 'left', 'nowhere']),
});
type Data = z.infer<typeof dataSchema>;

/** Every source text has one of its own in every language; otherwise the user reads the source language there. */
export const missingTranslation = defineCheck({
  id: 'missing-translation',
  area: 'localization',
  priority: 'harder',
  standard: 'Android and Apple localization guides',
  basis: 'either',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ doubt, key, locale, measured, source, textCount, wholeLocale }) =>
    wholeLocale
      ? {
          what: `No text at all in ${locale}`,
          measured: `0 of ${textCount} texts`,
          required: `${locale} is in the intent file's locales`,
          why: 'The package holds no resources for this language: left out of the build, or stripped by a resource filter.',
          remedy: `Add the texts of ${locale}, or take it out of fenlok.yaml.`,
        }
      : {
          what: `${key} is not translated into ${locale}`,
          measured: `no value; the user reads ${quote(source)}`,
          required: `a text of its own in ${locale}`,
          why: measured
            ? 'Other languages have this text, so it is meant to be translated.'
            : doubt === 'left'
              ? 'The languages that have this text leave it as the source has it: it may be a name.'
              : doubt === 'code'
                ? 'It looks like a value for the code, and not like a text for people.'
                : 'No language has this text: it may be the same everywhere on purpose.',
          remedy: measured
            ? `Translate ${key}, or remove it if it is no longer used.`
            : `Translate ${key}, or list it under "untranslated" in fenlok.yaml.`,
        },

  *run(facts, intent) {
    for (const view of facts.once(catalogueViews, intent)) {
      const locales = targetLocales(view, intent);
      const isShipped = (locale: string) =>
        [...view.counts.keys()].some((of) => locale === of || locale.startsWith(`${of}-`));
      // a file of one language is held against the others of its set, not against all that the app ships
      if (view.name === '')
        for (const locale of locales) if (!isShipped(locale)) yield* wholeLocale(locale, view, intent);
      const shipped = locales.filter(isShipped);
      for (const row of view.rows) yield* judgeRow(row, shipped, intent);
    }
  },

  doc: {
    looksAt: 'Every text of the package in every intended language',
    against:
      'The source language, but for texts of libraries. Estimated where no language has the text, where those that do leave it as it is, and for values of lists',
    matters: 'People read the source language in the middle of their own.',
    measured: 'Every text of the source in every language of the intent file, but for texts of libraries.',
    errs: 'Where no language has the text, where those that do leave it as it is, and for values of lists, it is estimated.',
    fixes: [
      {
        where: 'res/values-de/strings.xml',
        language: 'xml',
        code: '<string name="book_now">Jetzt buchen</string>',
      },
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'untranslated: [app_name]   # the same in every language, on purpose',
      },
    ],
  },
});

function* wholeLocale(
  locale: string,
  { rows }: CatalogueView,
  intent: IntentWith,
): Generator<Assertion<Data>> {
  const anySource = rows.map((row) => sourceOf(row, intent)?.[0]).find(Boolean);
  if (anySource)
    yield {
      outcome: 'failed',
      draft: draftOf(anySource, locale, {
        subject: `locale ${locale}`,
        wholeLocale: true,
        measured: true,
        textCount: rows.length,
      }),
    };
}

function* judgeRow(row: Row, locales: string[], intent: IntentWith): Generator<Assertion<Data>> {
  const source = sourceOf(row, intent)?.[0];
  if (!source) return;
  if (isSameEverywhere(source, intent)) {
    yield { outcome: 'inapplicable' };
    return;
  }
  // a region of the source's own language reads the source
  const targets = locales.filter((locale) => !locale.startsWith(`${intent.sourceLocale}-`));
  const missing = targets.filter((locale) => !textsFor(row, locale));
  if (missing.length < targets.length) yield { outcome: 'passed', count: targets.length - missing.length };
  // Packers drop `translatable="false"`: a text that no language has may be the same on purpose.
  // Nor can it be seen of one that those languages which have it leave as it is, or of a value for the code's own use.
  const doubt =
    missing.length === targets.length
      ? 'nowhere'
      : isLeftAsItIs(row, source)
        ? 'left'
        : isCode(source)
          ? 'code'
          : undefined;
  if (!doubt)
    for (const locale of missing)
      yield { outcome: 'failed', draft: draftOf(source, locale, { subject: row.key, measured: true }) };
  else if (missing.length > 0) {
    const into = doubt === 'nowhere' ? 'every language' : missing.join(', ');
    yield { outcome: 'cantTell', draft: draftOf(source, into, { subject: row.key, measured: false, doubt }) };
  }
}

const isLeftAsItIs = ({ byLocale }: Row, { form, text }: CatalogueTextFact): boolean =>
  byLocale.values().every((texts) => sourceForm(texts, form).text === text);

/** An item of a list such as `auto_update_values`: one word of small letters, digits and joints, with no blank. */
const isCode = ({ entry, key, text }: CatalogueTextFact): boolean =>
  entry === 'list' &&
  (/_?(values|entryvalues|keys|ids)$/i.test(key) || /^[a-z0-9]*[\d_.-][a-z0-9_.-]*$/.test(text));

const isSameEverywhere = (
  { key, text, translatable }: CatalogueTextFact,
  { untranslated }: IntentWith,
): boolean =>
  translatable === false ||
  untranslated.includes(key) ||
  !/\p{L}/u.test(text.replace(/%-?\d*\$?[a-z]|\{[^{}]*\}/gi, ''));

interface Of {
  subject: string;
  measured: boolean;
  /** Why it may be meant: no language has it, those that do leave it as it is, or it is a value for the code. */
  doubt?: 'nowhere' | 'left' | 'code';
  wholeLocale?: boolean;
  textCount?: number;
}

const draftOf = (
  source: CatalogueTextFact,
  locale: string,
  { subject, measured, doubt = 'nowhere', wholeLocale = false, textCount = 1 }: Of,
): Draft<Data> => ({
  identity: { subject, aspect: measured || doubt === 'nowhere' ? locale : 'some languages' },
  basis: measured ? 'measured' : 'estimated',
  severity: wholeLocale ? 1000 : measured ? 2 : 1,
  digest: `missing, source ${source.text}`,
  occurrence: {
    evidence: source.evidence,
    shown: source.text,
    data: { key: subject, locale, source: source.text, wholeLocale, textCount, measured, doubt },
  },
});
