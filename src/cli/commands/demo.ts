import { copyFile, mkdir, rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { plannedCells } from '../../core/checklist/coverage.ts';
import type { Capture } from '../../core/model/capture.ts';
import { intentSchema } from '../../core/model/intent.ts';
import { textReport } from '../../core/reports/text.ts';
import { addCapture, addPackage, exists, openDossier } from '../../node/dossier.ts';
import { withPackage } from '../../node/read-package.ts';
import { readYaml } from '../../node/read-yaml.ts';
import { type Io, progress, WrongCall } from '../io.ts';
import { styleFor } from '../style.ts';
import { judgeAndReport, sayReports } from './judge.ts';
import { type AddCommand, inCwd } from './options.ts';

const KELPLINE = 'example.kelpline';
const IOS_DOSSIER = 'dossier-ios';
const ANDROID_PACKAGE = 'kelpline.apk';
const DATA = fileURLToPath(new URL('../../../demo/kelpline/', import.meta.url));

/** `fenlok demo`: the whole job on a made-up island-ferry app. */
export const demoCommand: AddCommand = (program, io) => {
  program
    .command('demo')
    .description('run the whole job on a made-up app: read its packages, capture its screens, judge')
    .option('--out <folder>', 'where to put it', 'fenlok-demo')
    .option('--all', 'print every item and finding')
    .option('--json', 'print the judgement as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok demo\nThe exit code is 0 when the demo ran, whatever its verdict.',
    )
    .action(async (options: { out: string; all?: boolean; json?: boolean }) => {
      const out = inCwd(io, options.out);
      await prepare(out);
      const android = { dossier: 'dossier', package: ANDROID_PACKAGE, what: 'screens', cells: () => true };
      await captureScreens(out, android, io);
      const ios = { dossier: IOS_DOSSIER, package: 'kelpline.ipa', what: 'iOS screens', cells: isPlain };
      await captureScreens(out, ios, io);
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
      sayReports(io, reports);
      await judgeIos(out, io);
      io.err(
        `\nGo on by hand:  cd ${relative(io.cwd, out) || '.'}  and there  fenlok judge,  fenlok rule …,  fenlok sign …\n`,
      );
    });
};

/** The iOS package of the same app, with no device: what the package alone can show. */
async function judgeIos(out: string, io: Io): Promise<void> {
  const { judgement } = await judgeAndReport({ ...io, cwd: out }, { dossier: IOS_DOSSIER });
  const failed = judgement.findings.filter(({ basis }) => basis === 'measured').length;
  io.err(
    `The iOS build: ${judgement.verdict}, ${failed} findings measured. See them with  fenlok judge --dossier ${IOS_DOSSIER}\n`,
  );
}

/**
 * A folder as a team would have it: intent and rulings beside the dossier. What a person wrote there stays;
 * the demo's own evidence is made anew. A folder that holds another project is left alone.
 */
async function prepare(out: string): Promise<void> {
  const intentFile = join(out, 'fenlok.yaml');
  const dossier = join(out, 'dossier');
  const found = [
    (await exists(intentFile)) && (await readYaml(intentFile, intentSchema)).value.app.id,
    (await exists(join(dossier, 'dossier.json'))) && (await openDossier(dossier)).candidate.build.appId,
  ];
  if (found.some((appId) => appId && appId !== KELPLINE))
    throw new WrongCall(`${out} holds another project; name an empty folder with --out`);
  await mkdir(out, { recursive: true });
  for (const name of ['fenlok.yaml', 'rulings.yaml'])
    if (!(await exists(join(out, name)))) await copyFile(join(DATA, name), join(out, name));
  for (const folder of [dossier, join(out, IOS_DOSSIER)])
    if (await exists(join(folder, 'dossier.json'))) await rm(folder, { recursive: true });
}

type PlannedCell = ReturnType<typeof plannedCells>[number];

// Drawing and packing run beside one another.
const AT_ONCE = 2;

/** Installs the package on the stand-in phone and captures the planned cells. */
async function captureScreens(
  out: string,
  of: { dossier: string; package: string; what: string; cells: (cell: PlannedCell) => boolean },
  io: Io,
): Promise<void> {
  // only here, so that the other commands need not wait for fonts and layout to load
  const { kelpline } = await import('../../standins/phone/apps/kelpline/kelpline.ts');
  const { TREE_CARRIES } = await import('../../standins/phone/screen/dump-tree.ts');
  const { startPhone } = await import('../../standins/phone/phone.ts');
  const { shapes } = await import('../../standins/phone/shapes.ts');
  const folder = join(out, of.dossier);
  const file = join(DATA, of.package);
  io.err(`Reading ${relative(io.cwd, file) || file}\n`);
  await addPackage(folder, file);
  const dossier = await openDossier(folder);
  const { value: intent } = await readYaml(join(out, 'fenlok.yaml'), intentSchema);
  const cells = plannedCells(intent).filter(of.cells);
  const tell = progress(io, `Capturing ${of.what} on the stand-in phone`);
  await withPackage(join(DATA, ANDROID_PACKAGE), (apk) =>
    withPackage(file, async (installed) => {
      const phone = startPhone(shapes.common, installed, kelpline, apk);
      const { platform } = installed.app;
      let next = 0;
      let done = 0;
      const work = async () => {
        while (next < cells.length) {
          io.signal.throwIfAborted();
          const cell = cells[next++]!;
          const shown = await phone.show(cell);
          const capture: Capture = {
            fenlok: 'capture/1',
            platform,
            build: dossier.candidate.build,
            cell: { ...cell, device: phone.shape.name },
            densityDpi: phone.shape.densityDpi,
            picture: 'screen.png',
            // Android has a dump of its own; on iOS a UI test writes the tree
            ...(platform === 'android'
              ? { hierarchy: 'screen.xml', carries: [] }
              : { tree: shown.tree, carries: [...TREE_CARRIES] }),
          };
          await addCapture(dossier, `${cell.screen}.json`, {
            capture,
            picture: shown.png,
            ...(platform === 'android' && { hierarchyXml: shown.hierarchyXml }),
          });
          tell(++done, cells.length);
        }
      };
      await Promise.all(Array.from({ length: AT_ONCE }, work));
    }),
  );
}

/** On iOS the screens as they are, in the source language. */
const isPlain = ({ locale, orientation, procedure, textScale }: PlannedCell): boolean =>
  locale === 'en' && orientation === 'portrait' && procedure === 'as-is' && textScale === 1;
