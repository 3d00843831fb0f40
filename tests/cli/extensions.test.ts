/** A team's own check, list and report, from modules beside its intent file; and modules that are refused. */
import { cpSync, mkdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { judgeCandidate } from '../../src/node/index.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, root, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();
const example = join(root, 'examples/own-check');

/** A project that has Fenlok among its packages. */
function projectIn(name: string, intent: string, files: Record<string, string> = {}): string {
  const folder = join(scratch, name);
  copyIntent(folder, (text) => `${text}\n${intent}`);
  mkdirSync(join(folder, 'node_modules'), { recursive: true });
  symlinkSync(root, join(folder, 'node_modules/fenlok'));
  for (const [file, text] of Object.entries(files)) writeFileSync(join(folder, file), text);
  return folder;
}

test('the example: found, named as the team’s own, ruled on like any other, and the same in the library', async () => {
  const folder = projectIn(
    'good',
    'extensions: [team-checks.mjs]\nchecklist: { own: team-checklist.yaml }\n',
  );
  cpSync(example, folder, { recursive: true });
  const strings = 'res/values-de/strings.xml';
  mkdirSync(join(folder, 'res/values-de'), { recursive: true });
  writeFileSync(
    join(folder, strings),
    '<resources><string name="app_name">Kelpline Inselfähren</string></resources>',
  );
  expect((await fenlok(['add', demoApk, strings, '--dossier', 'd'], folder)).code).toBe(0);
  const judged = async (): Promise<Judgement> =>
    JSON.parse((await fenlok(['judge', '--dossier', 'd', '--json'], folder)).out);
  const first = await judged();
  const own = first.findings.find(({ check }) => check === 'team-short-name')!;
  expect(own.words.measured).toBe('“Kelpline Inselfähren”, 20 letters');
  expect(first.items.find(({ id }) => id === 'team.short-name')!.outcome).toBe('failed');
  expect(first.ownChecks).toEqual([{ check: 'team-short-name', module: 'team-checks.mjs' }]);
  expect(readFileSync(join(folder, 'd/report/announcement.txt'), 'utf8')).toMatch(
    /^Kelpline 2\.\S+ \(\d+\): blocked, \d+ items failed\n$/,
  );
  expect(readFileSync(join(folder, 'd/report/index.html'), 'utf8')).toContain('from team-checks.mjs');

  const rule = ['rule', own.id, '--as', 'false-alarm', '--why', 'agreed', '--by', 'Ada', '--dossier', 'd'];
  expect((await fenlok(rule, folder)).code).toBe(0);
  expect((await judged()).items.find(({ id }) => id === 'team.short-name')!.outcome).toBe('passed');

  const byLibrary = await judgeCandidate({ package: demoApk, intent: join(folder, 'fenlok.yaml') });
  expect(byLibrary.ownChecks).toEqual(first.ownChecks);
});

const CHECK = `{ id: 'x', area: 'ads', priority: 'wrong', standard: 's', basis: 'measured', needs: 'package', reads: [],
  limits: [], data: { parse: (d) => d }, words: () => ({}), run: function* () {},
  doc: { looksAt: 'l', against: 'a', matters: 'm', measured: 'm', errs: 'e', fixes: [] } }`;

test.each<[why: string, module: string, says: RegExp]>([
  ['no such file', '', /missing\.mjs: no such file/],
  ['no JavaScript', 'export default {', /bad\.mjs: a module that cannot be loaded/],
  ['nothing exported', 'export const a = 1;', /bad\.mjs.*defineExtension/],
  ['an unknown key', 'export default { cheks: [] }', /bad\.mjs.*cheks/],
  [
    'an area that there is not',
    `export default { checks: [{ ...${CHECK}, area: 'moon' }] }`,
    /checks\.0\.area/,
  ],
  ['no words', `export default { checks: [{ ...${CHECK}, words: 'x' }] }`, /checks\.0\.words: a function/],
  [
    'a kind of fact that nobody measures',
    `export default { checks: [{ ...${CHECK}, needs: 'tide' }] }`,
    /checks\.0\.needs/,
  ],
  [
    'the id of a shipped check',
    `export default { checks: [{ ...${CHECK}, id: 'crash' }] }`,
    /the check "crash"/,
  ],
  [
    'it throws',
    `export default { checks: [{ ...${CHECK}, run() { throw new Error('oh') } }] }`,
    /bad\.mjs, x: oh/,
  ],
  [
    'it reads what it does not declare',
    `export default { checks: [{ ...${CHECK}, run: (facts) => facts.of('stop') }] }`,
    /bad\.mjs, x: the check x reads stop/,
  ],
])('refused: %s', async (why, module, says) => {
  const name = module === '' ? 'missing.mjs' : 'bad.mjs';
  const folder = projectIn(
    why.replaceAll(' ', '-'),
    `extensions: [${name}]\n`,
    module === '' ? {} : { [name]: module },
  );
  await fenlok(['add', demoApk, '--dossier', 'd'], folder);
  const { code, err } = await fenlok(['judge', '--dossier', 'd'], folder);
  expect([code, err]).toEqual([3, expect.stringMatching(says)]);
  expect(err).toContain('docs/extensions.md');
});

test('a module elsewhere is never loaded, also by a link', async () => {
  writeFileSync(join(scratch, 'outside.mjs'), 'process.stdout.write("loaded"); export default {};');
  const folder = projectIn('elsewhere', 'extensions: [../outside.mjs]\n');
  await fenlok(['add', demoApk, '--dossier', 'd'], folder);
  const judge = () => fenlok(['judge', '--dossier', 'd'], folder);
  expect(await judge()).toMatchObject({
    code: 3,
    out: '',
    err: expect.stringContaining('a module elsewhere'),
  });
  symlinkSync(join(scratch, 'outside.mjs'), join(folder, 'inside.mjs'));
  const intent = readFileSync(join(folder, 'fenlok.yaml'), 'utf8').replace('../outside.mjs', 'inside.mjs');
  writeFileSync(join(folder, 'fenlok.yaml'), intent);
  expect(await judge()).toMatchObject({
    code: 3,
    out: '',
    err: expect.stringContaining('a module elsewhere'),
  });
});
