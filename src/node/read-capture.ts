/** A capture from its files: settings, picture, tree. */
import { readFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type { CaptureEvidence } from '../core/areas/observer.ts';
import { parseCapture, treeOfCapture } from '../core/formats/capture.ts';
import type { Capture } from '../core/model/capture.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { decodeImage } from './decode-image.ts';
import { nodePorts } from './ports.ts';
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
