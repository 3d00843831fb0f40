/** The capture that a calculator is asked about: a file, or a screen of the dossier. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readHierarchy } from '../../../core/formats/android/hierarchy.ts';
import { parseCapture } from '../../../core/formats/capture.ts';
import type { Platform } from '../../../core/model/candidate.ts';
import { type Cell, formatCell } from '../../../core/model/cell.ts';
import { isLocaleTag, isRightToLeft } from '../../../core/model/locale.ts';
import { UnreadableError, unwrap } from '../../../core/model/problem.ts';
import type { UiNode } from '../../../core/model/ui-tree.ts';
import { listCaptures } from '../../../node/captures.ts';
import { exists, openDossier } from '../../../node/dossier.ts';
import { readTextFile } from '../../../node/read-yaml.ts';
import { type Io, UsageError } from '../../io.ts';
import { inCwd } from '../options.ts';

export interface CaptureOptions {
  dossier: string;
  locale?: string;
  theme?: string;
}

interface FoundTree {
  title: string;
  tree: UiNode;
  platform: Platform;
  rtl: boolean;
}

/** @param what a capture's .json, an OS dump's .xml, or the id of a screen in the dossier */
export async function findTree(what: string, options: CaptureOptions, io: Io): Promise<FoundTree> {
  if (options.locale && !isLocaleTag(options.locale))
    throw new UsageError(`--locale: "${options.locale}" is no language tag; write it as de or pt-BR`);
  const path = inCwd(io, what);
  if (/\.xml$/i.test(what))
    return {
      title: what,
      tree: unwrap(await readHierarchy(path, await readTextFile(path, 64 * 2 ** 20))),
      platform: 'android',
      rtl: isRightToLeft(options.locale ?? 'en'),
    };
  const file = (await exists(path)) || /\.json$/i.test(what) ? path : await findScreen(what, options, io);
  const capture = parseCapture(file, await readTextFile(file));
  const { cell, hierarchy, platform } = capture;
  const beside = join(file, '..', hierarchy ?? '');
  const tree =
    capture.tree ?? unwrap(await readHierarchy(beside, await readFile(beside, 'utf8').catch(() => '')));
  return { title: formatCell(cell), tree, platform, rtl: isRightToLeft(cell.locale) };
}

/** The plainest capture of that screen: as it opens, upright, at 100 %, in light. */
async function findScreen(screen: string, options: CaptureOptions, io: Io): Promise<string> {
  const dossier = await openDossier(inCwd(io, options.dossier));
  const captures = await Promise.all(
    (await listCaptures(dossier)).map(async ({ file }) => ({
      file,
      cell: parseCapture(file, await readTextFile(file)).cell,
    })),
  );
  const found = captures
    .filter(({ cell }) => cell.screen === screen)
    .filter(({ cell }) => !options.locale || cell.locale === options.locale)
    .filter(({ cell }) => !options.theme || cell.theme === options.theme)
    .sort((a, b) => oddness(a.cell) - oddness(b.cell) || (a.cell.locale < b.cell.locale ? 1 : -1));
  if (found[0]) return found[0].file;
  const screens = [...new Set(captures.map(({ cell }) => cell.screen))].sort();
  throw new UnreadableError({
    code: 'capture.none',
    file: dossier.folder,
    found: `no capture of "${screen}"${options.locale ? ` in ${options.locale}` : ''}${options.theme ? `, ${options.theme}` : ''}`,
    expected:
      screens.length > 0 ? `a file, or one of ${screens.join(', ')}` : 'a file, since it has no captures yet',
  });
}

const oddness = ({ locale, orientation, procedure, textScale, theme }: Cell): number =>
  Number(procedure !== 'as-is') * 16 +
  Number(orientation !== 'portrait') * 8 +
  Number(textScale !== 1) * 4 +
  Number(locale !== 'en') * 2 +
  Number(theme !== 'light');
