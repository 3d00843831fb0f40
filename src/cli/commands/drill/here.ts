/** `fenlok drill --here`: drills on the screen in front, with no dossier, no package and no intent file. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type { Command } from 'commander';
import { indexFacts } from '../../../core/areas/check.ts';
import { checks } from '../../../core/areas/checks.ts';
import { collectFindings } from '../../../core/checklist/collect-findings.ts';
import { drillsFromHere, type HereDrillId, isDrillFromHere } from '../../../core/model/drill.ts';
import type { Finding } from '../../../core/model/finding.ts';
import { emptyIntent } from '../../../core/model/intent.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { type HereSeen, hereView, outcomeOf } from '../../../core/reports/here-view.ts';
import { type Device, systemOf } from '../../../device/device.ts';
import { whyNotOn } from '../../../device/drills/drill.ts';
import { allDrills } from '../../../device/drills/drills.ts';
import { allScreenDrills } from '../../../device/drills/on-screen/screen-drills.ts';
import { type AppInFront, appInFront } from '../../../device/in-hand/app-in-front.ts';
import { drillHere, type HereRun, isAsBefore } from '../../../device/in-hand/drill-here.ts';
import { until } from '../../../device/phone/pause.ts';
import { addTraceLines, type Dossier, openDossier } from '../../../node/dossier.ts';
import { sideBySide } from '../../../node/side-by-side.ts';
import { type ExitCode, exitCode } from '../../exit-code.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type BridgeCall, onDevice } from '../device-options.ts';
import { inCwd, wholeNumber } from '../options.ts';
import { formatPutBack, formatRestoredFirst } from './format-results.ts';

export interface HereCall {
  here?: boolean;
  app?: string;
  all?: boolean;
  repeat?: number;
  pictures?: string | false;
  wait?: number;
  keepAs?: string;
}

export const withHere = (command: Command): Command =>
  command
    .option('--here', 'on the screen in front, whichever app it is; no files are needed')
    .option('--app <id>', 'with --here: the app that must be in front')
    .option('--all', 'with --here: every drill, one after the other')
    .option('--repeat <times>', 'with --here: each so many times', wholeNumber)
    .option('--pictures <folder>', 'with --here: where pictures go', 'from-here')
    .option('--no-pictures', 'with --here: take none')
    .option(
      '--wait <seconds>',
      'with --here: how long you have to bring back a screen that was lost, where more is to be done',
      wholeNumber,
    )
    .option('--keep-as <screen>', "with --here: keep it in the dossier, as that screen's");

/** The first of its options that is given without it, where nobody would hear of it. */
export const withoutHere = ({ all, app, here, keepAs, repeat, wait }: HereCall): string | undefined =>
  here
    ? undefined
    : Object.entries({
        '--all': all,
        '--app': app,
        '--keep-as': keepAs,
        '--repeat': repeat,
        '--wait': wait,
      }).find(([, value]) => value !== undefined)?.[0];

// What leaves the screen for good comes last.
const LAST: readonly HereDrillId[] = [
  'discard',
  'process-death',
  'permission-revoked',
  'offline',
  'back',
  'cold-start',
];

function drillsFrom(names: readonly string[], { all }: HereCall): HereDrillId[] {
  if (all) return [...drillsFromHere.filter((id) => !LAST.includes(id)), ...LAST];
  const other = names.find((name) => !isDrillFromHere(name));
  if (other === 'links')
    throw new UsageError('links --here: fire one by  fenlok try link URL --device SERIAL');
  if (other) throw new UsageError(`${other} --here: from here there are ${drillsFromHere.join(', ')}`);
  if (names.length === 0)
    throw new UsageError(`--here: name a drill, or --all; ${drillsFromHere.join(', ')}`);
  return names as HereDrillId[];
}

interface HereOptions extends HereCall, BridgeCall {
  device: string[];
  dossier: string;
  json?: boolean;
}

export async function drillFromHere(names: string[], options: HereOptions, io: Io): Promise<ExitCode> {
  const ids = drillsFrom(names, options);
  if (options.device.length > 1) throw new UsageError('--here: one phone at a time');
  return onDevice({ ...options, device: options.device[0] }, io, async (device, stateFolder) => {
    const app = await appInFront(device, options.app);
    const kept = options.keepAs ? await keptIn(device, options, io) : undefined;
    const runs: HereSeen[] = [];
    if (!options.json) io.out(`${formatApp(app, device, io)}\n`);
    const left = ids.flatMap((id) => Array.from({ length: Math.max(1, options.repeat ?? 1) }, () => id));
    let ran: HereRun | undefined;
    let isCutShort = false;
    for (const [i, id] of left.entries()) {
      io.signal.throwIfAborted();
      const drill = allScreenDrills.find((one) => one.id === id);
      const why = whyNotOn(allDrills.find((one) => one.id === id)!, device);
      if (why) {
        io.err(`${id} is left out: ${why}\n`);
        continue;
      }
      // a start asks for no screen
      if (ran && id !== 'cold-start' && !(await isBroughtBack(device, ran, options, io))) {
        io.err(
          `The screen is not as it was, so ${left.length - i} of ${left.length} are not run. Bring it back and call again, or give time for it: --wait 60\n`,
        );
        isCutShort = true;
        break;
      }
      ran = await drillHere(device, app, id, {
        stateFolder,
        takesPictures: options.pictures !== false,
        screen: options.keepAs,
        build: kept?.candidate.build,
      });
      io.err(formatRestoredFirst(device.serial, ran.restoredFirst));
      for (const line of formatPutBack(ran.putBack.filter(({ now, was }) => now !== was)))
        io.err(`${line}\n`);
      if (kept) await addTraceLines(kept, ran.lines);
      const seen = {
        ...ran,
        says: drill?.says ?? 'ended and opened five times',
        findings: findingsOf(ran),
        pictures: await keepPictures(ran, options, io),
      };
      runs.push(seen);
      if (!options.json) io.out(`${hereView(seen, { style: styleFor(io), widthColumns: io.columns })}\n`);
    }
    if (options.json)
      io.out(
        `${JSON.stringify({ device: device.serial, app: app.build.appId, version: app.build.version, runs: runs.map(forMachines) }, null, 2)}\n`,
      );
    return isCutShort ? exitCode.open : codeOf(runs);
  });
}

const formatApp = ({ build }: AppInFront, device: Device, io: Io): string =>
  `${styleFor(io).strong(build.appId)} ${printableText(build.version)} (${build.build}) on ${printableText(device.info.model)}, ${systemOf(device)}`;

/** The dossier, which must be of the build that is installed. */
async function keptIn(device: Device, { dossier, keepAs }: HereOptions, io: Io): Promise<Dossier> {
  const { findCandidate } = await import('../../../device/installed-build.ts');
  const opened = await openDossier(inCwd(io, dossier));
  await findCandidate(device, opened.candidate.build);
  io.err(`Kept in ${dossier} as evidence of ${keepAs}\n`);
  return opened;
}

const ofDrills = checks.filter(({ needs }) => needs === 'drill-run');

/** By the same checks as `judge`. */
function findingsOf({ app, run }: HereRun): Finding[] {
  return collectFindings(ofDrills, indexFacts([run]), emptyIntent(app.build.appId)).flatMap(
    ({ findings }) => findings,
  );
}

const WAIT_S = 600;

/** After a loss only a person can lead to the screen again; it is looked for until it is there. */
async function isBroughtBack(device: Device, ran: HereRun, { wait }: HereCall, io: Io): Promise<boolean> {
  if (await isAsBefore(device, ran)) return true;
  const seconds = wait ?? (io.errIsTerminal ? WAIT_S : 0);
  if (seconds === 0) return false;
  io.err('Bring the screen back as it was before; it goes on by itself then. Ctrl-C ends it.\n');
  return until(async () => {
    io.signal.throwIfAborted();
    return isAsBefore(device, ran);
  }, seconds * 1000);
}

async function keepPictures(
  { came, drill, pictures: { after, before }, run }: HereRun,
  { pictures }: HereCall,
  io: Io,
): Promise<string[]> {
  if (!pictures || !before || !after) return [];
  const folder = inCwd(io, pictures);
  await mkdir(folder, { recursive: true });
  const boxes = came.kind === 'partly-restored' ? came.lost.map(({ boundsPx }) => boundsPx) : [];
  const file = join(folder, `${run.at.slice(0, 19).replaceAll(/[-:]/g, '').replace('T', '-')}-${drill}.png`);
  await writeFile(file, await sideBySide(before, after, boxes));
  return [relative(io.cwd, file)];
}

const forMachines = ({ callbacks, came, drill, findings, pictures, run, tookMs }: HereSeen) => ({
  drill,
  outcome: outcomeOf({ came, findings, run }),
  came,
  findings: findings.map(({ check, words }) => ({ check, ...words })),
  process: run.process,
  ...(drill === 'cold-start' && { startsMs: run.startsMs }),
  callbacks,
  ...(run.backChain && { backChain: run.backChain.map(({ activity }) => activity) }),
  ...(run.servicesAfter && { servicesBefore: run.servicesBefore, servicesAfter: run.servicesAfter }),
  ...(run.crash && { crash: run.crash }),
  pictures,
  tookMs,
});

function codeOf(runs: readonly HereSeen[]): ExitCode {
  const outcomes = runs.map(outcomeOf);
  if (outcomes.includes('failed')) return exitCode.blocked;
  return outcomes.includes('untested') || outcomes.length === 0 ? exitCode.open : exitCode.done;
}
