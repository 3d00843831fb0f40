/** The demo app's purchases on two stand-in phones and a test store, and apps that differ from it in one thing. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { buyingKit } from '../../src/cli/commands/drill/buying-kit.ts';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { MatrixContext } from '../../src/core/checklist/matrices/matrix.ts';
import { purchasesMatrix } from '../../src/core/checklist/matrices/purchases.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import type { AppStore, PhoneApp, StoreHost } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { type ServedStore, serveStore } from '../../src/standins/store/serve-store.ts';
import { kelplineDossier, kelplineIntent } from '../support/drill-bench.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const catalogue = storeCatalogueSchema.parse(parse(readFileSync(join(demoFolder, 'store.yaml'), 'utf8')));
const intent = {
  ...kelplineIntent,
  purchases: {
    ...kelplineIntent.purchases,
    products: kelplineIntent.purchases.products.filter(({ id }) => id !== 'crossings.20'),
  },
};

let runs = 0;
/** What is found when everything is bought from an app in every way. */
async function buyAll(app: PhoneApp) {
  const store: ServedStore = await serveStore({ catalogue, settings: {} });
  const storeFile = join(scratch, `store-${++runs}.json`);
  writeFileSync(storeFile, JSON.stringify({ fenlok: 'test-store/1', ...store.address }));
  const signedIn = { ...store.address, account: intent.purchases.account };
  const phones = await Promise.all([0, 1].map(() => bootPhone({ apps: [app], store: signedIn })));
  const stateFolder = join(scratch, 'state');
  const [device, second] = await Promise.all(
    phones.map(({ address }) => openDevice(address, { stateFolder })),
  );
  const folder = join(scratch, `dossier-${runs}`);
  const dossier = await kelplineDossier(folder);
  try {
    const { results } = await drillDevice(device!, {
      dossier,
      intent,
      stateFolder,
      wanted: { drills: ['purchases'] },
      kits: { store: await buyingKit(storeFile, dossier, second) },
    });
    const facts = indexFacts(results.flatMap((result) => result.facts));
    const findings = collectFindings(
      checks.filter(({ area }) => area === 'purchases'),
      facts,
      intent,
    ).flatMap((report) => report.findings);
    return {
      found: findings
        .map(
          ({ check, identity }) =>
            `${check} ${identity.subject.replace('product ', '')} ${identity.aspect ?? ''}`,
        )
        .sort(),
      table: purchasesMatrix.table(new MatrixContext(facts, intent, findings, false)),
      trouble: results.flatMap(({ trouble = [] }) => trouble),
      folder,
      secret: store.address.secret,
    };
  } finally {
    await Promise.all([
      device!.close(),
      second!.close(),
      ...phones.map((phone) => phone.close()),
      store.close(),
    ]);
  }
}

const PLANTED = [
  'ended-purchase no-ads kept',
  'ended-purchase pass.year kept',
  'product-ids crossing.20 not-intended',
  'product-texts pass.month price de',
  'unfinished-purchase crossings.10 granted-twice',
  'unfinished-purchase crossings.10 unfinished',
  'unrestored-purchase no-ads not-restored',
];

test('the demo app: what is planted, every situation seen, and no secret in the dossier', async () => {
  const { folder, found, secret, table, trouble } = await buyAll(kelpline);
  expect([found, trouble]).toEqual([PLANTED, []]);
  const cells = table.rows.flatMap(({ cells: of, name }) =>
    of.map(({ outcome }, i) => `${name} ${table.columns[i]} ${outcome}`),
  );
  expect(cells.filter((cell) => cell.endsWith('untested'))).toEqual([]);
  expect(cells.filter((cell) => cell.endsWith('failed')).sort()).toEqual([
    'all expired, quiet pass.year failed',
    'bought elsewhere no-ads failed',
    'finished crossings.10 failed',
    'one of two expired pass.year failed',
    'refunded no-ads failed',
    'refunded pass.year failed',
    'reset pass.year failed',
    'second device no-ads failed',
  ]);
  for (const name of readdirSync(join(folder, 'traces')))
    expect(readFileSync(join(folder, 'traces', name), 'utf8')).not.toContain(secret);
});

/** Holds what the store says is held, acknowledges each sale once it is handed over, and says so. */
const mended: AppStore = {
  ...kelpline.store!,
  answered: (host, answer) => {
    if (answer.outcome === 'bought') {
      hand(host, answer.sale);
      tellAll(host, [
        ...heldIn(host),
        ...(answer.sale.product === 'crossings.10' ? [] : [answer.sale.product]),
      ]);
    } else say(host, { kind: `purchase.${answer.outcome}`, product: answer.product });
  },
  owned: (host, sales) => {
    for (const sale of sales) if (!sale.isFinished) hand(host, sale);
    tellAll(
      host,
      sales
        .filter(({ isHeld, product }) => isHeld && product !== 'crossings.10')
        .map(({ product }) => product),
      host.storage.get('launch'),
    );
  },
  unreachable: (host) => tellAll(host, heldIn(host), host.storage.get('launch')),
};
const heldIn = ({ storage }: StoreHost): string[] => JSON.parse(storage.get('held') ?? '[]') as string[];
function hand(host: StoreHost, { product, transaction }: { product: string; transaction: string }): void {
  say(host, { kind: 'purchase.granted', product, transaction });
  host.finish(transaction);
}
function tellAll(host: StoreHost, products: readonly string[], when = 'changed'): void {
  const held = [...new Set(products)];
  host.storage.set('held', JSON.stringify(held));
  say(host, { kind: 'access.now', products: held, when });
}
const say = (host: StoreHost, line: object): void => host.log('Fenlok', JSON.stringify(line));

const CATALOGUE_ALONE = PLANTED.filter((one) => one.startsWith('product-'));
const withStore = (store: Partial<AppStore>): PhoneApp => ({ ...kelpline, store: { ...mended, ...store } });

test.each<[string, Partial<AppStore>, string[]]>([
  ['nothing else where all of it is mended', {}, []],
  [
    'goods for the asking',
    {
      answered: (host, answer) =>
        answer.outcome === 'bought'
          ? mended.answered(host, answer)
          : tellAll(host, [...heldIn(host), answer.product]),
    },
    ['crossings.10', 'no-ads', 'pass.month', 'pass.year'].map((id) => `unpaid-purchase ${id} granted-unpaid`),
  ],
  [
    'goods only after a relaunch',
    {
      answered: (host, answer) => {
        if (answer.outcome !== 'bought') mended.answered(host, answer);
        else {
          host.finish(answer.sale.transaction);
          say(host, { kind: 'access.now', products: heldIn(host), when: 'changed' });
        }
      },
    },
    ['no-ads', 'pass.month', 'pass.year'].map((id) => `missing-purchase ${id} missing`),
  ],
  [
    'nothing without the store',
    { unreachable: (host) => say(host, { kind: 'access.now', products: [], when: 'launched' }) },
    ['no-ads', 'pass.month', 'pass.year'].map((id) => `missing-purchase ${id} missing`),
  ],
  [
    'acknowledged twice',
    {
      owned: (host, sales, isAsked) => {
        for (const { product, transaction } of sales) if (product === 'no-ads') host.finish(transaction);
        mended.owned(host, sales, isAsked);
      },
    },
    ['unfinished-purchase no-ads finished-twice'],
  ],
])('%s', async (_, store, expected) => {
  const { found, trouble } = await buyAll(withStore(store));
  expect(trouble).toEqual([]);
  expect(found).toEqual([...CATALOGUE_ALONE, ...expected].sort());
});
