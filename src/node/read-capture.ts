/** A capture from its files: settings, picture, tree. */
import { basename, dirname, join } from 'node:path';
import type { CaptureEvidence } from '../core/areas/observer.ts';
import { parseCapture, treeOfCapture } from '../core/formats/capture.ts';
import type { Capture } from '../core/model/capture.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { decodeImage } from './decode-image.ts';
import { nodePorts } from './ports.ts';
import { readBytes } from './read-bytes.ts';
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
    picture: await readPicture(beside(capture.picture)),
    hierarchyXml:
      capture.hierarchy === undefined
        ? undefined
        : await readTextFile(beside(capture.hierarchy), 64 * 2 ** 20),
  };
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
  const tree = await treeOfCapture(file, capture, files.hierarchyXml ?? '', pixels);
  return { digest, capture, buildBasis, tree, pixels };
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

// What 64 megapixels of four channels of 16 bits take.
const PICTURE_LIMIT_BYTES = 512 * 2 ** 20;

/** The file of a picture, not decoded. @throws UnreadableError where it is missing, or too large for any screenshot */
export const readPicture = (path: string): Promise<Uint8Array> =>
  readBytes(
    path,
    PICTURE_LIMIT_BYTES,
    (sizeBytes) =>
      new UnreadableError({
        code: 'picture.too-large',
        file: path,
        found: `${sizeBytes} bytes`,
        expected: `a screenshot of at most ${PICTURE_LIMIT_BYTES} bytes`,
      }),
  );
