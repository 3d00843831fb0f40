/** Two files of one name in different folders never replace one another; one that is added again replaces itself. */
import { cpSync, mkdirSync, readdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { addPackage, addPayload, openDossier } from '../../src/node/index.ts';
import { listPayloads } from '../../src/node/payloads.ts';
import { demoApk, demoFolder, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const message = (body: string) =>
  JSON.stringify({ message: { token: 't', notification: { title: 'Late', body } } });

function put(path: string, body: string): string {
  const file = join(scratch, path);
  mkdirSync(join(file, '..'), { recursive: true });
  writeFileSync(file, message(body));
  return file;
}

test('by as many folders as tell them apart', async () => {
  const folder = join(scratch, 'dossier');
  await addPackage(folder, demoApk);
  const dossier = await openDossier(folder);
  const names = async () => (await listPayloads(dossier)).map(({ name }) => name).sort();
  const summer = put('summer/push/late.json', 'one');
  await addPayload(dossier, summer);
  expect(await names()).toEqual(['late.json']);
  await addPayload(dossier, put('winter/push/late.json', 'two'));
  await addPayload(dossier, put('winter/push/new%20.json', 'three'));
  expect(await names()).toEqual(['new%20.json', 'summer/push/late.json', 'winter/push/late.json']);
  expect((await addPayload(dossier, summer)).again).toBe(true);
  expect((await addPayload(dossier, put('summer/push/late.json', 'four'))).again).toBe(false);
  expect(await names()).toHaveLength(3);
});

test('a dossier of before is read, and its file makes way for the same one', async () => {
  const folder = join(scratch, 'former');
  await addPackage(folder, demoApk);
  const dossier = await openDossier(folder);
  const file = join(scratch, 'delay.json');
  cpSync(join(demoFolder, 'push/delay.json'), file);
  await addPayload(dossier, file);
  const [kept = ''] = readdirSync(join(folder, 'payloads'));
  renameSync(join(folder, 'payloads', kept), join(folder, 'payloads/delay.json'));
  expect((await listPayloads(dossier)).map(({ name }) => name)).toEqual(['delay.json']);
  await addPayload(dossier, file);
  expect(readdirSync(join(folder, 'payloads'))).toEqual([kept]);
});
