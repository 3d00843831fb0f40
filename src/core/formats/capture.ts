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
