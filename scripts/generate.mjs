// Writes what follows from the code: the lists of checks and observers, the JSON Schemas, the pages of checks. With --check it
// writes nothing, and fails where something is out of date. The lists are written first, since the build needs them.
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { parse } from 'yaml';
import { checkLists, shippedList } from './generate/lists.mjs';
import { root } from './setup.mjs';

const isCheck = process.argv.includes('--check');
let stale = 0;

function put(files) {
  for (const [name, text] of Object.entries(files)) {
    const path = join(root, name);
    const before = readText(path);
    if (before === text) continue;
    if (isCheck) {
      console.error(`${name} is out of date: run "npm run generate"`);
      stale += 1;
    } else if (text === undefined) rmSync(path);
    else {
      mkdirSync(dirname(path), { recursive: true });
      writeFileSync(path, text);
    }
  }
}

function readText(path) {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    return undefined;
  }
}

put(checkLists());
put(shippedList(parse));
if (!isCheck) await import('./build.mjs');
const { checkPages, schemas } = await import('./generate/from-build.mjs');
const pages = checkPages();
const left = readdirSync(join(root, 'docs/checks'), { withFileTypes: true })
  .map(({ name }) => `docs/checks/${name}`)
  .filter((name) => !(name in pages));
put({ ...schemas(), ...pages, ...Object.fromEntries(left.map((name) => [name, undefined])) });
process.exit(stale > 0 ? 1 : 0);
