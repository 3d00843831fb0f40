/** Adds to `rulings.yaml` without disturbing what people wrote around it. */
import { writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { type Document, isMap, isSeq, parseDocument, type YAMLSeq } from 'yaml';
import { type Ruling, rulingsFileSchema, type SignOff } from '../core/model/ruling.ts';
import { clearStagedIn } from './clear-staged.ts';
import { exists } from './dossier.ts';
import { withFileLock } from './file-lock.ts';
import { readYaml } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const NEW_FILE = `# What people decided about findings and items. Comments are kept; entries are yours to edit.
fenlok: rulings/1
rulings: []
signOffs: []
`;

/** Writes rulings, all or none; an earlier one on the same finding is replaced. */
export const writeRulings = (file: string, rulings: readonly Ruling[]): Promise<void> =>
  writeEntries(file, 'rulings', rulings, (entry, ruling) => entry.finding === ruling.finding);

/** Writes a sign-off; an earlier one on the same item for the same build is replaced. */
export const writeSignOff = (file: string, signOff: SignOff): Promise<void> =>
  writeEntries(
    file,
    'signOffs',
    [signOff],
    (entry) => entry.item === signOff.item && JSON.stringify(entry.build) === JSON.stringify(signOff.build),
  );

async function writeEntries<T extends object>(
  file: string,
  list: 'rulings' | 'signOffs',
  added: readonly T[],
  replaces: (entry: Record<string, unknown>, added: T) => boolean,
): Promise<void> {
  await withFileLock(file, async () => {
    await clearStagedIn(dirname(file));
    // reading by the schema first: a file with a typo is reported, never rewritten
    const document: Document = (await exists(file))
      ? (await readYaml(file, rulingsFileSchema)).document
      : parseDocument(NEW_FILE);
    if (!isSeq(document.get(list))) document.set(list, document.createNode([]));
    const entries = document.get(list) as YAMLSeq;
    entries.flow = false;
    for (const entry of added) {
      const node = document.createNode(JSON.parse(JSON.stringify(entry)));
      const at = entries.items.findIndex(
        (item) => isMap(item) && replaces(item.toJS(document) as Record<string, unknown>, entry),
      );
      if (at >= 0) entries.items[at] = node;
      else entries.items.push(node);
    }
    await writeDurably(dirname(file), basename(file), (staged) =>
      writeFile(staged, document.toString({ lineWidth: 0 })),
    );
  });
}
