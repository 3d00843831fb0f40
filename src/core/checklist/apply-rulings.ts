import type { BuildKey } from '../model/candidate.ts';
import { sameBuild } from '../model/candidate.ts';
import type { Finding } from '../model/finding.ts';
import type { Outcome } from '../model/outcome.ts';
import type { Ruling, SignOff, SignOffBasis } from '../model/ruling.ts';

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

interface SignOffContext {
  itemIds: ReadonlySet<string>;
  build: BuildKey;
  /** YYYY-MM-DD */
  today: string;
  /** The digest of what a sign-off rests on, in this candidate. */
  digestOf(what: SignOffBasis): string | undefined;
}

/** Sign-offs that hold for this build; later ones replace earlier ones. */
export function applySignOffs(signOffs: readonly SignOff[], context: SignOffContext) {
  const lapsed: { signOff: SignOff; why: string }[] = [];
  const holding = new Map<string, SignOff>();
  for (const signOff of signOffs) {
    const why = whySignedAnew(signOff, context);
    if (why) lapsed.push({ signOff, why });
    else holding.set(signOff.item, signOff);
  }
  return { lapsed, holding };
}

function whySignedAnew(
  { build, item, restsOn, until }: SignOff,
  { build: own, digestOf, itemIds, today }: SignOffContext,
): string | undefined {
  if (!itemIds.has(item)) return 'the checklist has no such item';
  if (until && today > until) return `it held until ${until}`;
  if (sameBuild(build, own)) return undefined;
  if (!restsOn) return `it was given for build ${build.build}, code ${build.code}`;
  const digest = digestOf(restsOn.what);
  if (digest === undefined)
    return `nothing shows yet whether the ${restsOn.what} that it rests on are the same`;
  return digest === restsOn.digest
    ? undefined
    : `the ${restsOn.what} that it rests on changed since build ${build.build}`;
}

/** What a finding makes of its item: a ruling decides; otherwise an estimate stays undecided unless `strict`. */
export function outcomeOf(finding: Finding, strict: boolean): Outcome {
  if (finding.ruling) return finding.ruling.ruling === 'real' ? 'failed' : 'passed';
  return finding.basis === 'measured' || strict ? 'failed' : 'cantTell';
}
