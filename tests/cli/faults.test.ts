/**
 * Whatever write, rename or flush goes wrong, nothing that was there is lost, and the same call does it the next time. Each run tries some
 * of them, and FAULTS=all each.
 */
import { cpSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { fenlokProcess } from '../support/command.ts';
import { demoApk, demoFolder, root, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();
const folder = join(scratch, 'project');
const fault = pathToFileURL(join(root, 'tests/support/fault.mjs')).href;
const counted = join(scratch, 'count');

const withFault = (args: string[], at: number, how = 'error') =>
  fenlokProcess(args, folder, {
    NODE_OPTIONS: `--import ${fault}`,
    FAULT_AT: String(at),
    FAULT_HOW: how,
    FAULT_COUNT: counted,
  });

/** Every file below, with what is in it; without what is half-written, which the next judgement clears. */
const contents = (): Record<string, string> =>
  Object.fromEntries(
    readdirSync(folder, { recursive: true })
      .map(String)
      .filter((name) => statSync(join(folder, name)).isFile() && !name.includes('.incoming-'))
      .sort()
      .map((name) => [name, readFileSync(join(folder, name), 'latin1')]),
  );

describe.each([
  [
    'add',
    ['add', demoApk, 'push/delay.json', join(demoFolder, 'android/res/values-de/strings.xml')],
    () => Promise.resolve(),
  ],
  [
    'sign',
    ['sign', 'a11y.reader-walk', '--as', 'passed', '--why', 'seen', '--by', 'Ada'],
    async () => {
      await fenlokProcess(['add', demoApk], folder);
      await fenlokProcess(['sign', 'a11y.names', '--as', 'passed', '--why', 'before', '--by', 'Ada'], folder);
    },
  ],
])('%s', (_, args, prepare) => {
  const prepared = join(scratch, `prepared-${args[0]}`);
  let before: Record<string, string>;
  let after: Record<string, string>;
  let total: number;
  const begin = () => {
    rmSync(folder, { recursive: true, force: true });
    cpSync(prepared, folder, { recursive: true });
  };

  beforeAll(async () => {
    rmSync(folder, { recursive: true, force: true });
    copyIntent(folder);
    cpSync(join(demoFolder, 'push'), join(folder, 'push'), { recursive: true });
    await prepare();
    cpSync(folder, prepared, { recursive: true });
    before = contents();
    expect((await withFault(args, 0)).code).toBe(0);
    total = Number(readFileSync(counted, 'utf8'));
    after = contents();
  });

  test.each([
    ['error', 'a disk that is full'],
    ['end', 'the end of the process'],
  ])('survives %s: %s, at each of them', async (how) => {
    expect(total).toBeGreaterThan(5);
    // after an end the lock is waited for some seconds
    const step = process.env.FAULTS ? 1 : how === 'end' ? 5 : 3;
    for (let at = 1 + Math.floor(Math.random() * step); at <= total; at += step) {
      begin();
      const { code, err } = await withFault(args, at, how);
      if (how === 'error' && code !== 0)
        expect([at, code, err]).toEqual([at, 3, expect.stringContaining('no space is left')]);
      const met = contents();
      // what was there is as it was, or as it becomes
      for (const name of Object.keys(before)) expect([before[name], after[name]]).toContain(met[name]);
      expect((await fenlokProcess(args, folder)).code).toBe(0);
      expect(contents()).toEqual(after);
    }
  });
});
