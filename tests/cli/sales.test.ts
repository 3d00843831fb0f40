/** Signed sales as files: read, held against the catalogue, and taken in as evidence. */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import type { Finding } from '../../src/core/model/finding.ts';
import { type StoreCatalogue, storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { type ServedStore, serveStore } from '../../src/standins/store/serve-store.ts';
import { StoreLink } from '../../src/standins/store/store-link.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, demoFolder, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();
const put = (name: string, content: string | object): string => {
  writeFileSync(join(scratch, name), typeof content === 'string' ? content : JSON.stringify(content));
  return name;
};
const catalogue: StoreCatalogue = storeCatalogueSchema.parse(
  parse(readFileSync(join(demoFolder, 'store.yaml'), 'utf8')),
);
const stores: ServedStore[] = [];
afterAll(() => Promise.all(stores.map((one) => one.close())));

/** What a store of the demo's catalogue signs for one sale, and its file. */
async function sell(product: string) {
  const served = await serveStore({ catalogue, settings: {} });
  stores.push(served);
  const link = new StoreLink(served.address);
  const asked = await link.order({ do: 'ask', account: 'ada', product });
  if (!asked.ok) throw new Error(asked.why);
  const sold = await link.order({ do: 'answer', account: 'ada', order: asked.order!, buys: true });
  if (!sold.ok) throw new Error(sold.why);
  const { purchase, transaction = '' } = sold.answer!;
  const file = put(`store-${stores.length}.json`, {
    fenlok: 'test-store/1',
    ...served.address,
    testers: ['ada'],
  });
  return { file, transaction, purchase: purchase!, licenseKey: served.address.licenseKey };
}
const purchaseFile = ({ data, signature }: { data: string; signature: string }) => ({
  INAPP_PURCHASE_DATA: data,
  INAPP_DATA_SIGNATURE: signature,
});
const read = (...args: string[]) => fenlok(['read', ...args], scratch);

test('a transaction is verified, shown, and held against the catalogue', async () => {
  const { file, transaction } = await sell('pass.year');
  const jws = put('year.jws', `${transaction}\n`);
  const store = put('store.yaml', readFileSync(join(demoFolder, 'store.yaml'), 'utf8'));
  const good = await read(jws, '--store', file, '--catalogue', store);
  expect([good.code, good.err]).toEqual([0, '']);
  expect(good.out).toMatch(/■ Signed by the test store/);
  expect(good.out).toMatch(/product +pass\.year, subscription/);
  expect(good.out).toMatch(/■ As the catalogue has it/);
  const { prices } = catalogue.products.find(({ id }) => id === 'pass.year')!;
  const changed = readFileSync(join(demoFolder, 'store.yaml'), 'utf8').replaceAll(
    `amount: ${Object.values(prices)[0]!.amount}`,
    'amount: 1.23',
  );
  const dear = await read(jws, '--store', file, '--catalogue', put('dear.yaml', changed));
  expect([dear.code, dear.out]).toEqual([1, expect.stringMatching(/▲ price: .*; the catalogue has 1\.23/)]);
  const none = await read(jws);
  expect([none.code, none.out]).toEqual([
    0,
    expect.stringMatching(/◐ Its signature was not checked.*--store/s),
  ]);
  const other = await read(jws, '--store', (await sell('pass.year')).file);
  expect([other.code, other.out]).toEqual([
    1,
    expect.stringMatching(/▲ Not signed as it should be: its root/),
  ]);
  const [head, body, tail] = transaction.split('.');
  const forged = Buffer.from(
    Buffer.from(body!, 'base64url').toString().replace('pass.year', 'pass.ever'),
  ).toString('base64url');
  const forgery = await read(put('forged.jws', [head, forged, tail].join('.')), '--store', file, '--json');
  expect([forgery.code, JSON.parse(forgery.out)]).toMatchObject([
    1,
    { product: 'pass.ever', trust: { is: 'refused', why: expect.stringMatching(/signature/) } },
  ]);
});

test('a purchase of Android is verified with the license key, or with the file of the test store', async () => {
  const { file, licenseKey, purchase } = await sell('pass.year');
  const key = put('key.pem', `-----BEGIN PUBLIC KEY-----\n${licenseKey}\n-----END PUBLIC KEY-----\n`);
  const good = put('purchase.json', purchaseFile(purchase));
  for (const by of [
    ['--license-key', key],
    ['--store', file],
  ])
    expect(await read(good, ...by)).toMatchObject({ code: 0, out: expect.stringMatching(/■ Signed/) });
  const bent = put('bent.json', purchaseFile({ ...purchase, data: `${purchase.data} ` }));
  expect(await read(bent, '--license-key', key)).toMatchObject({
    code: 1,
    out: expect.stringMatching(/▲ Not signed as it should be: the signature is not over these bytes/),
  });
  expect(await read(good)).toMatchObject({ code: 0, out: expect.stringMatching(/--license-key/) });
  expect(await read(good, '--license-key', put('short.txt', 'abc'))).toMatchObject({
    code: 3,
    err: expect.stringMatching(/no key in Base64/),
  });
});

test.each([
  ['half a JWS', `${Buffer.from('{"alg":"ES256"}').toString('base64url')}.e30.AA`, /no transaction/],
  ['a purchase that is none', { INAPP_PURCHASE_DATA: '{}', INAPP_DATA_SIGNATURE: 'AA==' }, /packageName/],
])('%s is refused with what is missing', async (_, content, why) => {
  const { code, err } = await read(put('wrong.json', content));
  expect([code, err]).toEqual([3, expect.stringMatching(why)]);
});

test('they are evidence: verified again when judged, by the keys that came with them', async () => {
  copyIntent(scratch);
  const { file, purchase, transaction } = await sell('pass.year');
  const stranger = await sell('no-ads');
  const add = async (name: string, content: string | object, ...by: string[]) => {
    const { code, out } = await fenlok(['add', put(name, content), ...by], scratch);
    expect([code, out]).toEqual([0, expect.stringMatching(/^(taken in|already there) {2}sale /)]);
    return out;
  };
  await fenlok(['add', demoApk], scratch);
  await add('good.jws', transaction, '--store', file);
  await add('good.json', purchaseFile(purchase), '--store', file);
  await add('foreign.jws', stranger.transaction, '--store', file);
  await add('unknown.jws', stranger.transaction);
  expect(await add('good.jws', transaction, '--store', file)).toMatch(/^already there/);
  const { out } = await fenlok(['judge', '--json'], scratch);
  const { findings } = JSON.parse(out) as { findings: Finding[] };
  expect(
    findings
      .filter(({ check }) => check === 'signed-sale')
      .map(({ basis, identity }) => `${identity.subject} ${identity.aspect} ${basis}`)
      .sort(),
  ).toEqual(['sale foreign.jws refused measured', 'sale unknown.jws unchecked estimated']);
});
