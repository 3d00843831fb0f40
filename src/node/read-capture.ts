/** A capture from its files: settings, picture, tree; held against each other. */
import { readFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type { CaptureEvidence } from '../core/areas/observer.ts';
import { readHierarchy } from '../core/formats/android/hierarchy.ts';
import { type Capture, captureSchema } from '../core/model/capture.ts';
import { isLocaleTag } from '../core/model/locale.ts';
import { type Pixels, sha256Hex } from '../core/model/ports.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import type { UiNode } from '../core/model/ui-tree.ts';
import { decodeImage } from './decode-image.ts';
import { nodePorts } from './ports.ts';
import { parseJson } from './read-json.ts';
import { readTextFile } from './read-yaml.ts';

export interface CaptureFiles {
  capture: Capture;
  picture: Uint8Array;
  hierarchyXml?: string;
}

/** Reads `capture.json` and the files that it names, which must lie beside it. */
export async function readCaptureFiles(path: string): Promise<CaptureFiles> {
  const capture = parseCapture(path, await readTextFile(path));
  const beside = (name: string) => {
    if (basename(name) !== name)
      throw new UnreadableError({
        code: 'capture.path',
        file: path,
        found: `a file name with a path (${name})`,
        expected: 'a file beside the capture',
      });
    return join(dirname(path), name);
  };
  return {
    capture,
    picture: await readBytes(beside(capture.picture)),
    hierarchyXml:
      capture.hierarchy === undefined
        ? undefined
        : await readTextFile(beside(capture.hierarchy), 64 * 2 ** 20),
  };
}

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

/** Decodes what the observers measure. */
export async function decodeCapture(
  file: string,
  digest: string,
  files: CaptureFiles,
  buildBasis: CaptureEvidence['buildBasis'],
): Promise<CaptureEvidence> {
  const { capture } = files;
  const pixels = await decodeImage(join(dirname(file), capture.picture), files.picture);
  const tree =
    capture.tree ??
    unwrap(await readHierarchy(join(dirname(file), capture.hierarchy ?? ''), files.hierarchyXml ?? ''));
  demandSameSize(file, pixels, tree);
  return { digest, capture, buildBasis, tree, pixels };
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

/** One digest over everything that a capture consists of. */
export async function captureDigest({ capture, picture, hierarchyXml = '' }: CaptureFiles): Promise<string> {
  const parts = [
    new TextEncoder().encode(JSON.stringify(capture)),
    picture,
    new TextEncoder().encode(hierarchyXml),
  ];
  const digests = await Promise.all(parts.map((part) => sha256Hex(nodePorts, part)));
  return sha256Hex(nodePorts, new TextEncoder().encode(digests.join('\n')));
}

async function readBytes(path: string): Promise<Uint8Array> {
  return readFile(path).catch((cause: NodeJS.ErrnoException) => {
    throw new UnreadableError(
      {
        code: 'file.missing',
        file: path,
        found: cause.code === 'ENOENT' ? 'no such file' : `a file that cannot be opened (${cause.code})`,
      },
      { cause },
    );
  });
}
