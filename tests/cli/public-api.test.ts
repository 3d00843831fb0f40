/** What the library says of a package is what the command line says of it. */
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import {
  bytesSource,
  factsOfPackage,
  type Judgement,
  judgeFacts,
  readPackage,
} from '../../src/core/index.ts';
import { unwrap } from '../../src/core/model/problem.ts';
import { judgeCandidate, nodePorts, readProject, withPackage } from '../../src/node/index.ts';
import { fenlokProcess } from '../support/command.ts';
import { demoApk, demoBundle, demoIpa, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();

test.each([
  ['the APK', demoApk],
  ['the bundle', demoBundle],
  ['the iOS package', demoIpa],
])('%s', async (_, file) => {
  const folder = join(scratch, basename(file));
  copyIntent(folder);
  expect((await fenlokProcess(['add', file, '--dossier', 'd'], folder)).code).toBe(0);
  const byCommand: Judgement = JSON.parse(
    (await fenlokProcess(['judge', '--dossier', 'd', '--json'], folder)).out,
  );
  const now = new Date(byCommand.judgedAt);

  const intent = join(folder, 'fenlok.yaml');
  expect(await judgeCandidate({ package: file, intent, now })).toEqual(byCommand);

  const project = await readProject(folder, byCommand.candidate.build.appId);
  const bytes = new Uint8Array(readFileSync(file));
  const digest = createHash('sha256').update(bytes).digest('hex');
  const { app } = unwrap(await readPackage(file, bytesSource(bytes), digest, nodePorts));
  const { candidate } = byCommand;
  expect(judgeFacts(factsOfPackage(app), { intent: project.intent, candidate, now })).toEqual(byCommand);
});

test('a package that was read in a hurry leaves its items untested', async () => {
  const quick = await withPackage(demoApk, ({ app }) => app, { parts: 'declared' });
  const { items } = judgeFacts(factsOfPackage(quick));
  const why = (check: string) => items.filter(({ by }) => by.checks.includes(check)).map((item) => item.why);
  expect(why('unused-resource').join()).toMatch(/the package was read without its unused resources/);
  expect(why('theme-contrast').join()).not.toMatch(/looked at\./);
  expect(() => judgeFacts([])).toThrow(/no package is among the facts/);
});
