/** The pictures of findings: the worst occurrence of each, cut out of its capture and kept, so that each is cut once. */
import { copyFile, mkdir, readFile, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { parseCapture } from '../core/formats/capture.ts';
import type { Finding } from '../core/model/finding.ts';
import type { Box } from '../core/model/geometry.ts';
import { isRightToLeft } from '../core/model/locale.ts';
import type { Proof } from '../core/reports/html/proof.ts';
import { listCaptures } from './captures.ts';
import { type Cut, cutPicture, type DecodedPicture, decodePicture } from './cut-picture.ts';
import { type Dossier, type EvidenceEntry, exists, listTraces } from './dossier.ts';
import { evidenceKey } from './evidence-keys.ts';
import { readKeptLines, writeKeptLines } from './kept-lines.ts';
import { readTextFile } from './read-yaml.ts';

/** The file of each capture's picture, and of runs that a drill took a picture of, by the first digits of their digest. */
export type Pictures = ReadonlyMap<string, string>;

export async function picturesOf(dossier: Dossier): Promise<Pictures> {
  const pictures = new Map<string, string>();
  for (const entry of await listCaptures(dossier)) pictures.set(entry.digest, await pictureOf(entry));
  for (const entry of await listTraces(dossier)) {
    const file = PICTURED.exec(await readFile(entry.file, 'utf8'))?.[1];
    const path = file && join(dossier.folder, file);
    if (path && (await exists(path))) pictures.set(entry.digest, path);
  }
  return pictures;
}

// only names that `addPicture` gives, so that a trace from elsewhere leads nowhere else
const PICTURED = /"kind":"screen\.pictured"[^}]*"file":"(files\/[0-9a-f]{16}-[\w.-]+)"/;

const pictureOf = async ({ file }: EvidenceEntry): Promise<string> =>
  join(dirname(file), parseCapture(file, await readTextFile(file)).picture);

// Beyond this, findings keep the link to their whole picture and lose the embedded one.
const EMBEDDED_BYTES_CAP = 12 * 2 ** 20;
// So many are cut before it is asked whether the page is full.
const FINDINGS_AT_ONCE = 64;
const PICTURES_AT_ONCE = 2;

const DIGEST_CHARS = 16;

/** What is cut out: the first of its places. */
export type Placed = Pick<Finding, 'id'> & {
  occurrences: readonly Pick<Finding['occurrences'][number], 'boundsPx' | 'cell' | 'evidence'>[];
};

/** The same, of all findings and with no whole picture beside them. */
export async function cutFindings(
  dossier: Dossier,
  findings: readonly Placed[],
  pictures?: Pictures,
): Promise<Map<string, Proof>> {
  const all = pictures ?? (await picturesOf(dossier));
  return cutBatch(dossier, all, shownIn(all, findings), undefined);
}

const shownIn = (pictures: Pictures, findings: readonly Placed[]): Placed[] =>
  findings.filter(({ occurrences: [worst] }) => worst!.boundsPx && pictures.has(keyOf(worst!.evidence)));

/** @param folder of the reports, to which whole pictures are copied */
export async function cutProofs(
  dossier: Dossier,
  pictures: Pictures,
  findings: readonly Placed[],
  folder: string,
): Promise<Map<string, Proof>> {
  const proofs = new Map<string, Proof>();
  let embedded = 0;
  await mkdir(join(folder, 'pictures'), { recursive: true });
  const shown = shownIn(pictures, findings);
  for (let from = 0; from < shown.length && embedded <= EMBEDDED_BYTES_CAP; from += FINDINGS_AT_ONCE) {
    const batch = shown.slice(from, from + FINDINGS_AT_ONCE);
    const cuts = await cutBatch(dossier, pictures, batch, folder);
    for (const finding of batch) {
      if (embedded > EMBEDDED_BYTES_CAP) break;
      const proof = cuts.get(finding.id)!;
      proofs.set(finding.id, proof);
      embedded += proof.screen.dataUri.length + proof.crop.dataUri.length;
    }
  }
  return proofs;
}

const keyOf = (evidence: string): string => evidence.slice(0, DIGEST_CHARS);

async function cutBatch(
  dossier: Dossier,
  pictures: Pictures,
  batch: readonly Placed[],
  folder: string | undefined,
): Promise<Map<string, Proof>> {
  const cuts = new Map<string, Proof>();
  const findingsOf = new Map<string, Placed[]>();
  for (const finding of batch) {
    const digest = keyOf(finding.occurrences[0]!.evidence);
    findingsOf.set(digest, [...(findingsOf.get(digest) ?? []), finding]);
  }
  const byPicture = [...findingsOf];
  const work = async () => {
    for (let next = byPicture.pop(); next; next = byPicture.pop()) {
      const [digest, findings] = next;
      const picture = pictures.get(digest)!;
      const pictureHref = `pictures/${digest}.png`;
      if (folder !== undefined) await copyOnce(picture, join(folder, pictureHref));
      const scissors = await openScissors(dossier, digest, picture);
      for (const { id, occurrences } of findings) {
        const { boundsPx, cell } = occurrences[0]!;
        const screen = await scissors.cut(undefined, SCREEN_WIDTH_PX);
        const isRtl = cell !== undefined && isRightToLeft(cell.locale);
        const crop = await scissors.cut(around(boundsPx!, screen.showsPx, isRtl), CROP_WIDTH_PX);
        cuts.set(id, {
          screen: { ...screen, elementPx: boundsPx! },
          crop: { ...crop, elementPx: boundsPx! },
          pictureHref,
        });
      }
      await scissors.keep();
    }
  };
  await Promise.all(Array.from({ length: PICTURES_AT_ONCE }, work));
  return cuts;
}

/** The name says what is in it. */
async function copyOnce(from: string, to: string): Promise<void> {
  const [there, here] = await Promise.all([stat(to).catch(() => undefined), stat(from)]);
  if (there?.size !== here.size) await copyFile(from, to);
}

const SCREEN_WIDTH_PX = 240;
// Wider than this, a crop would be scaled down until its text cannot be read.
const CROP_WIDTH_PX = 620;

/** The element with its surroundings; of a wide one the side where its text begins. */
function around(element: Box, screen: Box, rtl: boolean): Box {
  const width = Math.min(screen.width, CROP_WIDTH_PX, Math.max(360, Math.round(element.width + 60)));
  const height = Math.min(screen.height, Math.max(200, Math.round(element.height + 60)));
  const clamp = (value: number, max: number) => Math.round(Math.min(Math.max(0, value), max));
  const fits = element.width <= width;
  const x = fits
    ? element.x + element.width / 2 - width / 2
    : rtl
      ? element.x + element.width + 30 - width
      : element.x - 30;
  return {
    x: clamp(x, screen.width - width),
    y: clamp(element.y + element.height / 2 - height / 2, screen.height - height),
    width,
    height,
  };
}

/** Cuts pieces out of one picture, which is decoded once, and only where a piece was not kept. */
async function openScissors({ folder, onDamage }: Dossier, digest: string, picture: string) {
  const file = join(folder, 'cuts', `${digest}.jsonl`);
  const kept = new Map(
    (await readKeptLines<Cut & { name: string }>(file, evidenceKey('cut'), onDamage))?.map((cut) => [
      cut.name,
      cut,
    ]),
  );
  let isChanged = false;
  let decoded: Promise<DecodedPicture> | undefined;
  return {
    async cut(box: Box | undefined, maxWidthPx: number): Promise<Cut> {
      const name = JSON.stringify([box ?? 'whole', maxWidthPx]);
      let found = kept.get(name);
      if (!found) {
        decoded ??= decodePicture(picture);
        found = { name, ...(await cutPicture(await decoded, box, maxWidthPx)) };
        kept.set(name, found);
        isChanged = true;
      }
      return { dataUri: found.dataUri, showsPx: found.showsPx };
    },
    keep: async () => {
      if (isChanged) await writeKeptLines(file, evidenceKey('cut'), [...kept.values()]);
    },
  };
}
