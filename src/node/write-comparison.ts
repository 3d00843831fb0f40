/** The page of a comparison, with the same place of both candidates beside each other. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { ComparableJudgement } from '../core/checklist/compare/compare.ts';
import { cellKey } from '../core/checklist/looked.ts';
import type { Comparison } from '../core/model/comparison.ts';
import type { Finding } from '../core/model/finding.ts';
import type { Judgement } from '../core/model/judgement.ts';
import { comparisonPage, type ProofPairs, picturedChanges } from '../core/reports/html/comparison-page.ts';
import type { Proof } from '../core/reports/html/proof.ts';
import { cutProofs, type Placed, picturesOf } from './cut-proofs.ts';
import type { Dossier } from './dossier.ts';
import { fontFaces } from './font-faces.ts';
import { writeAtomically } from './write-atomically.ts';

export interface Side {
  judgement: ComparableJudgement;
  /** Where the pictures are; what has none can still be compared. */
  dossier?: Dossier;
  /** Or those that were kept of findings. */
  kept?: (findings: Iterable<string>) => Promise<Map<string, Proof>>;
}

/** @returns the path of the page in `folder` */
export async function writeComparison(
  comparison: Comparison,
  before: Side,
  after: Side,
  folder: string,
): Promise<string> {
  await mkdir(folder, { recursive: true });
  const pairs = pairsOf(comparison, before.judgement, after.judgement);
  const cut = async ({ dossier, kept }: Side, of: 'before' | 'after') => {
    if (dossier)
      return cutProofs(
        dossier,
        await picturesOf(dossier),
        pairs.flatMap((pair) => (pair[of] ? [{ id: pair.name, occurrences: [pair[of]] }] : [])),
        folder,
      );
    const found = await kept?.(pairs.flatMap(({ former }) => former ?? []));
    return new Map(
      pairs.flatMap(({ former, name }) => {
        const proof = former && found?.get(former);
        return proof ? [[name, proof] as const] : [];
      }),
    );
  };
  const [earlier, later] = [await cut(before, 'before'), await cut(after, 'after')];
  const proofs: ProofPairs = new Map(
    pairs.flatMap(({ name }) => {
      const [one, other] = [earlier.get(name), later.get(name)];
      return one || other
        ? [[name, { ...(one && { before: one }), ...(other && { after: other }) }] as const]
        : [];
    }),
  );
  const page = comparisonPage(comparison, { fontCss: await fontFaces(), proofs });
  await writeAtomically(folder, 'index.html', (staged) => writeFile(staged, page));
  return join(folder, 'index.html');
}

type Place = Placed['occurrences'][number];

/** Where a finding is in one candidate alone, the same box of the same cell of the other one. */
function pairsOf({ findings }: Comparison, before: Judgement, after: Judgement) {
  const byId = (of: Judgement) => new Map(of.findings.map((finding) => [finding.id, finding]));
  const [earlier, later] = [byId(before), byId(after)];
  const captures = { before: capturesOf(before), after: capturesOf(after) };
  return findings
    .filter(({ change }) => picturedChanges.has(change))
    .map((one) => {
      const own = one.after && later.get(one.after.id);
      const former = one.before && earlier.get(one.before.id);
      return {
        name: (one.after ?? one.before)!.id,
        former: one.before?.id,
        before: former ? worstOf(former) : own && sameIn(captures.before, own),
        after: own ? worstOf(own) : former && sameIn(captures.after, former),
      };
    });
}

const worstOf = ({ occurrences: [worst] }: Finding): Place | undefined =>
  worst!.boundsPx ? worst : undefined;

/** By their cells, whatever the device. */
const capturesOf = ({ coverage }: Judgement): Map<string, string | undefined> =>
  new Map(coverage.map(({ cell, evidence }) => [cellKey({ ...cell, device: '' }), evidence[0]]));

function sameIn(captures: ReadonlyMap<string, string | undefined>, finding: Finding): Place | undefined {
  const worst = worstOf(finding);
  const evidence = worst?.cell && captures.get(cellKey({ ...worst.cell, device: '' }));
  return evidence === undefined ? undefined : { ...worst!, evidence };
}
