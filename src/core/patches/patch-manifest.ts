/**
 * A component of the manifest: a category that its link filter lacks, and whether other apps may start it. What the checks say of the
 * package with it is tried before it is proposed.
 */
import type { LinkFilter } from '../model/app-package.ts';
import type { Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { NoPatch, Patch, SourceFile } from '../model/patch.ts';
import { BROWSABLE, DEFAULT } from '../platform/links/link-filter.ts';
import { troubleWith } from './judge-again.ts';
import { descendants, insertAfter, withAttribute, type XmlPlace, xmlPlaces } from './xml-places.ts';

const CATEGORIES: Readonly<Record<string, string>> = { browsable: BROWSABLE, default: DEFAULT };
const COMPONENTS = ['activity', 'activity-alias', 'service', 'receiver', 'provider'];

export const canPatchManifest = (check: string): boolean =>
  check === 'closed-link-filter' || check === 'needless-export';

/**
 * @param finding of a check that `canPatchManifest`
 * @param files every AndroidManifest.xml under the source
 * @param facts of the candidate
 */
export function patchManifest(
  finding: Finding,
  files: readonly SourceFile[],
  facts: readonly Fact[],
  intent: Intent,
): Patch | NoPatch {
  const { data } = finding.occurrences[0]!;
  const component = String(data.component);
  const appId = facts.find((fact) => fact.kind === 'package')?.build.appId ?? '';
  const places = files.flatMap((file) => componentsIn(file, component, appId));
  if (places.length !== 1)
    return {
      why:
        places.length === 0
          ? `no manifest under the source declares ${component}`
          : `${component} is declared in ${places.map(({ file }) => file.path).join(' and ')}`,
    };
  const [{ element, file }] = places as [Place];
  const change =
    finding.check === 'needless-export'
      ? exported(file.text, element, false)
      : opened(file.text, element, data.lacks as string[], filterOf(facts, component, Number(data.position)));
  if ('why' in change) return change;
  const after = facts.map((fact) => change.of(fact, component, Number(data.position)));
  const trouble = troubleWith(
    finding.id,
    { before: facts, after, kinds: ['link-filter', 'component'] },
    intent,
  );
  if (trouble) return { why: trouble };
  return {
    edits: [{ path: file.path, before: file.text, after: change.text }],
    facts: after,
    says: `${component}: ${change.says}`,
    proof:
      'the checks that read filters and components pass it, and find nothing new. What the component does with arguments from outside shows only in a rebuilt app.',
  };
}

interface Place {
  file: SourceFile;
  element: XmlPlace;
}

/** By its name as the manifest shortens it: `.Main`, `Main`, `example.app.Main`. */
function componentsIn(file: SourceFile, component: string, appId: string): Place[] {
  const root = xmlPlaces(file.text);
  if (!root) return [];
  // a build tool may give the package, whose name the app id begins with
  const isNamespace = (prefix: string) =>
    root.attributes.package ? prefix === root.attributes.package : `${appId}.`.startsWith(`${prefix}.`);
  return [...descendants(root)].flatMap((element) => {
    const name = element.attributes['android:name'] ?? '';
    const short = name.includes('.') ? name : `.${name}`;
    const isIt =
      name === component ||
      (short.startsWith('.') && component.endsWith(short) && isNamespace(component.slice(0, -short.length)));
    return isIt && COMPONENTS.includes(element.name) ? [{ file, element }] : [];
  });
}

const filterOf = (facts: readonly Fact[], component: string, position: number): LinkFilter | undefined =>
  facts.find(
    (fact) => fact.kind === 'link-filter' && fact.component === component && fact.position === position,
  ) as LinkFilter | undefined;

interface Change {
  text: string;
  says: string;
  /** The fact as it is with the change. */
  of(fact: Fact, component: string, position: number): Fact;
}

function exported(text: string, element: XmlPlace, value: boolean): Change | NoPatch {
  const changed = withAttribute(text, element, ['android:exported', String(value)], 'android:name');
  if (changed === undefined) return { why: 'its attributes cannot be read as text' };
  return {
    text: changed,
    says: `android:exported="${value}"`,
    of: (fact, component) =>
      (fact.kind === 'link-filter' || fact.kind === 'component') && fact.component === component
        ? { ...fact, exported: value }
        : fact,
  };
}

function opened(
  text: string,
  element: XmlPlace,
  lacks: readonly string[],
  filter: LinkFilter | undefined,
): Change | NoPatch {
  if (lacks.includes('enabled'))
    return { why: 'the component is switched off: whether it is to be on is for you to say' };
  const missing = lacks.flatMap((lack) => CATEGORIES[lack] ?? []);
  const changes: Change[] = [];
  if (missing.length > 0) {
    const places = element.children.filter((child) => filter && isFilter(child, filter));
    if (places.length !== 1)
      return {
        why: 'its filter was not recognised in the source manifest, which may use placeholders',
      };
    changes.push(withCategories(text, places[0]!, missing));
  }
  // the tag of the component stands before its filters, so that their places are changed first
  if (lacks.includes('exported')) {
    const change = exported(changes[0]?.text ?? text, element, true);
    if ('why' in change) return change;
    changes.push(change);
  }
  return {
    text: changes.at(-1)!.text,
    says: changes.map(({ says }) => says).join(', '),
    of: (fact, component, position) =>
      changes.reduce((changed, change) => change.of(changed, component, position), fact),
  };
}

function isFilter({ children, name }: XmlPlace, { filter }: LinkFilter): boolean {
  if (name !== 'intent-filter') return false;
  const all = (tag: string, attribute: string) =>
    children.flatMap((child) => (child.name === tag ? (child.attributes[attribute] ?? []) : []));
  const isSame = (a: readonly string[], b: readonly string[]) =>
    JSON.stringify([...new Set(a)].sort()) === JSON.stringify([...new Set(b)].sort());
  return (
    isSame(all('action', 'android:name'), filter.actions) &&
    isSame(all('category', 'android:name'), filter.categories) &&
    isSame(all('data', 'android:scheme'), filter.schemes) &&
    isSame(
      all('data', 'android:host'),
      filter.authorities.map(({ host }) => host),
    )
  );
}

function withCategories(text: string, place: XmlPlace, categories: readonly string[]): Change {
  const anchor =
    place.children.findLast(({ name }) => name === 'category') ??
    place.children.findLast(({ name }) => name === 'action')!;
  const xml = categories.map((category) => `<category android:name="${category}" />`);
  return {
    // from behind, so that each comes behind the anchor in its order
    text: xml.toReversed().reduce((changed, one) => insertAfter(changed, anchor, one), text),
    says: `${categories.map((category) => category.split('.').at(-1)).join(' and ')} in its filter`,
    of: (fact, component, position) =>
      fact.kind === 'link-filter' && fact.component === component && fact.position === position
        ? { ...fact, filter: { ...fact.filter, categories: [...fact.filter.categories, ...categories] } }
        : fact,
  };
}
