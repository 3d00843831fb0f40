/** What only a person can show: how to, with what, and for how long it holds. */
import { copyFileSync, existsSync, readdirSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { fenlokProcess } from '../support/command.ts';
import { demoApk, demoFolder, root, scratchFolder } from '../support/paths.ts';
import { openTerminal, testInTerminal } from '../support/terminal.ts';

const folder = scratchFolder();
const run = (...args: string[]) => fenlokProcess(args, folder, { FENLOK_NAME: 'Ada' });
const signOffs = () =>
  existsSync(join(folder, 'rulings.yaml'))
    ? parse(readFileSync(join(folder, 'rulings.yaml'), 'utf8')).signOffs
    : [];
const judged = async (dossier: string): Promise<Judgement> =>
  JSON.parse((await run('judge', '--json', '--dossier', dossier)).out);

beforeAll(async () => {
  copyFileSync(join(demoFolder, 'kelpline-next.apk'), join(folder, 'next.apk'));
  expect((await run('add', demoApk)).code).toBe(0);
  expect((await run('add', 'next.apk', '--dossier', 'next')).code).toBe(0);
});

test('every item that waits for a person says what to do, before it asks', async () => {
  const { items } = parse(readFileSync(join(root, 'checklists/mobile-release.yaml'), 'utf8'));
  for (const { by, id, steps = [] } of items)
    if (by.person) expect([id, steps.length > 1]).toEqual([id, true]);
  const told = await run('sign', 'a11y.reader-walk');
  expect([told.code, signOffs()]).toEqual([0, []]);
  expect(told.out).toMatch(/^a11y\.reader-walk .*\n[\s\S]*1\. Switch the screen reader on[\s\S]*--as passed/);
});

testInTerminal('in a terminal the outcome is one key, and the reason a line', async () => {
  const terminal = openTerminal(['sign', 'a11y.captions'], folder, { FENLOK_NAME: 'Ada' });
  await terminal.says('p passed');
  expect(terminal.said().indexOf('captions on')).toBeLessThan(terminal.said().indexOf('p passed'));
  terminal.press('n');
  await terminal.says('what you did');
  terminal.press('no media\r');
  expect(await terminal.ended).toBe(0);
  expect(signOffs()).toMatchObject([
    { item: 'a11y.captions', outcome: 'inapplicable', why: 'no media', by: 'Ada' },
  ]);
});

test('what is attached is copied once, within limits, and named where the item is judged', async () => {
  writeFileSync(join(folder, 'walk.txt'), 'Booked a crossing.');
  writeFileSync(join(folder, 'walk.exe'), 'x');
  writeFileSync(join(folder, 'long.mp4'), 'x');
  truncateSync(join(folder, 'long.mp4'), 200 * 2 ** 20);
  const sign = (...files: string[]) =>
    run('sign', 'a11y.reader-walk', '--as', 'passed', '--why', 'walked', '--attach', ...files);
  const before = signOffs();
  for (const [file, words] of [
    ['none.png', 'no such file'],
    ['walk.exe', 'one of .png'],
    ['long.mp4', '200 MB; expected at most 100 MB'],
  ] as const)
    expect(await sign('walk.txt', file)).toMatchObject({ code: 3, err: expect.stringContaining(words) });
  expect([signOffs(), existsSync(join(folder, 'dossier/files'))]).toEqual([before, false]);
  expect((await sign('walk.txt')).code).toBe(0);
  expect((await sign('walk.txt')).code).toBe(0);
  const [kept, ...more] = readdirSync(join(folder, 'dossier/files'));
  expect(more).toEqual([]);
  const { items } = await judged('dossier');
  expect(items.find(({ id }) => id === 'a11y.reader-walk')).toMatchObject({
    outcome: 'passed',
    why: expect.stringContaining(`(with files/${kept})`),
  });
});

test('it holds for its build alone, or until what it rests on changes, or until a day', async () => {
  const sign = (item: string, ...args: string[]) =>
    run('sign', item, '--as', 'passed', '--why', 'looked', ...args);
  expect(await sign('l10n.reviewed', '--rests-on', 'texts')).toMatchObject({
    code: 0,
    out: expect.stringContaining('until the texts change'),
  });
  expect((await sign('iap.signed', '--rests-on', 'code')).code).toBe(0);
  expect((await sign('listing.texts')).code).toBe(0);
  expect((await sign('quality.stalls', '--until', '2020-01-01')).code).toBe(0);
  expect(await sign('quality.smooth', '--rests-on', 'screens')).toMatchObject({
    code: 2,
    err: expect.stringContaining('no evidence of them'),
  });
  expect(await sign('quality.smooth', '--until', 'soon')).toMatchObject({ code: 2 });
  const lapsed = ({ lapsedSignOffs }: Judgement) =>
    Object.fromEntries(lapsedSignOffs.map(({ signOff, why }) => [signOff.item, why]));
  const own = lapsed(await judged('dossier'));
  expect(own).toEqual({ 'quality.stalls': 'it held until 2020-01-01' });
  // the next build has other texts, and other code
  expect(lapsed(await judged('next'))).toMatchObject({
    'l10n.reviewed': expect.stringContaining('the texts that it rests on changed since build 240'),
    'iap.signed': expect.stringContaining('the code that it rests on changed'),
    'listing.texts': expect.stringContaining('it was given for build 240'),
  });
});
