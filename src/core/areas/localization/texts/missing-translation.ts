import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import type { Assertion, Check, Draft } from '../../check.ts';
import {
  type CatalogueView,
  catalogueViews,
  type Row,
  sourceForm,
  sourceOf,
  targetLocales,
  textsFor,
} from './catalogue.ts';

/** Every source text has one of its own in every language; otherwise the user reads the source language there. */
export const missingTranslation = {
  id: 'missing-translation',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
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
} satisfies Check;

function* wholeLocale(locale: string, { rows }: CatalogueView, intent: Intent): Generator<Assertion> {
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

function* judgeRow(row: Row, locales: string[], intent: Intent): Generator<Assertion> {
  const source = sourceOf(row, intent)?.[0];
  if (!source) return;
  if (isSameEverywhere(source, intent)) {
    yield { outcome: 'inapplicable' };
    return;
  }
  // a region of the source's own language reads the source
  const targets = locales.filter((locale) => !locale.startsWith(`${intent.sourceLocale}-`));
  const lacking = targets.filter((locale) => !textsFor(row, locale));
  if (lacking.length < targets.length) yield { outcome: 'passed', count: targets.length - lacking.length };
  // Packers drop `translatable="false"`: a text that no language has may be the same on purpose.
  // Nor can it be seen of one that those languages which have it leave as it is, or of a value for the code's own use.
  const doubt =
    lacking.length === targets.length
      ? 'nowhere'
      : isLeftAsItIs(row, source)
        ? 'left'
        : isCode(source)
          ? 'code'
          : undefined;
  if (!doubt)
    for (const locale of lacking)
      yield { outcome: 'failed', draft: draftOf(source, locale, { subject: row.key, measured: true }) };
  else if (lacking.length > 0) {
    const into = doubt === 'nowhere' ? 'every language' : lacking.join(', ');
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
  { untranslated }: Intent,
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
): Draft => ({
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
