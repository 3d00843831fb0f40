// What facts are kept by: for each sort of evidence one digest of the compiled code that reads and measures it, of all that this
// code imports, and of the versions of the packages that it loads. Whatever is changed there, facts are measured again.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { root } from './setup.mjs';

/** What reads each sort of evidence; what measures it is told by `reads` in the observers. */
const READERS = {
  package: ['core/formats/package.js', 'core/checklist/facts-of-package.js'],
  capture: ['core/formats/capture.js', 'node/measure-capture.js'],
  catalogue: ['core/formats/catalogues/read-catalogue.js'],
  site: ['core/formats/site-file.js'],
  payload: ['core/formats/push-payload.js'],
  sale: ['core/formats/store/read-sale.js'],
  listing: ['core/model/listing.js'],
  reviews: ['node/reviews.js'],
  log: ['node/logs.js', 'node/symbols.js'],
  symbols: ['core/model/symbols.js'],
  trace: ['core/formats/trace.js'],
  // pieces of pictures for the report
  cut: ['node/cut-picture.js'],
};

/** @returns a digest for each sort of evidence, in hex */
export function evidenceKeys(folder, readers = READERS, observers = observersIn(folder)) {
  return Object.fromEntries(
    Object.entries(readers).map(([evidence, entries]) => [
      evidence,
      digestOf(folder, [...entries, ...(observers[evidence] ?? [])]),
    ]),
  );
}

/** Writes them beside the compiled code. */
export function writeEvidenceKeys(folder) {
  writeFileSync(join(folder, 'evidence-keys.json'), `${JSON.stringify(evidenceKeys(folder), null, 2)}\n`);
}

function observersIn(folder) {
  const found = {};
  const areas = join(folder, 'core/areas');
  for (const area of readdirSync(areas).sort()) {
    const own = join(areas, area, 'observers');
    if (!existsSync(own)) continue;
    for (const name of readdirSync(own).sort()) {
      if (!name.endsWith('.js')) continue;
      const evidence = /^ {4}reads: '(\w+)',$/m.exec(readFileSync(join(own, name), 'utf8'))?.[1];
      if (!evidence) throw new Error(`${join(own, name)} does not say what it reads`);
      found[evidence] = [...(found[evidence] ?? []), `core/areas/${area}/observers/${name}`];
    }
  }
  // texts among the assets of a package are catalogues
  return { ...found, package: [...(found.package ?? []), ...(found.catalogue ?? [])] };
}

const IMPORT = /(?:\bfrom\s*|\bimport\s*\(?\s*)['"]([^'"]+)['"]/g;

/** Of the entries and all that they lead to. */
function digestOf(folder, entries) {
  const files = new Map();
  const packages = new Set();
  const visit = (path) => {
    if (files.has(path)) return;
    const text = readFileSync(path, 'utf8');
    files.set(path, text);
    for (const [, target] of text.matchAll(IMPORT)) {
      if (target.startsWith('.')) visit(join(dirname(path), target));
      else if (!target.startsWith('node:')) packages.add(nameOfPackage(target));
    }
  };
  for (const entry of entries) visit(join(folder, entry));
  const hash = createHash('sha256');
  for (const path of [...files.keys()].sort()) hash.update(`${relative(folder, path)}\n${files.get(path)}\n`);
  for (const name of [...packages].sort()) hash.update(`${name} ${versionOf(name)}\n`);
  return hash.digest('hex').slice(0, 16);
}

/** `sharp`, `@peculiar/x509` of `@peculiar/x509/build`. */
const nameOfPackage = (target) =>
  target
    .split('/')
    .slice(0, target.startsWith('@') ? 2 : 1)
    .join('/');

function versionOf(name) {
  const file = join(root, 'node_modules', name, 'package.json');
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).version : 'none';
}
