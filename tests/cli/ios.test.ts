/** The built command on an iOS device: what a killed call leaves is put back by the next, and what is there is listed. */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { type DrillId, drillIds, isDriven } from '../../src/core/model/drill.ts';
import type { ServedLookout } from '../../src/standins/phone/ios/serve-lookout.ts';
import { fenlok } from '../support/command.ts';
import { demoFolder, root, scratchFolder } from '../support/paths.ts';
import { bootLookout, demoIpa } from '../support/served-lookout.ts';

const scratch = scratchFolder();
const cwd = join(scratch, 'project');
let served: ServedLookout;
let device: string;
let env: Record<string, string>;

beforeAll(async () => {
  served = await bootLookout();
  device = `ios:${served.address}`;
  env = { FENLOK_STATE: join(scratch, 'state'), FENLOK_LOOKOUT_TOKEN: served.token };
  mkdirSync(cwd);
  cpSync(join(demoFolder, 'fenlok.yaml'), join(cwd, 'fenlok.yaml'));
  for (const folder of ['push', 'networks'])
    cpSync(join(demoFolder, folder), join(cwd, folder), { recursive: true });
  expect((await fenlok(['add', demoIpa], cwd, env)).code).toBe(0);
});
afterAll(() => served.close());

const settingsOf = ({ phone }: ServedLookout) => [phone.appearance, phone.orientation];

/** Kills a drill once the phone is set so. */
async function killOnce(drill: DrillId, isSo: () => boolean): Promise<void> {
  const args = [join(root, 'dist/bin/fenlok.js'), 'drill', drill, '--device', device];
  const child = spawn(process.execPath, args, { cwd, env: { ...process.env, ...env }, stdio: 'ignore' });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  await new Promise<void>((resolve) => {
    const timer = setInterval(() => {
      if (!isSo() && child.exitCode === null) return;
      clearInterval(timer);
      resolve();
    }, 5);
  });
  // it must not have ended by itself
  expect(child.exitCode).toBeNull();
  child.kill('SIGKILL');
  await ended;
}

test.each(
  drillIds
    .filter((id) => isDriven(id, 'ios') && !['push', 'purchases', 'ads'].includes(id))
    .map((id) => [id, id === 'rotate' ? 'landscape' : 'portrait'] as const),
)('%s killed half way: the next call puts back what its user had set', async (drill, orientation) => {
  // a drill begins with the app as it is meant to be used first
  served.phone.appearance = 'dark';
  served.phone.orientation = orientation === 'portrait' ? 'landscape' : 'portrait';
  const before = settingsOf(served);
  await killOnce(drill, () => settingsOf(served).join() === `light,${orientation}`);
  const back = await fenlok(['restore', '--device', device], cwd, env);
  expect([back.code, back.err]).toEqual([0, '']);
  expect(settingsOf(served)).toEqual(before);
  const again = await fenlok(['restore', '--device', device], cwd, env);
  expect(again.out).toContain('no setting is left changed');
});

test('what cannot be asked of it is said', async () => {
  // wherever the killed drills left it
  await served.phone.bring('example.kelpline');
  served.phone.appearance = 'light';
  served.phone.orientation = 'portrait';
  const of = (...args: string[]) => fenlok([...args, '--device', device], cwd, env);
  expect((await of('hold', '--density', '300')).err).toMatch(
    /cannot be set so; it can be given --text-scale/,
  );
  expect((await of('look', '--app', 'example.kelpline', '--at-scale', '2')).err).toMatch(
    /belongs to one run/,
  );
  expect((await of('walk', 'keyboard', '--app', 'example.kelpline')).err).toMatch(/not driven on iOS yet/);
  expect((await of('drill', '--install', 'rotate')).err).toMatch(/ios\.commands/);
  const { err } = await of('drill', 'back', 'rotate', '--screen', 'settings');
  expect(err).toContain('left out: back: iOS has no key for back');
  const nobody = await fenlok(['look', '--device', 'ios:127.0.0.1:1'], cwd, env);
  expect([nobody.code, nobody.err]).toEqual([5, expect.stringMatching(/no lookout answers.*docs\/ios\.md/)]);
});

test('two dossiers of one platform are no release of both', async () => {
  const of = (...args: string[]) => fenlok(['judge', ...args], cwd, env);
  expect(await of('dossier')).toMatchObject({ code: 2, err: expect.stringContaining('give two dossiers') });
  expect((await of('dossier', 'dossier')).err).toMatch(/both of ios.*fenlok compare/);
});
