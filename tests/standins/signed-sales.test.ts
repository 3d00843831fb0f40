/**
 * What the store stand-in signs, held against who verifies it elsewhere: the vendor's own verifier with its online checks, and
 * OpenSSL for certificates, their status and Android's purchases.
 */
import { execFile } from 'node:child_process';
import { createPublicKey, verify } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import {
  Environment,
  type JWSRenewalInfoDecodedPayload,
  type JWSTransactionDecodedPayload,
  SignedDataVerifier,
  VerificationStatus,
} from '@apple/app-store-server-library';
import { linesOfPurchase, readSignedPurchase } from '../../src/core/formats/store/signed-purchase.ts';
import { nodePorts } from '../../src/node/ports.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { type ServedStore, type StoreOptions, serveStore } from '../../src/standins/store/serve-store.ts';
import { StoreLink } from '../../src/standins/store/store-link.ts';
import type { StoreOrderInput } from '../../src/standins/store/store-order.ts';
import { scratchFolder } from '../support/paths.ts';

const APP = 'example.kelpline';
const names = { en: { name: 'Pass' } };
const DAY_S = 24 * 3600;
const catalogue = storeCatalogueSchema.parse({
  fenlok: 'store-catalogue/1',
  app: APP,
  products: [
    {
      id: 'month',
      kind: 'subscription',
      period: 'P1M',
      group: 'passes',
      level: 2,
      trial: 'P1W',
      names,
      prices: { DE: { amount: 16.9, currency: 'EUR' }, '*': { amount: 18, currency: 'USD' } },
    },
    {
      id: 'year',
      kind: 'subscription',
      period: 'P1Y',
      group: 'passes',
      level: 3,
      names,
      prices: { '*': { amount: 1200, currency: 'JPY' } },
    },
    { id: 'no-ads', kind: 'non-consumable', names, prices: { '*': { amount: 4.905, currency: 'KWD' } } },
  ],
  testers: [
    { account: 'ada', country: 'DE' },
    { account: 'ken', country: 'JP' },
  ],
});
const scratch = scratchFolder();
const open: ServedStore[] = [];
afterEach(async () => {
  for (const one of open.splice(0)) await one.close();
});

async function openStore(options: Partial<StoreOptions> = {}) {
  const served = await serveStore({ catalogue, settings: { acknowledgeMs: 0 }, rate: 0, ...options });
  open.push(served);
  const link = new StoreLink(served.address);
  const order = async (wanted: StoreOrderInput) => {
    const answer = await link.order(wanted);
    if (!answer.ok) throw new Error(answer.why);
    return answer;
  };
  const root = Buffer.from(served.address.root, 'base64');
  const verifier = (isOnline: boolean, app = APP) =>
    new SignedDataVerifier([root], isOnline, Environment.SANDBOX, app);
  return {
    served,
    order,
    root,
    verifier,
    buy: async (
      product: string,
      { account = 'ada', accountToken = undefined as string | undefined } = {},
    ) => {
      const { order: id } = await order({
        do: 'ask',
        account,
        product,
        ...(accountToken && { accountToken }),
      });
      return order({ do: 'answer', account, order: id!, buys: true });
    },
    later: (stepS: number) =>
      fetch(`${served.address.store}/clock`, {
        method: 'POST',
        headers: { authorization: `Bearer ${served.address.secret}` },
        body: JSON.stringify({ stepS }),
      }),
  };
}
type Opened = Awaited<ReturnType<typeof openStore>>;

const ACCOUNT = '7d9f1a52-3b64-4b8e-9f0a-1c2d3e4f5a6b';

/** Of an account: all its transactions and renewals, as the vendor's verifier with its online checks reads them. */
async function readAll({ order, verifier }: Opened, account = 'ada') {
  const { renewals = [], transactions = [] } = await order({ do: 'restore', account });
  const reader = verifier(true);
  return {
    transactions: await Promise.all(transactions.map((jws) => reader.verifyAndDecodeTransaction(jws))),
    renewals: await Promise.all(renewals.map((jws) => reader.verifyAndDecodeRenewalInfo(jws))),
  };
}

test("the vendor's verifier takes a trial, its renewals and their terms, and finds every field that the store knows", async () => {
  const store = await openStore();
  const first = store.served.store.nowMs;
  await store.buy('month', { accountToken: ACCOUNT });
  await store.later(8 * DAY_S);
  const { renewals, transactions } = await readAll(store);
  const [trial, paid] = transactions as [JWSTransactionDecodedPayload, JWSTransactionDecodedPayload];
  const common = {
    originalTransactionId: trial.transactionId,
    bundleId: APP,
    productId: 'month',
    subscriptionGroupIdentifier: 'passes',
    originalPurchaseDate: trial.purchaseDate,
    appAccountToken: ACCOUNT,
    storefront: 'DEU',
    currency: 'EUR',
    quantity: 1,
    type: 'Auto-Renewable Subscription',
    inAppOwnershipType: 'PURCHASED',
    environment: 'Sandbox',
  };
  expect(trial).toMatchObject({
    ...common,
    price: 0,
    offerType: 1,
    offerDiscountType: 'FREE_TRIAL',
    offerPeriod: 'P1W',
    transactionReason: 'PURCHASE',
  });
  expect(trial.purchaseDate! - first).toBeLessThan(60_000);
  expect(trial.expiresDate! - trial.purchaseDate!).toBe(7 * DAY_S * 1000);
  expect(paid).toMatchObject({
    ...common,
    price: 16_900,
    purchaseDate: trial.expiresDate,
    transactionReason: 'RENEWAL',
  });
  expect(paid).not.toHaveProperty('offerType');
  expect(new Set([trial.webOrderLineItemId, paid.webOrderLineItemId, undefined]).size).toBe(3);
  expect(renewals).toEqual([
    {
      originalTransactionId: trial.transactionId,
      productId: 'month',
      autoRenewProductId: 'month',
      autoRenewStatus: 1,
      isInBillingRetryPeriod: false,
      renewalDate: paid.expiresDate,
      renewalPrice: 16_900,
      currency: 'EUR',
      recentSubscriptionStartDate: trial.purchaseDate,
      appAccountToken: ACCOUNT,
      environment: 'Sandbox',
      signedDate: store.served.store.nowMs,
    } satisfies JWSRenewalInfoDecodedPayload,
  ]);
});

test('refunds, plans that change, payments that fail and ends are told with the documented codes', async () => {
  const store = await openStore({ settings: { acknowledgeMs: 0, graceMs: 3 * DAY_S * 1000 } });
  const bought = await store.buy('no-ads', { account: 'ken' });
  const ads = (await store.verifier(true).verifyAndDecodeTransaction(bought.answer!.transaction!)) as {
    transactionId: string;
  };
  expect(ads).toMatchObject({ price: 4905, currency: 'KWD', storefront: 'JPN', type: 'Non-Consumable' });
  expect(ads).not.toHaveProperty('webOrderLineItemId');
  await store.order({ do: 'refund', transaction: ads.transactionId });
  await store.buy('month', { account: 'ken' });
  // to a lower plan: it waits for the end of the period
  await store.buy('year', { account: 'ken' });
  const { renewals, transactions } = await readAll(store, 'ken');
  expect(transactions[0]).toMatchObject({ revocationReason: 0, revocationDate: expect.any(Number) });
  expect(renewals).toMatchObject([
    { productId: 'month', autoRenewProductId: 'year', renewalPrice: 1_200_000, currency: 'JPY' },
  ]);
  const original = renewals[0]!.originalTransactionId!;
  await store.order({ do: 'payment', original, fails: true });
  await store.later(9 * DAY_S);
  const unpaid = (await readAll(store, 'ken')).renewals[0]!;
  expect(unpaid).toMatchObject({ isInBillingRetryPeriod: true, autoRenewStatus: 1 });
  expect(unpaid.gracePeriodExpiresDate! - unpaid.renewalDate!).toBe(3 * DAY_S * 1000);
  await store.order({ do: 'expire', original });
  expect((await readAll(store, 'ken')).renewals[0]).toMatchObject({
    expirationIntent: 2,
    autoRenewStatus: 0,
    isInBillingRetryPeriod: false,
  });
});

test('with its clock years ahead: what it signs holds today, with online checks', async () => {
  const store = await openStore();
  await store.later(9 * 365 * DAY_S);
  const { answer } = await store.buy('no-ads');
  const read = await store.verifier(true).verifyAndDecodeTransaction(answer!.transaction!);
  expect(read).toMatchObject({ productId: 'no-ads', signedDate: store.served.store.nowMs });
});

test('another root, another app, a changed letter, and a responder that is gone are refused', async () => {
  const [store, other] = [await openStore(), await openStore()];
  const { transaction = '' } = (await store.buy('no-ads')).answer!;
  const statusOf = (asked: Promise<unknown>) =>
    asked.then(
      () => 0,
      ({ status }: { status: number }) => status,
    );
  const [head, body, signature] = transaction.split('.');
  const changed = `${head}.${Buffer.from(
    Buffer.from(body!, 'base64url').toString().replace('no-ads', 'no-fee'),
  ).toString('base64url')}.${signature}`;
  expect(await statusOf(other.verifier(true).verifyAndDecodeTransaction(transaction))).toBe(
    VerificationStatus.VERIFICATION_FAILURE,
  );
  expect(await statusOf(store.verifier(true, 'example.other').verifyAndDecodeTransaction(transaction))).toBe(
    VerificationStatus.INVALID_APP_IDENTIFIER,
  );
  expect(await statusOf(store.verifier(true).verifyAndDecodeTransaction(changed))).toBe(
    VerificationStatus.VERIFICATION_FAILURE,
  );
  await open.shift()!.close();
  expect(await statusOf(store.verifier(true).verifyAndDecodeTransaction(transaction))).toBe(
    VerificationStatus.RETRYABLE_VERIFICATION_FAILURE,
  );
  expect(await statusOf(store.verifier(false).verifyAndDecodeTransaction(transaction))).toBe(0);
});

const openssl = async (...args: string[]) => (await promisify(execFile)('openssl', args)).stdout;

test('OpenSSL verifies the chain, and is told that its certificates are good and others unknown', async () => {
  const [store, other] = [await openStore(), await openStore()];
  const chainOf = async (of: Opened, name: string) => {
    const { transaction = '' } = (await of.buy('no-ads')).answer!;
    const { x5c } = JSON.parse(Buffer.from(transaction.split('.')[0]!, 'base64url').toString()) as {
      x5c: string[];
    };
    return x5c.map((der, i) => {
      const file = join(scratch, `${name}-${i}.pem`);
      writeFileSync(
        file,
        `-----BEGIN CERTIFICATE-----\n${der.replace(/.{64}/g, '$&\n')}\n-----END CERTIFICATE-----\n`,
      );
      return file;
    });
  };
  const [signer, between, root] = (await chainOf(store, 'own')) as [string, string, string];
  const [stranger] = (await chainOf(other, 'other')) as [string];
  const url = `${store.served.address.store}/certificate-status`;
  const ask = (issuer: string, certificate: string, ...more: string[]) =>
    openssl('ocsp', ...more, '-issuer', issuer, '-cert', certificate, '-url', url, '-CAfile', root);
  expect(await openssl('verify', '-purpose', 'any', '-CAfile', root, '-untrusted', between, signer)).toMatch(
    /: OK/,
  );
  for (const digest of ['-sha1', '-sha256', '-sha512']) {
    expect(await ask(between, signer, digest, '-verify_other', between)).toMatch(/own-0\.pem: good/);
    expect(await ask(root, between, digest)).toMatch(/own-1\.pem: good/);
  }
  // the number of one that this store never issued
  expect(await ask(between, stranger)).toMatch(/other-0\.pem: unknown/);
  const refused = ask(stranger, signer).catch(({ stdout }: { stdout: string }) => stdout);
  expect(await refused).toMatch(/unauthorized/);
  const nonsense = await fetch(url, { method: 'POST', body: 'no request' });
  expect(Buffer.from(await nonsense.arrayBuffer()).toString('hex')).toBe('30030a0101');
});

test("Android's purchases: exact bytes, the documented fields, one token for all periods, acknowledged once finished", async () => {
  const store = await openStore();
  const { answer } = await store.buy('month', { accountToken: ACCOUNT });
  const { data, signature, transaction } = answer!.purchase!;
  const publicKey = Buffer.from(store.served.address.licenseKey, 'base64');
  const of = { appId: APP, publicKey, ports: nodePorts };
  const pem = createPublicKey({ key: publicKey, format: 'der', type: 'spki' });
  expect(verify('sha1', Buffer.from(data), pem, Buffer.from(signature, 'base64'))).toBe(true);
  expect(verify('sha1', Buffer.from(`${data} `), pem, Buffer.from(signature, 'base64'))).toBe(false);
  expect(await readSignedPurchase(data, signature, of)).toMatchObject({
    ok: true,
    value: {
      orderId: transaction,
      packageName: APP,
      productId: 'month',
      purchaseState: 0,
      obfuscatedAccountId: ACCOUNT,
      autoRenewing: true,
      acknowledged: false,
    },
  });
  await store.order({ do: 'finish', account: 'ada', transaction });
  await store.later(40 * DAY_S);
  const { purchases = [] } = await store.order({ do: 'restore', account: 'ada' });
  const read = purchases.map((one) => JSON.parse(one.data) as Record<string, unknown>);
  expect(read.map(({ orderId }) => orderId)).toEqual([transaction, `${transaction}..0`, `${transaction}..1`]);
  expect(new Set(read.map(({ purchaseToken }) => purchaseToken)).size).toBe(1);
  expect(read.every(({ acknowledged }) => acknowledged)).toBe(true);
  for (const one of purchases) {
    const result = await readSignedPurchase(one.data, one.signature, of);
    if (!result.ok) throw new Error('not verified');
    const kind = one === purchases[0] ? 'store.bought' : 'store.renewed';
    expect(linesOfPurchase(result.value, 'ada')[0]).toMatchObject({ kind, original: transaction });
  }
  const { purchases: others = [] } = await store.order({ do: 'refund', transaction });
  expect(JSON.parse(others[0]!.data)).toMatchObject({ purchaseState: 1 });
});
