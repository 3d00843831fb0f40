import type { BuildKey } from '../model/candidate.ts';
import { sameBuild } from '../model/candidate.ts';
import type { Finding } from '../model/finding.ts';
import type { Outcome } from '../model/outcome.ts';
import type { Ruling, SignOff } from '../model/ruling.ts';

/** Lays rulings on the findings that they name. A ruling whose finding is gone or has changed lapses; it is kept and said. */
export function applyRulings(
  findings: readonly Finding[],
  rulings: readonly Ruling[],
  build: BuildKey,
  today: string,
) {
  const byId = new Map(findings.map((finding) => [finding.id, finding]));
  const lapsed: { ruling: Ruling; why: string }[] = [];
  const ruled = new Map<string, Ruling>();
  for (const ruling of rulings) {
    const why = whyLapsed(ruling, byId.get(ruling.finding), build, today);
    if (why) lapsed.push({ ruling, why });
    else ruled.set(ruling.finding, ruling);
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
  finding: Finding | undefined,
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
