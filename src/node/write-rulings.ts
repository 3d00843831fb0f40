/** Adds to `rulings.yaml` without disturbing what people wrote around it. */
import { writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { type Document, isMap, isSeq, parseDocument, type YAMLMap, type YAMLSeq } from 'yaml';
import { UnreadableError } from '../core/model/problem.ts';
import { type Ruling, type RulingsFile, rulingsFileSchema, type SignOff } from '../core/model/ruling.ts';
import { clearStagedIn } from './clear-staged.ts';
import { exists } from './dossier.ts';
import { withFileLock } from './file-lock.ts';
import { hasMergeMarks, parseYaml, readTextFile, readYaml } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const NEW_FILE = `# What people decided about findings and items. Comments are kept; entries are yours to edit.
fenlok: rulings/1
rulings: []
signOffs: []
`;

/** Writes rulings, all or none; an earlier one on the same finding is replaced. */
export const writeRulings = (file: string, rulings: readonly Ruling[]): Promise<void> =>
  changeRulings(file, (document) => {
    for (const ruling of rulings) putEntry(document, 'rulings', ruling);
  });

/** Those of the file; none where there is no file yet. */
export const readRulings = async (file: string): Promise<readonly Ruling[]> =>
  (await exists(file)) ? (await readYaml(file, rulingsFileSchema)).value.rulings : [];

/** Takes a ruling back; the one that it replaced, if there was one, holds again. */
export const withdrawRuling = (file: string, finding: string, before: Ruling | undefined): Promise<void> =>
  changeRulings(file, (document) => {
    if (before) putEntry(document, 'rulings', before);
    else {
      const list = listOf(document, 'rulings');
      list.items = list.items.filter((item) => keyOf(item) !== finding);
    }
  });

/** Writes a sign-off; an earlier one on the same item for the same build is replaced. */
export const writeSignOff = (file: string, signOff: SignOff): Promise<void> =>
  changeRulings(file, (document) => putEntry(document, 'signOffs', signOff));

async function changeRulings(file: string, change: (document: Document) => void): Promise<void> {
  await withFileLock(file, async () => {
    await clearStagedIn(dirname(file));
    // reading by the schema first: a file with a typo is reported, never rewritten
    const document: Document = (await exists(file))
      ? (await readYaml(file, rulingsFileSchema)).document
      : parseDocument(NEW_FILE);
    change(document);
    await writeDocument(file, document);
  });
}

const writeDocument = (file: string, document: Document): Promise<void> =>
  writeDurably(dirname(file), basename(file), (staged) =>
    writeFile(staged, document.toString({ lineWidth: 0 })),
  );

type ListName = 'rulings' | 'signOffs';

function listOf(document: Document, name: ListName): YAMLSeq {
  if (!isSeq(document.get(name))) document.set(name, document.createNode([]));
  const list = document.get(name) as YAMLSeq;
  list.flow = false;
  return list;
}

const keyOf = (node: unknown): string =>
  isMap(node) ? String(node.get('finding') ?? node.get('item') ?? '') : '';
const buildOf = (node: unknown): string => {
  const build = isMap(node) ? node.get('build') : undefined;
  return JSON.stringify(isMap(build) ? build.toJSON() : undefined);
};

/**
 * In the place of the one that it replaces, else in the order of names: two people who add at once add in different places, which
 * merges by itself.
 */
function putNode(document: Document, name: ListName, node: YAMLMap): void {
  const list = listOf(document, name);
  const at = list.items.findIndex((item) => isSameEntry(name, item, node));
  if (at >= 0) {
    list.items[at] = node;
    return;
  }
  const next = list.items.findIndex((item) => keyOf(item) > keyOf(node));
  list.items.splice(next < 0 ? list.items.length : next, 0, node);
}

const putEntry = (document: Document, name: ListName, entry: Ruling | SignOff): void =>
  putNode(document, name, document.createNode(JSON.parse(JSON.stringify(entry))) as YAMLMap);

export interface Settled {
  /** Rulings and sign-offs that either side had. */
  kept: number;
  /** Of two that disagree, the one that gave way; it stands as a comment beside the other. */
  gaveWay: { of: string; by: string; to: string }[];
}

/**
 * Brings the two sides of a merge that git left open together: every decision of either side stays. Of two on one finding the
 * later one holds, of the same day the stricter, and the other is kept as a comment.
 *
 * @throws UnreadableError where there is nothing to settle, or one side by itself cannot be read
 */
export async function settleRulings(file: string): Promise<Settled> {
  return withFileLock(file, async () => {
    const text = await readTextFile(file);
    if (!hasMergeMarks(text))
      throw new UnreadableError({
        code: 'rulings.settled',
        file,
        found: 'no marks of a merge',
        remedy: 'There is nothing to settle.',
      });
    const [ours, theirs] = sidesOf(text).map((side) => parseYaml(file, side, rulingsFileSchema)) as [
      Side,
      Side,
    ];
    const gaveWay: Settled['gaveWay'] = [];
    for (const name of ['rulings', 'signOffs'] as const) {
      const list = listOf(theirs.document, name);
      list.items.forEach((item, i) => {
        // what stands above the first entry belongs to the list, for the parser
        const above = [i === 0 && list.commentBefore, (item as YAMLMap).commentBefore];
        settleEntry(ours.document, name, item as YAMLMap, above.filter(Boolean).join('\n'), gaveWay);
      });
    }
    await writeDocument(file, ours.document);
    const { rulings, signOffs } = (await readYaml(file, rulingsFileSchema)).value;
    return { kept: rulings.length + signOffs.length, gaveWay };
  });
}

interface Side {
  value: RulingsFile;
  document: Document;
}

const STRICTEST = ['real', 'failed', 'accepted', 'inapplicable', 'passed', 'false-alarm'];

function settleEntry(
  document: Document,
  name: ListName,
  theirs: YAMLMap,
  comment: string,
  gaveWay: Settled['gaveWay'],
): void {
  const list = listOf(document, name);
  const own = list.items.find((item) => isSameEntry(name, item, theirs)) as YAMLMap | undefined;
  const before = own?.commentBefore ?? '';
  const known = `${list.commentBefore ?? ''}\n${before}`.split('\n');
  const comments = [before, ...comment.split('\n').filter((line) => !known.includes(line))];
  const disagrees = own && JSON.stringify(own.toJSON()) !== JSON.stringify(theirs.toJSON());
  const stays = own && !(disagrees && rankOf(theirs) > rankOf(own)) ? own : theirs;
  if (stays !== own) putNode(document, name, stays);
  if (disagrees) {
    const goes = stays === own ? theirs : own;
    const said = `${goes.get('ruling') ?? goes.get('outcome')}, ${goes.get('by')}, ${goes.get('at')}: ${goes.get('why')}`;
    comments.push(` gave way: ${said.replaceAll('\n', ' ')}`);
    gaveWay.push({ of: keyOf(own), by: String(goes.get('by')), to: String(stays.get('by')) });
  }
  stays.commentBefore = comments.filter(Boolean).join('\n') || null;
}

const isSameEntry = (name: ListName, one: unknown, other: unknown): boolean =>
  keyOf(one) === keyOf(other) && (name === 'rulings' || buildOf(one) === buildOf(other));

const rankOf = (node: YAMLMap): string =>
  `${node.get('at')} ${STRICTEST.length - STRICTEST.indexOf(String(node.get('ruling') ?? node.get('outcome')))}`;

/** Both versions of a file that git has marked; what both had before is left out. */
function sidesOf(text: string): [string, string] {
  const sides: [string[], string[]] = [[], []];
  let within: 'both' | 'ours' | 'before' | 'theirs' = 'both';
  for (const line of text.split(/\r?\n/)) {
    if (/^<{7}( |$)/.test(line)) within = 'ours';
    else if (/^\|{7}( |$)/.test(line)) within = 'before';
    else if (/^={7}$/.test(line) && within !== 'both') within = 'theirs';
    else if (/^>{7}( |$)/.test(line)) within = 'both';
    else {
      if (within === 'both' || within === 'ours') sides[0].push(line);
      if (within === 'both' || within === 'theirs') sides[1].push(line);
    }
  }
  return [sides[0].join('\n'), sides[1].join('\n')];
}
