// Whether every check and every limit is held by a test: each is switched off, or moved by a tenth, in a copy of the sources, and
// the tests that name it are run there. What no test notices is printed. `node scripts/switch-off.mjs [ID…]`
import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './setup.mjs';

const copy = mkdtempSync(join(tmpdir(), 'fenlok-switch-off-'));
for (const part of [
  'src',
  'tests',
  'checklists',
  'demo',
  'scripts',
  'package.json',
  'jest.config.js',
  'tsconfig.json',
])
  cpSync(join(root, part), join(copy, part), { recursive: true });
for (const part of ['node_modules', 'dist']) symlinkSync(join(root, part), join(copy, part));

/** Files of tests that a pattern is found in. */
const testsWith = (pattern) =>
  readdirSync(join(copy, 'tests/core'), { recursive: true })
    .filter((name) => name.endsWith('.test.ts'))
    .map((name) => `tests/core/${name}`)
    .filter((name) => pattern.test(readFileSync(join(copy, name), 'utf8')));

/** @returns undefined where no test fails, else the first that does */
function firstFailure(files) {
  if (files.length === 0) return undefined;
  const jest = join(root, 'node_modules/jest/bin/jest.js');
  const run = spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--disable-warning=ExperimentalWarning',
      jest,
      '--bail',
      '--runTestsByPath',
      ...files,
    ],
    { cwd: copy, encoding: 'utf8' },
  );
  return run.status === 0 ? undefined : (/● (.+)/.exec(run.stderr)?.[1] ?? 'it does not run');
}

function tried(file, change, files) {
  const path = join(copy, file);
  const before = readFileSync(path, 'utf8');
  const after = change(before);
  if (after === before) throw new Error(`${file}: nothing to change`);
  writeFileSync(path, after);
  try {
    return firstFailure(files);
  } finally {
    writeFileSync(path, before);
  }
}

/** Where limits are tried. */
const LIMIT_TESTS = ['contrast', 'accessibility', 'reader', 'limits', 'drills'].map(
  (name) => `tests/core/areas/${name}.test.ts`,
);

const wanted = process.argv.slice(2);
const isWanted = (id) => wanted.length === 0 || wanted.includes(id);
const unnoticed = [];
const report = (id, failed) => {
  console.log(`${id.padEnd(26)}${failed ?? '▲ no test notices'}`);
  if (!failed) unnoticed.push(id);
};

try {
  const areas = join(copy, 'src/core/areas');
  for (const file of execFileSync('find', [areas, '-path', '*/checks/*.ts'], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .sort()) {
    const text = readFileSync(file, 'utf8');
    const id = /^ {2}id: '([\w-]+)'/m.exec(text)[1];
    const name = /^export const (\w+) = defineCheck/m.exec(text)[1];
    if (!isWanted(id)) continue;
    const own = testsWith(new RegExp(`/checks/${id}\\.ts'`));
    const files =
      own.length > 0
        ? own
        : testsWith(new RegExp(`['"\`]${id}\\b(?!-)`)).filter((test) => !test.endsWith('registry.test.ts'));
    report(
      id,
      tried(file.slice(copy.length + 1), (before) => `${before}\n${name}.run = () => [];\n`, files),
    );
  }
  const limits = 'src/core/model/standard-limits.ts';
  for (const [line, name, value] of readFileSync(join(copy, limits), 'utf8').matchAll(
    /^ {2}(\w+): ([\d.]+),$/gm,
  )) {
    if (!isWanted(name)) continue;
    const more = Number(value) * 1.1;
    // a number of stops is whole
    const moved = line.replace(
      value,
      String(value < 20 && value > 10 ? Math.ceil(more) : Math.round(more * 100) / 100),
    );
    report(
      `limits.${name}`,
      tried(limits, (before) => before.replace(line, moved), LIMIT_TESTS),
    );
  }
} finally {
  rmSync(copy, { recursive: true });
}
console.log(unnoticed.length === 0 ? 'All are held by a test.' : `${unnoticed.length} are held by no test.`);
process.exit(unnoticed.length === 0 ? 0 : 1);
