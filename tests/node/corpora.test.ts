/** Suites that run beside each other want the same corpora: one process fetches, the others wait. */
import { spawn } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root, scratchFolder } from '../support/paths.ts';

const script = pathToFileURL(join(root, 'scripts/corpora.mjs')).href;
const scratch = scratchFolder();

test('no two are at work at once, and a lock whose owner is gone holds nobody up', async () => {
  const [lock, count] = [join(scratch, 'lock'), join(scratch, 'count')];
  writeFileSync(count, '0');
  // no process has this id
  writeFileSync(lock, '4194305');
  const program = `
    import { readFileSync, writeFileSync } from 'node:fs';
    import { alone } from '${script}';
    for (let n = 0; n < 20; n++)
      alone(${JSON.stringify(lock)}, () => {
        const before = Number(readFileSync(${JSON.stringify(count)}, 'utf8'));
        for (let i = 0; i < 1e5; i++) Math.sqrt(i);
        writeFileSync(${JSON.stringify(count)}, String(before + 1));
      });`;
  const ends = await Promise.all(
    Array.from(
      { length: 6 },
      () =>
        new Promise((resolve) => {
          spawn(process.execPath, ['--input-type=module', '-e', program], { stdio: 'inherit' }).on(
            'exit',
            resolve,
          );
        }),
    ),
  );
  expect(ends).toEqual([0, 0, 0, 0, 0, 0]);
  expect(readFileSync(count, 'utf8')).toBe('120');
}, 60_000);
