import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { indexFacts } from '../../core/areas/check.ts';
import { currentDrillName, type DrillId, drillIds } from '../../core/model/drill.ts';
import type { Intent } from '../../core/model/intent.ts';
import type { Part } from '../../core/model/part.ts';
import { UnreadableError } from '../../core/model/problem.ts';
import type { ListedDevice } from '../../device/bridge/bridge-line.ts';
import { listDevices } from '../../device/bridge/open-device.ts';
import type { Device, DeviceInfo } from '../../device/device.ts';
import { drillDevice, planFor, useTools } from '../../device/drill-session.ts';
import { allDrills } from '../../device/drills/drills.ts';
import type { Wanted } from '../../device/drills/plan.ts';
import { openLookout } from '../../device/ios/ios-device.ts';
import { listLookouts } from '../../device/ios/known-lookouts.ts';
import { openPhone, type PhoneOptions } from '../../device/open-phone.ts';
import type { PutBack } from '../../device/overrides/setting-overrides.ts';
import { adsClient, readAdsFile } from '../../node/ads/ads-file.ts';
import { type Dossier, openDossier } from '../../node/dossier.ts';
import { observeDossier } from '../../node/observe.ts';
import { readProject } from '../../node/project.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type Io, UsageError } from '../io.ts';
import { type BridgeCall, bridgeOf, openAll, wayOf, withBridge } from './device-options.ts';
import { buyingKit } from './drill/buying-kit.ts';
import { printPlan } from './drill/format-plan.ts';
import {
  forMachines,
  formatPutBack,
  formatRestoredFirst,
  formatResults,
  isTabledDrill,
} from './drill/format-results.ts';
import { drillFromHere, type HereCall, withHere, withoutHere } from './drill/here.ts';
import { pushKit } from './drill/push-kit.ts';
import { teller } from './drill/teller.ts';
import { type DossierOptions, inCwd, partIn, renamedOption, withDossier } from './options.ts';

interface DrillOptions extends DossierOptions, BridgeCall, HereCall {
  device: string[];
  screen?: string[];
  only?: string;
  part?: Part;
  install?: boolean;
  rerun?: boolean;
  steps: string;
  minutes: string;
  push?: string;
  store?: string;
  secondDevice?: string;
  ads?: string;
  dryRun?: boolean;
  devices?: boolean;
  json?: boolean;
}

/** `fenlok drill`: procedures on a device, into the dossier. */
export const drillCommand: AddCommand = (command, { io, finish }) => {
  renamedOption(renamedOption(withDossier(command), '--again', '--rerun'), '--put-back', 'fenlok restore');
  withBridge(withHere(command))
    .argument('[names...]', `which: ${drillIds.join(', ')} (default: all but roam and ratings)`)
    .option(
      '--device <serial>',
      'a serial number, host:port, or ios:host:port of a lookout; given several times, they are driven at once',
      collect,
      [],
    )
    .option('--screen <id>', 'only this screen; may be given several times', collect)
    .option('--only <words>', 'only what is described with all these words: "dark de", or "process-death"')
    .option('--part <i/n>', 'only this part of the runs, where several machines share them: 2/4', partIn)
    .option('--install', "install the dossier's package first")
    .option('--rerun', 'run again what the dossier holds already')
    .option('--steps <number>', 'how many acts a roam may take', '150')
    .option('--minutes <number>', 'and for how long', '10')
    .option(
      '--push <file>',
      'the messaging service that push sends through, as `fenlok standin messages --connection` writes it; it clears the data of the app',
    )
    .option(
      '--store <file>',
      'the test store that purchases buys from, as `fenlok standin store --connection` writes it; it clears the data of the app, and what its tester bought',
    )
    .option(
      '--ads <file>',
      'the ad networks that ads loads from, as `fenlok standin ads --connection` writes it; it clears the data of the app',
    )
    .option('--second-device <serial>', 'where purchases restores what was bought on the first')
    .option('--dry-run', 'print the plan and how long it will take, and do nothing')
    .option('--devices', 'list the devices that the bridge knows, and lookouts on iOS')
    .option('--json', 'print the results as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok drill process-death --here              the app in front, on the screen that you have reached\n  fenlok drill                                     everything, on the one phone that is attached\n  fenlok drill process-death --screen booking --device emulator-5554\n  fenlok standin phone --package app.apk           (then: fenlok drill --device 127.0.0.1:PORT)\n\nIt goes on where an earlier call was stopped. Settings that it changes are restored, also after Ctrl-C.\nWithout --device and --server it goes by ANDROID_SERIAL, ANDROID_ADB_SERVER_ADDRESS and _PORT, ADB_SERVER_SOCKET.\nExit codes: 0 done, 3 another build or none is installed, 4 some runs prove nothing, 5 no device',
    )
    .action(async (names: string[], options: DrillOptions) => {
      const bridge = bridgeOf(options, io);
      if (options.devices) {
        await printDevices(bridge, options, io);
        return;
      }
      if (options.here) {
        finish(await drillFromHere(names, options, io));
        return;
      }
      const stray = withoutHere(options);
      if (stray) throw new UsageError(`${stray}: it works with --here only`);
      const drills = drillsOf(names);
      const way = wayOf(options);
      const serial = io.env.ANDROID_SERIAL;
      const named = options.device.length > 0 || !serial ? options.device : [serial];
      const devices = await openAll(named, bridge, way);
      let second: Device | undefined;
      try {
        if (options.secondDevice) second = await openPhone(options.secondDevice, bridge, way);
        finish(await runAll(devices, second, drills, bridge.stateFolder, options, io));
      } finally {
        const open = second ? [...devices, second] : devices;
        await Promise.all(open.map((device) => device.close().catch(() => {})));
      }
    });
};

const collect = (value: string, before: string[] = []): string[] => [...before, value];

function numberOf(option: string, text: string): number {
  const value = Number(text);
  if (!(value > 0)) throw new UsageError(`${option} ${text}: expected a number above 0`);
  return value;
}

function drillsOf(names: readonly string[]): DrillId[] {
  const former = names.find((name) => currentDrillName(name) !== name);
  if (former) throw new UsageError(`the drill ${former} is now called ${currentDrillName(former)}`);
  const unknown = names.find((name) => !(drillIds as readonly string[]).includes(name));
  if (unknown) throw new UsageError(`there is no drill "${unknown}"; there are ${drillIds.join(', ')}`);
  return names.length > 0
    ? (names as DrillId[])
    : drillIds.filter((id) => !allDrills.some((drill) => drill.id === id && drill.onlyNamed));
}

type Listed = ListedDevice & Partial<DeviceInfo> & { platform: 'android' | 'ios' };

async function printDevices(phones: PhoneOptions, options: DrillOptions, io: Io): Promise<void> {
  const lookouts = await listedLookouts(phones.stateFolder);
  // without a bridge there are lookouts all the same
  const listed = await listDevices(phones).catch((error: unknown) => {
    if (lookouts.length === 0) throw error;
    return [];
  });
  const attached = await Promise.all(
    listed.map(async (one): Promise<Listed> => {
      if (one.state !== 'device') return { ...one, platform: 'android' };
      const device = await openPhone(one.serial, phones, 'server');
      await device.close();
      return { ...one, ...device.info, platform: 'android' };
    }),
  );
  const devices = [...attached, ...lookouts];
  if (options.json) io.out(`${JSON.stringify(devices, null, 2)}\n`);
  else if (devices.length === 0) io.out('No device is attached.\n');
  for (const device of options.json ? [] : devices)
    io.out(`${device.serial.padEnd(22)} ${device.state.padEnd(12)} ${formatShape(device)}\n`);
}

const listedLookouts = async (stateFolder: string): Promise<Listed[]> =>
  Promise.all(
    (await listLookouts(stateFolder)).map(async ({ address, name, token }): Promise<Listed> => {
      const listed: Listed = { serial: `ios:${address}`, state: 'offline', model: name, platform: 'ios' };
      const device = await openLookout(address, token).catch(() => undefined);
      await device?.close();
      return device ? { ...listed, state: 'device', ...device.info } : listed;
    }),
  );

const formatShape = ({
  densityDpi,
  heightPx,
  isFoldable,
  model = '',
  platform,
  sdk,
  widthPx,
}: Listed): string =>
  sdk === undefined
    ? model
    : `${model}, ${platform === 'ios' ? 'iOS' : 'API'} ${sdk}, ${widthPx} × ${heightPx} px at ${densityDpi} dpi${isFoldable ? ', foldable' : ''}`;

async function runAll(
  devices: readonly Device[],
  second: Device | undefined,
  drills: readonly DrillId[],
  stateFolder: string,
  options: DrillOptions,
  io: Io,
): Promise<0 | 4> {
  const dossier = await openDossier(inCwd(io, options.dossier));
  const project = await readProject(
    io.cwd,
    dossier.candidate.build.appId,
    options.intent && inCwd(io, options.intent),
  );
  const { intent } = project;
  checkScreens(intent, options, io);
  const wanted = wantedOf(drills, options);
  const session = {
    dossier,
    intent,
    stateFolder,
    wanted,
    isRerun: options.rerun ?? false,
    roamSteps: numberOf('--steps', options.steps),
    roamMs: numberOf('--minutes', options.minutes) * 60_000,
    signal: io.signal,
  };
  const push =
    options.push && project.intentFile
      ? await pushKit(inCwd(io, options.push), project.intentFile, intent, dossier)
      : undefined;
  const store = options.store ? await buyingKit(inCwd(io, options.store), dossier, second) : undefined;
  const ads = options.ads
    ? {
        client: adsClient(await readAdsFile(inCwd(io, options.ads))),
        ...(store && { store: store.client }),
      }
    : undefined;
  const kits = { push, store, ads };
  if (options.install) await installAll(second ? [...devices, second] : devices, dossier, intent, io);
  if (options.dryRun) {
    for (const [i, device] of devices.entries()) {
      const own = { ...session, kits, wanted: i === 0 ? wanted : withoutTester(wanted) };
      printPlan(await planFor(device, own), device, options, io);
    }
    return exitCode.done;
  }
  const tell = teller(devices, io);
  const reports = await Promise.all(
    devices.map(async (device, i) => {
      const report = await drillDevice(device, {
        ...session,
        wanted: i === 0 ? wanted : withoutTester(wanted),
        kits,
        onRestored: (done) => io.err(formatRestoredFirst(device.serial, done)),
        onPlan: (plan) => tell.plan(device, plan),
        onStep: (step, done) => tell.step(device, step.says, done),
      });
      tell.end(device);
      return { device: device.serial, name: device.info.name, ...report };
    }),
  ).finally(() => push?.sender.close());
  if (options.json) io.out(`${JSON.stringify(reports.map(forMachines), null, 2)}\n`);
  const isTabled = reports.some(({ results }) => results.some(({ step }) => isTabledDrill(step.drill)));
  const dossierFacts = isTabled
    ? indexFacts(await observeDossier(dossier, intent, { signal: io.signal }))
    : undefined;
  for (const { device, putBack: back, results } of reports) {
    if (!options.json) io.out(formatResults(device, results, intent, io, dossierFacts));
    if (back.length > 0) io.err(formatRestored(device, back));
  }
  const isProven = reports.every(({ results }) => results.every(({ trouble }) => !trouble));
  return isProven ? exitCode.done : exitCode.open;
}

const wantedOf = (drills: readonly DrillId[], { only, part, screen }: DrillOptions): Wanted => ({
  drills,
  screens: screen,
  only: only?.split(/[\s,]+/).filter(Boolean),
  part,
});

function checkScreens(intent: Intent, options: DrillOptions, io: Io): void {
  const known = intent.screens.map(({ id }) => id);
  const unknown = options.screen?.find((id) => !known.includes(id));
  if (unknown)
    throw new UsageError(
      `there is no screen "${unknown}" in fenlok.yaml; there are ${known.join(', ') || 'none'}`,
    );
  if (known.length === 0)
    io.err(
      'fenlok.yaml names no screens, so nothing but cold-start and roam can be run. A roam proposes some: fenlok drill roam\n',
    );
}

function formatRestored(device: string, back: readonly PutBack[]): string {
  const left = back.filter(({ now, was }) => now !== was);
  return left.length === 0
    ? `${device}: ${back.length} settings are restored, and read so\n`
    : `${formatPutBack(left).join('\n')}\n`;
}

/** One tester buys and loads on one device; on several at once they would spoil each other's account. */
const withoutTester = (wanted: Wanted): Wanted => ({
  ...wanted,
  drills: wanted.drills.filter((id) => !allDrills.some((drill) => drill.id === id && drill.onOneDevice)),
});

async function installAll(
  devices: readonly Device[],
  dossier: Dossier,
  intent: Intent,
  io: Io,
): Promise<void> {
  const { candidate, folder } = dossier;
  const file = join(folder, candidate.package.file);
  if (candidate.platform === 'android' && !file.endsWith('.apk'))
    throw new UsageError(
      `--install: ${candidate.package.file} is no APK; install it as the store would, then drill`,
    );
  const bytes = new Uint8Array(await readFile(file));
  for (const device of devices) {
    useTools(device, { dossier, intent, signal: io.signal });
    const why = await device.install(bytes);
    if (why)
      throw new UnreadableError({
        code: 'device.not-installed',
        file: device.serial,
        found: `the device refuses the package: ${why.split('\n')[0]}`,
        ...(device.platform === 'android' && {
          remedy:
            'Uninstall what is there by hand where its signature is another one; its data goes with it.',
        }),
      });
    io.err(`${device.serial}: installed ${candidate.package.file}\n`);
  }
}
