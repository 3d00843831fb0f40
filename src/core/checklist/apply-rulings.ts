import type { BuildKey } from '../model/candidate.ts';
import { sameBuild } from '../model/candidate.ts';
import type { Finding } from '../model/finding.ts';
import type { Outcome } from '../model/outcome.ts';
import type { Ruling, SignOff } from '../model/ruling.ts';

/**
 * Lays rulings on the findings that they name. A ruling whose finding is gone or has changed lapses; it is kept and said.
 * One that was made when the rows of a list were one finding holds for each row, as long as nothing in any of them changed.
 */
export function applyRulings(
  findings: readonly Finding[],
  rulings: readonly Ruling[],
  build: BuildKey,
  today: string,
) {
  const byId = new Map(findings.map((finding) => [finding.id, finding]));
  const lapsed: { ruling: Ruling; why: string }[] = [];
  const rowsOf = new Map<string, Finding[]>();
  for (const finding of findings)
    if (finding.former) rowsOf.set(finding.former.id, [...(rowsOf.get(finding.former.id) ?? []), finding]);
  const ruled = new Map<string, Ruling>();
  for (const ruling of rulings) {
    const own = byId.get(ruling.finding);
    const rows = own ? [] : (rowsOf.get(ruling.finding) ?? []);
    const why = whyLapsed(ruling, own ?? rows[0]?.former, build, today);
    if (why) lapsed.push({ ruling, why });
    else if (own) ruled.set(own.id, ruling);
    // a later one on a single row counts before it
    else for (const { id } of rows) if (!ruled.has(id)) ruled.set(id, ruling);
  }
  return {
    lapsed,
    findings: findings.map((finding): Finding => {
      const ruling = ruled.get(finding.id);
      return ruling
        ? { ...finding, ruling: { ruling: ruling.ruling, why: ruling.why, by: ruling.by } }
        : finding;
    }),
  };
}

function whyLapsed(
  ruling: Ruling,
  finding: { digest: string } | undefined,
  build: BuildKey,
  today: string,
): string | undefined {
  if (!finding) return 'there is no such finding any more';
  if (finding.digest !== ruling.digest) return 'what was measured has changed since';
  if (ruling.until && today > ruling.until) return `it was accepted until ${ruling.until}`;
  if (ruling.untilBuild && isLater(build.build, ruling.untilBuild))
    return `it was accepted until build ${ruling.untilBuild}`;
  return undefined;
}

const isLater = (build: string, than: string): boolean =>
  build.localeCompare(than, 'en', { numeric: true }) > 0;

/** Sign-offs that hold for this build; later ones replace earlier ones. */
export function applySignOffs(signOffs: readonly SignOff[], itemIds: ReadonlySet<string>, build: BuildKey) {
  const lapsed: { signOff: SignOff; why: string }[] = [];
  const holding = new Map<string, SignOff>();
  for (const signOff of signOffs) {
    if (!itemIds.has(signOff.item)) lapsed.push({ signOff, why: 'the checklist has no such item' });
    else if (!sameBuild(signOff.build, build))
      lapsed.push({
        signOff,
        why: `it was given for build ${signOff.build.build}, code ${signOff.build.code}`,
      });
    else holding.set(signOff.item, signOff);
  }
  return { lapsed, holding };
}

/** What a finding makes of its item: a ruling decides; otherwise an estimate stays undecided unless `strict`. */
export function outcomeOf(finding: Finding, strict: boolean): Outcome {
  if (finding.ruling) return finding.ruling.ruling === 'real' ? 'failed' : 'passed';
  return finding.basis === 'measured' || strict ? 'failed' : 'cantTell';
}
