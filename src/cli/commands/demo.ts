import { copyFile, mkdir, rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { plannedCells } from '../../core/checklist/coverage.ts';
import type { Capture } from '../../core/model/capture.ts';
import { type DrillId, drillIds } from '../../core/model/drill.ts';
import { type Intent, intentSchema } from '../../core/model/intent.ts';
import type { CoverageCell } from '../../core/model/judgement.ts';
import { textReport } from '../../core/reports/text.ts';
import type { Device } from '../../device/device.ts';
import type { DrillKits } from '../../device/drills/drill.ts';
import { adsClient, readAdsFile } from '../../node/ads/ads-file.ts';
import { addCapture } from '../../node/captures.ts';
import { addPackage, type Dossier, exists, openDossier } from '../../node/dossier.ts';
import { readIntent } from '../../node/project.ts';
import { withPackage } from '../../node/read-package.ts';
import { readYaml } from '../../node/read-yaml.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, progress, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import {
  ANDROID_PACKAGE,
  addKelplineReviews,
  addListings,
  addMapping,
  addSales,
  addSites,
  bootIosPhone,
  bootPhone,
  bootStandin,
  DATA,
  IOS_PACKAGE,
  IOS_SHAPE,
  NETWORK_FILES,
  PUSH_FILES,
  SALE_FILES,
  standinTools,
} from './demo/surroundings.ts';
import { buyingKit } from './drill/buying-kit.ts';
import { pushKit } from './drill/push-kit.ts';
import { judgeAndReport, printReports } from './judge.ts';
import { inCwd } from './options.ts';

const KELPLINE = 'example.kelpline';
const IOS_DOSSIER = 'dossier-ios';
/** `fenlok demo`: the whole job on a made-up island-ferry app. */
export const demoCommand: AddCommand = (command, { io }) => {
  command
    .option('--out <folder>', 'where to put it', 'fenlok-demo')
    .option('--all', 'print every item and finding')
    .option('--next', 'go on with the candidate after: capture it, judge it, and compare the two')
    .option('--json', 'print the judgement as JSON; with --next the comparison')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok demo\n  fenlok demo --next\nThe exit code is 0 when the demo ran, whatever its verdict.',
    )
    .action(async (options: { out: string; all?: boolean; json?: boolean; next?: boolean }) => {
      const out = inCwd(io, options.out);
      if (options.next) {
        const { demoNext } = await import('./demo/next.ts');
        await demoNext(out, io, options);
        return;
      }
      await prepare(out);
      await drillPhones(out, io);
      const { judgement, reports } = await judgeAndReport({ ...io, cwd: out }, { dossier: 'dossier' });
      io.out(
        options.json
          ? `${JSON.stringify(judgement, null, 2)}\n`
          : textReport(judgement, {
              style: styleFor(io),
              widthColumns: io.columns,
              all: options.all ?? false,
            }),
      );
      printReports(io, reports);
      await judgeIos(out, io);
      io.err(
        `\nGo on by hand:  cd ${relative(io.cwd, out) || '.'}  and there  fenlok judge,  fenlok rule …,  fenlok sign …\nThe candidate after:  fenlok demo --next\n`,
      );
    });
};

/** The same app on the other platform has a verdict of its own. */
async function judgeIos(out: string, io: Io): Promise<void> {
  const { judgement } = await judgeAndReport({ ...io, cwd: out }, { dossier: IOS_DOSSIER });
  const failed = judgement.findings.filter(({ basis }) => basis === 'measured').length;
  io.err(
    `The iOS build: ${judgement.verdict}, ${failed} findings measured. See them with  fenlok judge --dossier ${IOS_DOSSIER}\n`,
  );
}

/**
 * A folder as a team would have it: intent and rulings beside the dossier. What a person wrote there stays;
 * the demo's own evidence is made again. A folder that holds another project is left alone.
 */
async function prepare(out: string): Promise<void> {
  const intentFile = join(out, 'fenlok.yaml');
  const dossier = join(out, 'dossier');
  const found = [
    (await exists(intentFile)) && (await readYaml(intentFile, intentSchema)).value.app.id,
    (await exists(join(dossier, 'dossier.json'))) && (await openDossier(dossier)).candidate.build.appId,
  ];
  if (found.some((appId) => appId && appId !== KELPLINE))
    throw new UsageError(`${out} holds another project; name an empty folder with --out`);
  await mkdir(out, { recursive: true });
  for (const folder of ['push', 'networks', 'sales']) await mkdir(join(out, folder), { recursive: true });
  for (const name of ['fenlok.yaml', 'rulings.yaml', ...PUSH_FILES, ...SALE_FILES, ...NETWORK_FILES])
    if (!(await exists(join(out, name)))) await copyFile(join(DATA, name), join(out, name));
  for (const folder of [dossier, join(out, IOS_DOSSIER)])
    if (await exists(join(folder, 'dossier.json'))) await rm(folder, { recursive: true });
}

/**
 * Boots stand-in phones, each a process of its own, and drives them straight over TCP: one is captured screen by screen, another
 * put through the drills, two buy and load ads; and one of iOS does through a lookout what can be done there.
 */
async function drillPhones(out: string, io: Io): Promise<void> {
  const dossier = await prepareAndroid(out, io);
  const ios = await prepareIos(out, io);
  const intent = await readIntent(join(out, 'fenlok.yaml'));
  const { drillDevice } = await import('../../device/drill-session.ts');
  const { openDevice } = await import('../../device/bridge/open-device.ts');
  const { openLookout } = await import('../../device/ios/ios-device.ts');
  const stateFolder = join(out, 'state');
  const { adsFile, ios: iosOnes, messagesFile, phones, storeFile, stop } = await bootAll(out);
  const intentFile = join(out, 'fenlok.yaml');
  const push = await pushKit(messagesFile, intentFile, intent, dossier);
  const iosPush = await pushKit(iosOnes.gatewayFile, intentFile, intent, ios);
  const second = await openDevice(phones[3]!.address, { stateFolder });
  const store = await buyingKit(storeFile, dossier, second);
  const ads = { client: adsClient(await readAdsFile(adsFile)), store: store.client };
  const first: DrillId[] = ['capture-sweep', 'push'];
  const buying: DrillId[] = ['purchases', 'ads'];
  const others = drillIds.filter((id) => ![...first, ...buying].includes(id));
  const kits = { push, store, ads };
  const withTools: Intent = { ...intent, ios: { commands: standinTools(stateFolder) } };
  const iosStore = await buyingKit(iosOnes.storeFile, ios, undefined);
  const iosAds = { client: adsClient(await readAdsFile(iosOnes.adsFile)), store: iosStore.client };
  const onScreens: DrillId[] = ['capture-sweep', ...others.filter((id) => id !== 'roam')];
  const through = (i: number) => () => openLookout(iosOnes.phones[i]!.address, iosOnes.phones[i]!.token);
  const overBridge = (i: number) => () => openDevice(phones[i]!.address, { stateFolder });
  const work: PhoneWork[] = [
    { open: overBridge(0), dossier, intent, kits, drills: first },
    { open: overBridge(1), dossier, intent, kits, drills: others },
    { open: overBridge(2), dossier, intent, kits, drills: buying },
    { open: through(0), dossier: ios, intent: withTools, kits: {}, drills: onScreens },
    {
      open: through(1),
      dossier: ios,
      intent: withTools,
      kits: { push: iosPush, store: iosStore, ads: iosAds },
      drills: ['push', ...buying],
    },
  ];
  const tell = tellerOf(work.length, io);
  try {
    await Promise.all(
      work.map(async ({ dossier: own, drills, intent: wanted, kits: around, open }, i) => {
        const device = await open();
        try {
          await drillDevice(device, {
            dossier: own,
            intent: wanted,
            stateFolder,
            wanted: { drills },
            kits: around,
            signal: io.signal,
            onPlan: ({ steps }) => tell.planned(i, steps.length),
            onStep: (step) => tell.step(step.says),
            onResult: () => tell.done(i),
          });
        } finally {
          await device.close();
        }
      }),
    );
  } finally {
    push.sender.close();
    iosPush.sender.close();
    await second.close();
    await stop();
  }
}

/** What one phone does in the demo. */
interface PhoneWork {
  open(): Promise<Device>;
  dossier: Dossier;
  intent: Intent;
  kits: DrillKits;
  drills: readonly DrillId[];
}

/** One line for all phones: it begins once all of them have their plans. */
function tellerOf(phones: number, io: Io) {
  const show = progress(io, 'Capturing, drilling and buying on six stand-in phones');
  const total = Array.from({ length: phones }, () => 0);
  const done = Array.from({ length: phones }, () => 0);
  const sum = (counts: readonly number[]) => counts.reduce((all, count) => all + count, 0);
  const step = (detail?: string) => {
    if (total.every((count) => count > 0)) show(sum(done), sum(total), detail);
  };
  return {
    step,
    planned: (phone: number, steps: number) => {
      total[phone] = steps;
    },
    done: (phone: number) => {
      done[phone]! += 1;
      step();
    },
  };
}

async function prepareAndroid(out: string, io: Io): Promise<Dossier> {
  const folder = join(out, 'dossier');
  const file = join(DATA, ANDROID_PACKAGE);
  io.err(`Reading ${relative(io.cwd, file) || file}\n`);
  await addPackage(folder, file);
  const dossier = await openDossier(folder);
  await addSites(dossier);
  await addSales(dossier, out);
  await addListings(dossier);
  await addKelplineReviews(dossier);
  await addMapping(dossier);
  return dossier;
}

/** The services that apps talk to, each known by a file, and phones that use them: two of messages, two of store and ads. */
async function bootAll(out: string) {
  const messagesFile = join(out, 'messages.json');
  const [ios, { adsFile, files, servers, storeFile }, service] = await Promise.all([
    bootIos(out),
    bootShops(out, ''),
    bootStandin(['messages', '--connection', messagesFile, '--json']),
  ]);
  const buyer = ['--store', storeFile, '--account', 'ada', '--ads', adsFile];
  const phones = await Promise.all(
    [['--push', messagesFile], ['--push', messagesFile], buyer, buyer].map((around) => bootPhone(around)),
  );
  const stop = async () => {
    for (const one of [...phones, service, ...servers, ...ios.all]) one.stop();
    // they hold keys of servers that are gone
    for (const one of [messagesFile, ...files, ...ios.files]) await rm(one, { force: true });
  };
  return { adsFile, ios, messagesFile, phones, storeFile, stop };
}

/** A store and ad networks; each steps through time, or has nothing to show, as one drill wants it. */
async function bootShops(out: string, suffix: string) {
  const storeFile = join(out, `test-store${suffix}.json`);
  const adsFile = join(out, `test-ads${suffix}.json`);
  const servers = await Promise.all([
    bootStandin(['store', '--catalogue', join(DATA, 'store.yaml'), '--connection', storeFile, '--json']),
    bootStandin(['ads', '--networks', join(DATA, 'ad-exchange.yaml'), '--connection', adsFile, '--json']),
  ]);
  return { adsFile, storeFile, servers, files: [storeFile, adsFile] };
}

/** Two iOS phones: one for what is done on screens, one that gets messages, buys and loads ads. */
async function bootIos(out: string) {
  const gatewayFile = join(out, 'gateway.json');
  const [gateway, { adsFile, files, servers, storeFile }] = await Promise.all([
    bootStandin(['push', '--connection', gatewayFile, '--json']),
    bootShops(out, '-ios'),
  ]);
  const buyer = ['--push', gatewayFile, '--store', storeFile, '--account', 'ada', '--ads', adsFile];
  const stateFolder = join(out, 'state');
  const phones = await Promise.all([[], buyer].map((around) => bootIosPhone(stateFolder, around)));
  const all = [gateway, ...servers, ...phones];
  return { adsFile, gatewayFile, storeFile, phones, all, files: [gatewayFile, ...files] };
}

// Drawing and packing run beside one another.
const AT_ONCE = 2;

/**
 * The same app as an iOS build. What its debug code writes of its screens as they are, in the source language, comes first; a UI test
 * is told less of them.
 */
async function prepareIos(out: string, io: Io): Promise<Dossier> {
  // only here, so that the other commands need not wait for fonts and layout to load
  const { kelplineIos } = await import('../../standins/phone/apps/kelpline/ios.ts');
  const { iosShapes } = await import('../../standins/phone/ios/ios-shapes.ts');
  const { TREE_CARRIES } = await import('../../standins/phone/screen/dump-tree.ts');
  const { startPhone } = await import('../../standins/phone/phone.ts');
  const folder = join(out, IOS_DOSSIER);
  const file = join(DATA, IOS_PACKAGE);
  io.err(`Reading ${relative(io.cwd, file) || file}\n`);
  await addPackage(folder, file);
  const dossier = await openDossier(folder);
  await addSites(dossier);
  const intent = await readIntent(join(out, 'fenlok.yaml'));
  const cells = plannedCells(intent).filter(isPlain);
  const tell = progress(io, 'Drawing iOS screens');
  await withPackage(join(DATA, ANDROID_PACKAGE), (apk) =>
    withPackage(file, async (installed) => {
      const phone = startPhone(iosShapes[IOS_SHAPE]!, installed, kelplineIos, apk);
      let next = 0;
      let done = 0;
      const work = async () => {
        while (next < cells.length) {
          io.signal.throwIfAborted();
          const cell = cells[next++]!;
          const { png, tree } = await phone.show(cell);
          const capture: Capture = {
            fenlok: 'capture/1',
            platform: 'ios',
            build: dossier.candidate.build,
            cell: { ...cell, device: phone.shape.name },
            densityDpi: phone.shape.densityDpi,
            picture: 'screen.png',
            tree,
            carries: [...TREE_CARRIES],
          };
          await addCapture(dossier, `${cell.screen}.json`, { capture, picture: png });
          tell(++done, cells.length);
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, work));
    }),
  );
  return dossier;
}

const isPlain = ({ locale, orientation, procedure, textScale }: CoverageCell['cell']): boolean =>
  locale === 'en' && orientation === 'portrait' && procedure === 'as-is' && textScale === 1;
