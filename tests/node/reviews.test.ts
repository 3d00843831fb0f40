/** Tables of reviews as stores write them: forms, marks, and what is no table. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { addReviews, listReviews, openReviews } from '../../src/node/reviews.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const folder = join(scratch, 'dossier');
const rowsOf = async (name: string, data: string | Buffer) => {
  writeFileSync(join(scratch, name), data);
  const dossier = await openDossier(folder);
  await addReviews(dossier, join(scratch, name));
  const entry = (await listReviews(dossier)).find((one) => one.name === name)!;
  return (await openReviews(entry)).rows;
};
beforeAll(async () => void (await addPackage(folder, demoApk)));

test.each<[string, string | Buffer]>([
  ['comma.csv', 'text,stars\n"a, ""b""\nc",1\n'],
  ['semicolon.csv', 'text;stars\r\n"a, ""b""\nc";1\r\n'],
  ['tab.tsv', 'text\tstars\n"a, ""b""\nc"\t1\n'],
  ['mark.csv', '\ufefftext,stars\n"a, ""b""\nc",1\n'],
  ['wide.csv', Buffer.from('\ufefftext,stars\n"a, ""b""\nc",1\n', 'utf16le')],
  ['reviews.json', '[{"text":"a, \\"b\\"\\nc","stars":1,"reply":{"text":"no"},"at":null}]'],
])('the same from %s', async (name, data) => {
  expect(await rowsOf(name, data)).toEqual([{ text: 'a, "b"\nc', stars: '1' }]);
});

test.each<[string, string, string]>([
  ['open.csv', 'text,stars\n"a,1\n', 'Quote Not Closed'],
  ['head.csv', 'text,stars\n', 'no row'],
  ['reviews-2.json', '[{"text":', 'JSON that cannot be read'],
])('what is no table is told: %s', async (name, data, why) => {
  await expect(rowsOf(name, data)).rejects.toThrow(why);
});
