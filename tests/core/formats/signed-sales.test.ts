/** Sales as the platforms sign them: made here with jose, with Debian's openssl, and with Node's own RSA; and forged in many ways. */
import { execFileSync } from 'node:child_process';
import { createSign, generateKeyPairSync, X509Certificate } from 'node:crypto';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CompactSign, importPKCS8 } from 'jose';
import { linesOfPurchase, readSignedPurchase } from '../../../src/core/formats/store/signed-purchase.ts';
import {
  linesOfTransaction,
  readSignedTransaction,
} from '../../../src/core/formats/store/signed-transaction.ts';
import { nodePorts } from '../../../src/node/ports.ts';

const APP = 'example.kelpline';
// after all of the certificates were made
const NOW_MS = Date.now() + 60_000;
const folder = mkdtempSync(join(tmpdir(), 'signed-'));
afterAll(() => rmSync(folder, { recursive: true }));

const openssl = (...args: string[]): string =>
  execFileSync('openssl', args, { cwd: folder, encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });

/** `name.key` and `name.pem`, signed by `by` or by itself. */
function issue(name: string, by: string, { days = '30', isCa = false, mark = '' } = {}): void {
  openssl('ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', `${name}.sec1`);
  openssl('pkcs8', '-topk8', '-nocrypt', '-in', `${name}.sec1`, '-out', `${name}.key`);
  openssl('req', '-new', '-key', `${name}.key`, '-subj', `/CN=${name}`, '-out', `${name}.csr`);
  const marks = mark ? `${mark}=ASN1:NULL\n` : '';
  writeFileSync(
    join(folder, `${name}.ext`),
    `basicConstraints=critical,CA:${isCa ? 'TRUE' : 'FALSE'}\n${marks}`,
  );
  const how =
    by === name
      ? ['-signkey', `${name}.key`]
      : ['-CA', `${by}.pem`, '-CAkey', `${by}.key`, '-CAcreateserial'];
  openssl(
    'x509',
    '-req',
    '-in',
    `${name}.csr`,
    ...how,
    '-days',
    days,
    '-extfile',
    `${name}.ext`,
    '-out',
    `${name}.pem`,
  );
}

// Apple's, as its practice statement lists them
const MARKS = { signer: '1.2.840.113635.100.6.11.1', authority: '1.2.840.113635.100.6.2.1' };

const derOf = (name: string): Buffer =>
  Buffer.from(new X509Certificate(readFileSync(join(folder, `${name}.pem`))).raw);

const SALE = {
  transactionId: '1000002',
  originalTransactionId: '1000001',
  bundleId: APP,
  productId: 'pass.month',
  purchaseDate: NOW_MS - 1000,
  expiresDate: NOW_MS + 300_000,
  signedDate: NOW_MS,
  type: 'Auto-Renewable Subscription',
  transactionReason: 'RENEWAL',
};

async function sign(
  payload: object,
  {
    alg = 'ES256',
    chain = ['signer', 'between', 'root'],
    key = 'signer',
  }: { alg?: string; chain?: string[]; key?: string } = {},
): Promise<string> {
  const x5c = chain.map((name) => derOf(name).toString('base64'));
  return new CompactSign(Buffer.from(JSON.stringify(payload)))
    .setProtectedHeader({ alg, x5c })
    .sign(await importPKCS8(readFileSync(join(folder, `${key}.key`), 'utf8'), alg));
}

const read = (jws: string) =>
  readSignedTransaction(jws, { appId: APP, roots: [derOf('root')], nowMs: NOW_MS, ports: nodePorts });

/** One letter of a part is another one. */
const spoil = (jws: string, part: number): string => {
  const parts = jws.split('.');
  const text = parts[part]!;
  parts[part] = `${text.slice(0, 40)}${text[40] === 'A' ? 'B' : 'A'}${text.slice(41)}`;
  return parts.join('.');
};
const withPayload = (jws: string, payload: object): string => {
  const [header, , signature] = jws.split('.');
  return [header, Buffer.from(JSON.stringify(payload)).toString('base64url'), signature].join('.');
};

(existsSync('/usr/bin/openssl') ? describe : describe.skip)('Apple’s form, with a chain of openssl', () => {
  beforeAll(() => {
    issue('root', 'root', { isCa: true });
    issue('between', 'root', { isCa: true, mark: MARKS.authority });
    issue('signer', 'between', { mark: MARKS.signer });
    issue('developer', 'between');
    issue('otherwise', 'root', { isCa: true });
    issue('astray', 'otherwise', { mark: MARKS.signer });
    issue('stranger', 'stranger', { isCa: true });
    issue('forger', 'signer');
    issue('short', 'between', { days: '1', mark: MARKS.signer });
  });

  test('a renewal is read, and becomes a line of the ledger', async () => {
    const result = await read(await sign(SALE));
    expect(result).toMatchObject({ ok: true, value: { productId: 'pass.month' } });
    if (!result.ok) return;
    expect(linesOfTransaction(result.value, 'ada')).toEqual([
      expect.objectContaining({
        kind: 'store.renewed',
        transaction: '1000002',
        original: '1000001',
        productKind: 'subscription',
        until: new Date(SALE.expiresDate).toISOString(),
      }),
    ]);
    const refunded = { ...result.value, revocationDate: NOW_MS, revocationReason: 0 };
    expect(linesOfTransaction(refunded, 'ada').map(({ kind }) => kind)).toEqual([
      'store.renewed',
      'store.refunded',
    ]);
  });

  test.each<[string, () => Promise<string>, object]>([
    [
      'another price than was signed',
      async () => withPayload(await sign(SALE), { ...SALE, productId: 'pass.year' }),
      { code: 'wrong-signature' },
    ],
    ['a spoilt signature', async () => spoil(await sign(SALE), 2), { code: 'wrong-signature' }],
    [
      'by a key that is not the certificate’s',
      () => sign(SALE, { key: 'stranger' }),
      { code: 'wrong-signature' },
    ],
    [
      'by a developer under the same root',
      () => sign(SALE, { chain: ['developer', 'between', 'root'], key: 'developer' }),
      { code: 'chain', chain: { code: 'no-mark', position: 0, subject: 'CN=developer', oid: MARKS.signer } },
    ],
    [
      'by somebody for whom another authority vouches',
      () => sign(SALE, { chain: ['astray', 'otherwise', 'root'], key: 'astray' }),
      {
        code: 'chain',
        chain: { code: 'no-mark', position: 1, subject: 'CN=otherwise', oid: MARKS.authority },
      },
    ],
    [
      'by somebody with a root of his own',
      () => sign(SALE, { chain: ['stranger', 'stranger'], key: 'stranger' }),
      { code: 'chain', chain: { code: 'untrusted', subject: 'CN=stranger' } },
    ],
    [
      'by somebody behind the true root',
      () => sign(SALE, { chain: ['stranger', 'between', 'root'], key: 'stranger' }),
      { code: 'chain', chain: { code: 'not-signed', position: 0, subject: 'CN=stranger' } },
    ],
    [
      'by somebody whom a signer vouches for, who may not',
      () => sign(SALE, { chain: ['forger', 'signer', 'between', 'root'], key: 'forger' }),
      { code: 'chain', chain: { code: 'no-authority', position: 1 } },
    ],
    [
      'with a certificate that was over when it was signed',
      () =>
        sign(
          { ...SALE, signedDate: NOW_MS + 200_000 },
          { chain: ['short', 'between', 'root'], key: 'short' },
        ).then(async (jws) => withPayload(jws, { ...SALE, signedDate: NOW_MS - 9 * 24 * 3600_000 })),
      { code: 'chain', chain: { code: 'out-of-date', position: 0 } },
    ],
    [
      'with no chain but the signer',
      () => sign(SALE, { chain: ['signer'] }),
      { code: 'chain', chain: { code: 'too-few' } },
    ],
    [
      'with certificates that are none',
      async () =>
        new CompactSign(Buffer.from('{}'))
          .setProtectedHeader({ alg: 'ES256', x5c: ['AAAA', 'AAAA'] })
          .sign(await importPKCS8(readFileSync(join(folder, 'signer.key'), 'utf8'), 'ES256'))
          .then((jws) => withPayload(jws, SALE)),
      { code: 'chain', chain: { code: 'unreadable', position: 0 } },
    ],
    [
      'without a signature, as its head says',
      async () =>
        `${Buffer.from('{"alg":"none"}').toString('base64url')}.${(await sign(SALE)).split('.')[1]}.`,
      { code: 'wrong-algorithm', algorithm: 'none' },
    ],
    [
      'of another app',
      () => sign({ ...SALE, bundleId: 'example.other' }),
      { code: 'other-app', appId: 'example.other' },
    ],
    [
      'without a product',
      () => sign({ ...SALE, productId: undefined }),
      { code: 'wrong-payload', why: expect.stringContaining('productId') },
    ],
    ['in two parts', async () => (await sign(SALE)).split('.').slice(0, 2).join('.'), { code: 'not-a-jws' }],
    ['of a megabyte', async () => 'x'.repeat(2 ** 20), { code: 'too-large', bytes: 2 ** 20 }],
  ])('a transaction is refused with the reason: %s', async (_, make, fault) => {
    expect(await read(await make())).toMatchObject({ ok: false, fault });
  });
});

describe('Android’s form', () => {
  const { privateKey, publicKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const spki = Uint8Array.from(publicKey.export({ format: 'der', type: 'spki' }));
  const bought = {
    orderId: 'GPA.1-2..0',
    packageName: APP,
    productId: 'pass.month',
    purchaseTime: NOW_MS,
    purchaseState: 0,
    purchaseToken: 'secret-token',
    acknowledged: true,
  };
  const signed = (data: string) => createSign('SHA1').update(data).sign(privateKey, 'base64');
  const readIt = (data: string, signature = signed(data)) =>
    readSignedPurchase(data, signature, { appId: APP, publicKey: spki, ports: nodePorts });

  test('a purchase is read from the very bytes that were signed', async () => {
    const result = await readIt(JSON.stringify(bought, null, 1));
    if (!result.ok) throw new Error(result.fault.code);
    const lines = linesOfPurchase(result.value, 'ada', { kind: 'subscription' });
    expect(lines.map(({ kind }) => kind)).toEqual(['store.renewed', 'store.finished']);
    expect(lines[0]).toMatchObject({ transaction: 'GPA.1-2..0', original: 'GPA.1-2' });
    // whoever has the token can act for the buyer
    expect(JSON.stringify(lines)).not.toContain('secret-token');
    expect(linesOfPurchase({ ...result.value, purchaseState: 4, orderId: undefined }, 'ada')).toEqual([
      expect.objectContaining({ kind: 'store.deferred' }),
    ]);
  });

  test.each([
    [
      'a changed byte',
      JSON.stringify(bought),
      signed(JSON.stringify({ ...bought, productId: 'no-ads' })),
      'wrong-signature',
    ],
    ['no signature', JSON.stringify(bought), '', 'wrong-signature'],
    ['no JSON', 'bought', signed('bought'), 'wrong-payload'],
    ['another app', JSON.stringify({ ...bought, packageName: 'x' }), undefined, 'other-app'],
  ])('%s is refused', async (_, data, signature, code) => {
    expect(await readIt(data, signature)).toMatchObject({ ok: false, fault: { code } });
  });
});
