/** A plural of `strings.xml` that lacks forms: their places, with the text of "other" in them, to be worded by who knows the language. */
import { textFact } from '../areas/localization/texts/text-fact.ts';
import { localeOfPath } from '../formats/catalogues/read-catalogue.ts';
import type { CatalogueTextFact, Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';
import { troubleWith } from './judge-again.ts';
import { descendants, insertAfter, type XmlPlace, xmlPlaces } from './xml-places.ts';

export const canPatchPlural = (check: string): boolean => check === 'plural-forms';

/**
 * @param finding of `plural-forms`
 * @param files every XML file of `values` folders under the source
 * @param facts of the candidate
 */
export function patchPlural(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { fault, key, locale, missing } = finding.occurrences[0]!.data as {
    fault: string;
    key: string;
    locale: string;
    missing?: string[];
  };
  if (fault !== 'missing' || !missing) return { why: 'where the number belongs is for a translator to say' };
  // what has no language in its name is in that of the source
  const isOf = (own: string) => own === locale || (own === 'default' && locale === intent.sourceLocale);
  const places = files.flatMap((file) => (isOf(localeOfPath(file.path)) ? pluralsIn(file, key) : []));
  if (places.length !== 1)
    return {
      why:
        places.length === 0
          ? `no values file under the source gives ${key} in ${locale}`
          : `${key} is given in ${places.map(({ file }) => file.path).join(' and ')}`,
    };
  const [{ file, plural }] = places as [Place];
  const items = plural.children.filter(({ name }) => name === 'item');
  const model = items.find(({ attributes }) => attributes.quantity === 'other') ?? items.at(-1);
  if (!model) return { why: `${key} has no form that could be copied` };
  const raw = file.text.slice(model.open.end, model.end - '</item>'.length);
  // "other" comes last
  const anchor = items.findLast((item) => item !== model) ?? model;
  const after = missing
    .toReversed()
    .reduce(
      (text, quantity) => insertAfter(text, anchor, `<item quantity="${quantity}">${raw}</item>`),
      file.text,
    );
  const forms = facts.filter(
    (fact): fact is CatalogueTextFact =>
      fact.kind === 'catalogue-text' && fact.key === key && fact.entry === 'plural' && isOf(fact.locale),
  );
  const form = forms.find((fact) => fact.form === 'other') ?? forms.at(-1);
  if (!form) return { why: 'its forms are not among what was measured' };
  const added = missing.map((quantity) => textFact({ ...form, form: quantity }));
  const factsAfter = [...facts, ...added];
  const trouble = troubleWith(
    finding.id,
    { before: facts, after: factsAfter, kinds: ['catalogue-text'] },
    intent,
  );
  if (trouble) return { why: trouble };
  return {
    edits: [{ path: file.path, before: file.text, after }],
    facts: factsAfter,
    says: `${key} in ${locale} gets ${missing.join(' and ')}`,
    proof: `no number falls back any more. Each is a copy of “${form.form}”: word it, since the grammar is not known here.`,
  };
}

interface Place {
  file: SourceFile;
  plural: XmlPlace;
}

function pluralsIn(file: SourceFile, key: string): Place[] {
  const root = xmlPlaces(file.text);
  if (!root) return [];
  return [...descendants(root)].flatMap((plural) =>
    plural.name === 'plurals' && `plurals/${plural.attributes.name}` === key ? [{ file, plural }] : [],
  );
}
