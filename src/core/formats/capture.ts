/** A capture from its parts: settings, tree, picture; held against each other. */
import { type Capture, captureSchema } from '../model/capture.ts';
import { isLocaleTag } from '../model/locale.ts';
import type { Pixels } from '../model/ports.ts';
import { UnreadableError, unwrap } from '../model/problem.ts';
import type { UiNode } from '../model/ui-tree.ts';
import { readHierarchy } from './android/hierarchy.ts';
import { parseJson } from './parse-json.ts';

/** @throws UnreadableError */
export function parseCapture(file: string, text: string): Capture {
  const capture = parseJson(file, text, captureSchema, 'a capture as in docs/schemas/capture.json');
  if (!isLocaleTag(capture.cell.locale))
    throw new UnreadableError({
      code: 'capture.locale',
      file,
      place: 'cell.locale',
      found: `unknown locale "${capture.cell.locale}"`,
      expected: 'a BCP 47 language tag, such as "de" or "pt-BR"',
    });
  return capture;
}

/**
 * The tree of a capture: its own, or that of the dump beside it.
 *
 * @throws UnreadableError where tree and picture are not of one screen
 */
export async function treeOfCapture(
  file: string,
  capture: Capture,
  hierarchyXml: string,
  pixels: Pixels,
): Promise<UiNode> {
  const dump = file.replace(/[^/\\]*$/, capture.hierarchy ?? '');
  const tree = capture.tree ?? unwrap(await readHierarchy(dump, hierarchyXml));
  demandSameSize(file, pixels, tree);
  demandOrientation(file, capture, pixels);
  return tree;
}

/** A tree that reaches beyond its picture belongs to another screen, size or orientation. */
function demandSameSize(file: string, pixels: Pixels, tree: UiNode): void {
  const right = tree.bounds.x + tree.bounds.width;
  const bottom = tree.bounds.y + tree.bounds.height;
  // the dump's root may leave out the bars of the system, so it can be smaller, down to four fifths
  const fits =
    right <= pixels.widthPx + 1 &&
    bottom <= pixels.heightPx + 1 &&
    right >= pixels.widthPx * 0.8 &&
    bottom >= pixels.heightPx * 0.5;
  if (!fits)
    throw new UnreadableError({
      code: 'capture.sizes',
      file,
      found: `a picture of ${pixels.widthPx} × ${pixels.heightPx} px beside a tree that reaches to ${right} × ${bottom} px`,
      expected: 'picture and tree of the same screen at the same moment',
      remedy: 'Capture both again, without scaling the picture or turning the device in between.',
    });
}

// Of its shorter side: nearly square pictures may be either.
const CLEARLY_LONGER = 1.15;

/** A picture that lies where the capture says that it stands was taken before, or after, the device was turned. */
function demandOrientation(file: string, { cell }: Capture, { heightPx, widthPx }: Pixels): void {
  const seen =
    widthPx > heightPx * CLEARLY_LONGER
      ? 'landscape'
      : heightPx > widthPx * CLEARLY_LONGER
        ? 'portrait'
        : cell.orientation;
  if (seen === cell.orientation) return;
  throw new UnreadableError({
    code: 'capture.orientation',
    file,
    place: 'cell.orientation',
    found: `${cell.orientation}, beside a picture of ${widthPx} × ${heightPx} px`,
    expected: `a picture in ${cell.orientation}`,
    remedy: `Capture it again when the screen has turned, or write "orientation": "${seen}".`,
  });
}
