import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { walkStops } from '../../core/areas/accessibility/walk-stops.ts';
import { factsOfCapture, findOnScreens } from '../../core/checklist/find-on-screens.ts';
import type { Fact } from '../../core/model/fact.ts';
import type { Finding } from '../../core/model/finding.ts';
import type { Intent } from '../../core/model/intent.ts';
import { isRightToLeft } from '../../core/model/locale.ts';
import { formatProblem, UnreadableError } from '../../core/model/problem.ts';
import { printableText } from '../../core/reports/escape.ts';
import { lookView, sortFindings } from '../../core/reports/look-view.ts';
import type { Device } from '../../device/device.ts';
import { settingsNamed } from '../../device/holdable.ts';
import { type AppInFront, appInFront } from '../../device/in-hand/app-in-front.ts';
import { takeHold } from '../../device/in-hand/holds.ts';
import { lookHere, type SeenHere } from '../../device/in-hand/look-here.ts';
import { pause } from '../../device/phone/pause.ts';
import { pictureOfStops } from '../../node/picture-of-stops.ts';
import { readProject } from '../../node/project.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type Io, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { type DeviceCall, onDevice, withDevice } from './device-options.ts';
import { inCwd } from './options.ts';

interface LookCall extends DeviceCall {
  app?: string;
  atScale?: string;
  watch?: boolean;
  picture?: string;
  save?: string;
  all?: boolean;
  json?: boolean;
}

/** `fenlok look`: the screen in front, at once. */
export const lookCommand: AddCommand = (command, { io, finish }) => {
  withDevice(command)
    .option('--app <id>', 'the app that must be in front')
    .option(
      '--at-scale <factor>',
      'look at it at 100 % and at this text size, and hold both against each other',
    )
    .option('--watch', 'look again whenever the screen has changed, until Ctrl-C')
    .option('--picture <file>', 'draw the stops and what is wrong into a picture (.png)')
    .option('--save <folder>', 'keep it as a capture, for fenlok add')
    .option('--all', 'everything that was found')
    .option('--json', 'print as JSON; with --watch one line each time')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok look\n  fenlok look --at-scale 2\n  fenlok look --watch --picture screen.png\n\nWhere fenlok.yaml lies here, its limits count.\nExit codes: 0 nothing was found, 1 something was, 5 no phone',
    )
    .action(async (call: LookCall) => {
      finish(
        await onDevice(call, io, async (device, stateFolder) => {
          const app = await appInFront(device, call.app);
          const { intent } = await readProject(io.cwd, app.build.appId);
          if (call.watch) return watch(device, intent, call, io);
          const looks = call.atScale
            ? await atBothScales(device, app, stateFolder, call.atScale)
            : [await lookHere(device, app.build.appId, await device.settingsNow(app.build.appId))];
          return tell(looks, app, intent, call, io);
        }),
      );
    });
};

/** The settings are held for as long as it takes, and restored. */
async function atBothScales(
  device: Device,
  { build: { appId } }: AppInFront,
  stateFolder: string,
  text: string,
): Promise<SeenHere[]> {
  const factor = Number(text);
  if (!(factor > 1 && factor <= 4)) throw new UsageError(`--at-scale ${text}: say a number above 1, up to 4`);
  if (device.platform === 'ios')
    throw new UsageError(
      '--at-scale: on iOS a text size belongs to one run of the app. Hold it, go to the screen, and look there:  fenlok hold --text-scale 2',
    );
  const looks: SeenHere[] = [];
  for (const scale of [1, factor]) {
    const hold = await takeHold(device, stateFolder, `fenlok look --at-scale ${text}`, [
      ...settingsNamed(device, 'text-scale', String(scale), appId),
    ]);
    try {
      looks.push(await lookHere(device, appId, await device.settingsNow(appId)));
    } finally {
      await hold.release();
    }
  }
  return looks;
}

async function tell(
  looks: readonly SeenHere[],
  app: AppInFront,
  intent: Intent,
  call: LookCall,
  io: Io,
): Promise<0 | 1> {
  const last = looks.at(-1)!;
  const facts = looks.map(factsOf);
  const findings = sortFindings(findOnScreens(facts.flat(), intent));
  const growth = facts.length > 1 ? growthOf(facts[0]!, facts.at(-1)!) : undefined;
  const { cell } = last.files.capture;
  const walk = walkStops(last.evidence.tree, last.evidence.pixels, {
    platform: last.files.capture.platform,
    rtl: isRightToLeft(cell.locale),
  });
  const notes = last.isBlank
    ? [
        'The picture is of one colour: this window forbids pictures, or the screen is off. Contrast is not looked at.',
      ]
    : [];
  if (call.picture)
    await writeFile(
      inCwd(io, call.picture),
      await pictureOfStops(last.files.picture, walk.stops, boxesOf(findings)),
    );
  if (call.save) await save(last, inCwd(io, call.save));
  const title = `${last.activity.replace('/', ' ').trim()}, ${cell.theme}, ${cell.locale}${cell.textScale === 1 ? '' : `, text ${Math.round(cell.textScale * 100)} %`}`;
  if (call.json)
    io.out(
      `${JSON.stringify(
        {
          app: app.build.appId,
          version: app.build.version,
          activity: last.activity,
          cell,
          notes,
          growth,
          findings: findings.map(({ basis, check, identity, occurrences, words }) => ({
            check,
            basis,
            element: identity.subject,
            row: identity.row,
            boundsPx: occurrences[0]!.boundsPx,
            ...words,
          })),
          stops: walk.stops.map(({ actionable, boundsPx, heading, key, name, nameFrom, spoken }) => ({
            key,
            name,
            nameFrom,
            spoken,
            actionable,
            heading,
            boundsPx,
          })),
        },
        null,
        call.watch ? 0 : 2,
      )}\n`,
    );
  else
    io.out(
      lookView(
        { title, findings, walk, notes, growth },
        { style: styleFor(io), widthColumns: io.columns, all: call.all ?? false },
      ),
    );
  return findings.length > 0 ? exitCode.blocked : exitCode.done;
}

/** Of a picture that shows nothing only the tree counts. */
const factsOf = ({ evidence, isBlank }: SeenHere): Fact[] =>
  factsOfCapture(evidence).filter(({ kind }) => !isBlank || !/contrast/.test(kind));

/** Texts that show in both, by their element. */
function growthOf(small: readonly Fact[], large: readonly Fact[]) {
  const seen = (facts: readonly Fact[]) =>
    facts.flatMap((fact) =>
      fact.kind === 'text-contrast' && !fact.unseen && !fact.doubtful && !fact.cutBy ? [fact] : [],
    );
  return seen(small).flatMap(({ element: { key, shown }, glyphDp }) => {
    const other = seen(large).find(({ element }) => element.key === key && element.shown === shown);
    return other && glyphDp > 0 ? [{ text: shown, beforeDp: glyphDp, afterDp: other.glyphDp }] : [];
  });
}

const boxesOf = (findings: readonly Finding[]) =>
  findings.flatMap(({ occurrences }) => occurrences[0]!.boundsPx ?? []);

async function save({ files }: SeenHere, folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const name = `here-${files.capture.at!.slice(0, 19).replaceAll(/[-:]/g, '')}`;
  const capture = { ...files.capture, picture: `${name}.png`, hierarchy: `${name}.xml` };
  await writeFile(join(folder, capture.picture), files.picture);
  await writeFile(join(folder, capture.hierarchy), files.hierarchyXml!);
  await writeFile(join(folder, `${name}.json`), `${JSON.stringify(capture, null, 2)}\n`);
}

const LOOKS_EACH_MS = 700;

/** Looks again whenever the tree has changed and rests. */
async function watch(device: Device, intent: Intent, call: LookCall, io: Io): Promise<0> {
  let before = '';
  while (!io.signal.aborted) {
    const snapshot = await device.snapshot();
    if (snapshot.hierarchy !== before) {
      before = snapshot.hierarchy;
      const app = await appInFront(device).catch(() => undefined);
      if (app) {
        const { appId } = app.build;
        const seen = await lookHere(device, appId, await device.settingsNow(appId), snapshot).catch(
          (error: unknown) => {
            // what lies over the app goes away again
            if (!(error instanceof UnreadableError)) throw error;
            io.err(`${printableText(formatProblem(error.problem))}\n`);
          },
        );
        if (seen) await tell([seen], app, intent, call, io);
      }
    }
    await pause(LOOKS_EACH_MS);
  }
  return exitCode.done;
}
