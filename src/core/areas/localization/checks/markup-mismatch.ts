import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { type DataValue, quote, textsOf } from '../../words.ts';
import { catalogueViews, languageOf, translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.union([
  z.strictObject({
    ...textPlaceShape,
    fault: z.literal('differing'),
    lost: z.array(z.string()),
    added: z.array(z.string()),
    source: z.string(),
  }),
  z.strictObject({
    ...textPlaceShape,
    fault: z.enum(['unclosed-tag', 'unopened-tag']),
    excerpt: z.string(),
  }),
]);
type Data = z.infer<typeof dataSchema>;

/** Markup is closed where it is opened, and a translation has that of its source. */
export const markupMismatch = defineCheck({
  id: 'markup-mismatch',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, Styling with HTML markup; XLIFF 1.2 inline elements',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: (data) =>
    data.fault === 'differing'
      ? {
          what: `${keyForm(data)} in ${data.locale} has other markup than its source`,
          measured: `${[data.lost.length > 0 && `lost ${formatTags(data.lost)}`, data.added.length > 0 && `added ${formatTags(data.added)}`].filter(Boolean).join(', ')} in ${quote(data.text)}${foundAt(data)}`,
          required: `the markup of ${quote(data.source)}`,
          why: 'What was bold or a link in the source is plain here, and a link that is gone cannot be tapped.',
          remedy: 'Set the tags around the words that they belong to.',
        }
      : {
          what: `${keyForm(data)} in ${data.locale} has markup that is not ${data.fault === 'unclosed-tag' ? 'closed' : 'opened'}`,
          measured: `${quote(data.excerpt)} in ${quote(data.text)}${foundAt(data)}`,
          required: 'an end for every tag',
          why: 'What renders it shows the tag as text, or styles everything up to the end.',
          remedy: `${data.fault === 'unclosed-tag' ? 'Close' : 'Open or delete'} ${data.excerpt}.`,
        },

  *run(facts, intent) {
    let passed = 0;
    for (const { rows } of facts.once(catalogueViews, intent))
      for (const { byLocale } of rows)
        for (const text of byLocale.get('default') ?? byLocale.get(intent.sourceLocale) ?? []) {
          const draft = unbalanced(text, languageOf(text, intent));
          if (draft) yield toAssertion(draft);
        }
    for (const { from, locale, text } of facts.once(translations, intent)) {
      const draft =
        text.tags || from.tags ? (unbalanced(text, locale) ?? differing(text, from, locale)) : undefined;
      if (draft) yield toAssertion(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'Tags in texts',
    against: 'Balanced, and those of the source',
    matters: 'What was bold or a link in the source is plain, or the tag itself is shown.',
    measured: 'Tags of each text, balanced, and against those of the source.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="terms">Es gelten die <b>Bedingungen</b>.</string>',
      },
    ],
  },
});

function unbalanced(text: CatalogueTextFact, locale: string): Draft<Data> | undefined {
  const fault = text.faults?.find(({ code }) => code === 'unclosed-tag' || code === 'unopened-tag');
  if (fault?.code !== 'unclosed-tag' && fault?.code !== 'unopened-tag') return undefined;
  return textDraft(text, {
    locale,
    severity: 2,
    digest: `${fault.code} ${fault.excerpt}`,
    data: { fault: fault.code, excerpt: fault.excerpt },
  });
}

function differing(
  text: CatalogueTextFact,
  source: CatalogueTextFact,
  locale: string,
): Draft<Data> | undefined {
  const [expected, found] = [source, text].map(({ tags = [] }) => tags.filter((tag) => !tag.startsWith('/')));
  const without = (of: readonly string[], others: readonly string[]) => {
    const left = [...others];
    return of.filter((tag) => {
      const at = left.indexOf(tag);
      if (at >= 0) left.splice(at, 1);
      return at < 0;
    });
  };
  const lost = without(expected!, found!);
  const added = without(found!, expected!);
  if (lost.length + added.length === 0) return undefined;
  return textDraft(text, {
    locale,
    severity: 1,
    digest: `lost ${lost.join(' ')}, added ${added.join(' ')}`,
    data: { fault: 'differing', lost, added, source: source.text },
  });
}

const formatTags = (tags: DataValue): string =>
  textsOf(tags)
    .map((tag) => `<${tag}>`)
    .join(' ');
