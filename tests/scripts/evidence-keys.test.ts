/** Facts are kept by the code that measures them: whatever of it changes, they are measured again, and only then. */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { evidenceKeys } from '../../scripts/evidence-keys.mjs';
import { fenlok } from '../support/command.ts';
import { demoApk, root, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const READERS = { capture: ['read.js'], trace: ['other.js'] };
const FILES = {
  'read.js':
    "import { leaf } from './deep/leaf.js';\nimport sharp from 'sharp';\nconst late = () => import('./late.js');\n",
  'deep/leaf.js': "export * from '../round.js';\nexport const leaf = 1;\n",
  'round.js': "import { leaf } from './deep/leaf.js';\n",
  'late.js': 'export const late = 1;\n',
  'other.js': "import { z } from 'zod';\n",
  'observer.js': 'export const seen = 1;\n',
};

function keysOf(change: Partial<Record<keyof typeof FILES, string>> = {}) {
  for (const [name, text] of Object.entries({ ...FILES, ...change })) {
    mkdirSync(dirname(join(scratch, name)), { recursive: true });
    writeFileSync(join(scratch, name), text);
  }
  return evidenceKeys(scratch, READERS, { capture: ['observer.js'] }) as Record<'capture' | 'trace', string>;
}

test.each<[name: keyof typeof FILES, capture: boolean, trace: boolean]>([
  ['read.js', true, false],
  ['deep/leaf.js', true, false],
  ['round.js', true, false],
  ['late.js', true, false],
  ['observer.js', true, false],
  ['other.js', false, true],
])('a change of %s', (name, capture, trace) => {
  const before = keysOf();
  const after = keysOf({ [name]: `${FILES[name]}// changed\n` });
  expect([before.capture !== after.capture, before.trace !== after.trace]).toEqual([capture, trace]);
});

test('a package that is loaded counts, and the same code has the same keys', () => {
  const before = keysOf();
  expect(keysOf()).toEqual(before);
  expect(keysOf({ 'late.js': "import 'zod';\n" }).capture).not.toBe(
    keysOf({ 'late.js': "import 'zip';\n" }).capture,
  );
});

test('the build wrote one for each sort of evidence, and facts under another are not used', async () => {
  const written: Record<string, string> = JSON.parse(
    readFileSync(join(root, 'dist/evidence-keys.json'), 'utf8'),
  );
  expect(written).toEqual(evidenceKeys(join(root, 'dist')));
  await fenlok(['add', demoApk, '--dossier', 'd'], scratch);
  const judged = async () => {
    const { judgedAt, ...rest } = JSON.parse(
      (await fenlok(['judge', '--dossier', 'd', '--json'], scratch)).out,
    );
    return rest;
  };
  const before = await judged();
  const [name = ''] = readdirSync(join(scratch, 'd/facts'));
  const file = join(scratch, 'd/facts', name);
  const kept = readFileSync(file, 'utf8');
  expect(kept).toContain(written.package!);
  writeFileSync(file, `${kept.split('\n')[0]!.replace(written.package!, '0123456789abcdef')}\n`);
  expect(await judged()).toEqual(before);
  expect(readFileSync(file, 'utf8')).toBe(kept);
});
