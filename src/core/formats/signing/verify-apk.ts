/**
 * Which schemes a package is signed by, and what each platform level makes of it (Android Open Source Project,
 * *Application signing*): the newest scheme that a level knows and finds is the one that it goes by.
 */
import type { Certificate, LevelVerdict, SchemeCheck, Signer, Signing } from '../../model/app-package.ts';
import type { ByteSource, Ports } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { type BlockSchemes, openBlock } from './block-signature.ts';
import { hasJarSignature, openJarSignature, type SchemeVerdict, type VerifyAt } from './jar-signature.ts';
import { readSigningBlock } from './signing-block.ts';

type Scheme = 'v1' | 'v2' | 'v3' | 'v3.1';

// The first levels that know each scheme.
const SINCE = { v2: 24, v3: 28, 'v3.1': 33 } as const;
// Android 8 asks for a newer scheme than v1 where an app targets the stricter sandbox, Android 11 where it targets that level.
const SANDBOX_SINCE = 26;
const NEWER_SCHEME_SINCE = 30;
/** What stands for every level that is still to come. */
const OPEN_END = 0x7fffffff;
// Levels at which rules or algorithms of the v1 scheme change.
const TURNS = [9, 18, 19, 21, 22, 23, 24, SANDBOX_SINCE, 28, NEWER_SCHEME_SINCE, 33];

/** What the manifest says that decides about signatures. */
export interface SigningDemands {
  minSdk?: number;
  targetSdk?: number;
  /** `android:targetSandboxVersion`. */
  sandbox?: number;
}

export interface LevelRange {
  /** Android API levels, inclusive; the app's lowest and every newer one where they are not given. */
  minSdk?: number;
  maxSdk?: number;
}

/**
 * Begins with the digests of the signing block, since they take the longest; the rest follows when the manifest is read.
 *
 * @returns to be called with what the manifest demands
 */
export function beginVerification(
  zip: Zip,
  source: ByteSource,
  ports: Ports,
  range: LevelRange = {},
): (demands?: SigningDemands) => Promise<Signing> {
  const block = findBlock(zip, source, ports);
  // what it rejects with is met where it is awaited, unless reading has failed before
  block.catch(() => {});
  return async (demands = {}) => {
    const { problem, schemes } = await block;
    const from = range.minSdk ?? demands.minSdk ?? 1;
    const jar = hasJarSignature(zip) ? openJarSignature(zip, ports) : undefined;
    const verifier: Verifier = { schemes, problem, jar, demands };
    const visits: Visit[] = [];
    for (const level of levelsToAsk(from, range.maxSdk ?? OPEN_END, schemes, demands))
      visits.push(await visit(level, verifier));
    if (visits.some(({ verdicts }) => verdicts.some(({ problems }) => problems.some(isDigest))))
      await nameChangedEntries(zip, visits);
    compareSigners(visits);
    const checks = sumUp(visits, verifier);
    return {
      schemes: checks,
      certificates: certificatesOf(visits, checks),
      levels: mergeLevels(visits, range.maxSdk),
    };
  };
}

/** A bundle is signed as any JAR is, for the store alone; no device ever looks at it. */
export async function verifyBundle(zip: Zip, ports: Ports): Promise<Signing> {
  if (!hasJarSignature(zip)) return { schemes: [], certificates: [] };
  const { problems, signers } = await openJarSignature(zip, ports)(OPEN_END);
  const outcome = problems.length > 0 ? 'broken' : 'verified';
  return {
    schemes: [{ scheme: 'v1', outcome, problems, signers }],
    certificates: signers.flatMap(({ certificates }) => certificates.slice(0, 1)),
  };
}

interface FoundBlock {
  schemes?: BlockSchemes;
  problem?: Problem;
}

async function findBlock(zip: Zip, source: ByteSource, ports: Ports): Promise<FoundBlock> {
  const { centralDirectoryOffset, endRecordOffset } = zip;
  try {
    const block = await readSigningBlock(source, zip);
    if (!block) return {};
    const schemes = openBlock({ source, block, centralDirectoryOffset, endRecordOffset }, ports);
    const newest = (['v3.1', 'v3', 'v2'] as const).find((scheme) => schemes.has(scheme));
    if (newest) await schemes.verifyAt(newest, Math.max(SINCE[newest], schemes.rangeOf(newest)?.min ?? 0));
    return { schemes };
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    return { problem: error.problem };
  }
}

interface Verifier extends FoundBlock {
  jar?: VerifyAt;
  demands: SigningDemands;
}

/** One level for each stretch over which nothing can change. */
function levelsToAsk(
  from: number,
  until: number,
  schemes: BlockSchemes | undefined,
  { targetSdk = 0 }: SigningDemands,
): number[] {
  const turns = [from, ...TURNS, targetSdk, ...(schemes?.turns ?? [])];
  const asked = turns.filter((level) => level >= from && level <= until && level <= OPEN_END);
  return [...new Set(asked)].sort((a, b) => a - b);
}

/** What one level looks at: the first of the verdicts is the one that it goes by. */
interface Visit {
  level: number;
  verdicts: (SchemeVerdict & { scheme: Scheme })[];
  /** Against the package as a whole, whatever its signatures are worth. */
  demanded: Problem[];
}

async function visit(level: number, { demands, jar, problem, schemes }: Verifier): Promise<Visit> {
  const verdicts: Visit['verdicts'] = [];
  const look = async (scheme: Exclude<Scheme, 'v1'>) => {
    verdicts.push(verdictOf(scheme, await schemes!.verifyAt(scheme, level)));
  };
  const knows = (scheme: Exclude<Scheme, 'v1'>) => level >= SINCE[scheme] && schemes?.has(scheme);
  // a level before the one that the key was rotated for goes by the older scheme
  const rotated = knows('v3.1') && level >= schemes!.rangeOf('v3.1')!.min;
  if (rotated) await look('v3.1');
  if (knows('v3')) await look('v3');
  else if (rotated)
    verdicts[0]!.problems.push(found('stripped', 'v3.1 signature', 'no v3 signature beside it'));
  if (verdicts.length === 0 && knows('v2')) await look('v2');
  const demanded: Problem[] = [];
  if (verdicts.length === 0) {
    if (problem && level >= SINCE.v2) demanded.push(problem);
    if (jar) verdicts.push(verdictOf('v1', await jar(level)));
    else demanded.push(found('none', '', 'no signature that this level knows'));
    const { sandbox = 1, targetSdk = 0 } = demands;
    if (level >= SANDBOX_SINCE && sandbox > 1)
      demanded.push(
        found('v1-only', '', `no newer signature than v1, which sandbox version ${sandbox} asks for`),
      );
    if (level >= NEWER_SCHEME_SINCE && targetSdk >= NEWER_SCHEME_SINCE)
      demanded.push(
        found('v1-only', '', `no newer signature than v1, which target level ${targetSdk} asks for`),
      );
  }
  return { level, verdicts, demanded };
}

/** Problems of its own: what is added for one level must not reach others that share a check. */
const verdictOf = (scheme: Scheme, verdict: SchemeVerdict): Visit['verdicts'][number] => ({
  ...verdict,
  scheme,
  problems: [...verdict.problems],
});

const found = (code: string, place: string, what: string): Problem => ({
  code: `signature.${code}`,
  ...(place && { place }),
  found: what,
});

const isDigest = ({ code }: Problem): boolean => code === 'signature.digest';

/** The digests of the block cover the file as a whole; which entry differs, its own checksum tells. */
async function nameChangedEntries(zip: Zip, visits: Visit[]): Promise<void> {
  if (!canInflateAll(zip)) return;
  const changed: Problem[] = [];
  for (const name of zip.entries.keys())
    await zip.read(name).catch((error: unknown) => {
      if (!(error instanceof UnreadableError)) throw error;
      if (changed.length < 20) changed.push(error.problem);
    });
  for (const { verdicts } of visits)
    for (const { problems } of verdicts) if (problems.some(isDigest)) problems.push(...changed);
}

/**
 * Schemes that different levels go by must name the same signers, or the oldest of the lineage: else a device whose
 * system is updated takes the app for another.
 */
function compareSigners(visits: readonly Visit[]): void {
  const byJar = visits.flatMap(({ verdicts }) =>
    verdicts.filter(({ problems, scheme }) => scheme === 'v1' && problems.length === 0),
  );
  for (const verdict of byJar)
    if (verdict.wentBy !== byJar[0]!.wentBy)
      verdict.problems.push(
        found('other-signer', 'v1 signature', 'another signer of the same block than older levels go by'),
      );
  const oldest = new Map<Scheme, string[]>();
  for (const { verdicts } of visits)
    for (const { problems, scheme, signers } of verdicts) {
      if (problems.length > 0 || oldest.has(scheme)) continue;
      const first = (signer: Signer) => signer.lineage?.[0] ?? signer.certificates[0];
      const digests = new Set(signers.flatMap((signer) => first(signer)?.sha256 ?? []));
      oldest.set(scheme, [...digests].sort());
    }
  const older = oldest.get('v1') ?? oldest.get('v2');
  for (const [scheme, digests] of oldest) {
    if (!older || (older.length === digests.length && older.every((digest, i) => digest === digests[i])))
      continue;
    for (const { verdicts } of visits)
      for (const verdict of verdicts)
        if (verdict.scheme === scheme)
          verdict.problems.push(
            found('other-signer', `${scheme} signature`, 'another signer than that of the older scheme'),
          );
  }
}

/** Each scheme that is there, the strongest first: whether it holds wherever it is looked at. */
function sumUp(visits: readonly Visit[], { jar, problem, schemes }: Verifier): SchemeCheck[] {
  const there = [
    ...(['v3.1', 'v3', 'v2'] as const).filter((scheme) => schemes?.has(scheme)),
    ...(jar ? (['v1'] as const) : []),
  ];
  const checks = there.map((scheme): SchemeCheck => {
    const verdicts = visits.flatMap((of) => of.verdicts.filter((verdict) => verdict.scheme === scheme));
    if (verdicts.length === 0) return { scheme, outcome: 'unchecked', problems: [], signers: [] };
    const problems = unique(verdicts.flatMap((verdict) => verdict.problems));
    const signers = verdicts.find((verdict) => verdict.signers.length > 0)?.signers ?? [];
    return { scheme, outcome: problems.length > 0 ? 'broken' : 'verified', problems, signers };
  });
  if (problem) checks.unshift({ scheme: 'v2', outcome: 'broken', problems: [problem], signers: [] });
  return checks;
}

/** Of the newest level, where it names any: the app's identity on a device. */
function certificatesOf(visits: readonly Visit[], checks: readonly SchemeCheck[]): Certificate[] {
  const newest = visits.at(-1)?.verdicts.find(({ signers }) => signers.length > 0)?.signers;
  const signers = newest ?? checks.find((check) => check.signers.length > 0)?.signers ?? [];
  return signers.flatMap(({ certificates }) => certificates.slice(0, 1));
}

function mergeLevels(visits: readonly Visit[], maxSdk: number | undefined): LevelVerdict[] {
  const levels: LevelVerdict[] = [];
  for (const [i, { demanded, level, verdicts }] of visits.entries()) {
    const next = visits[i + 1];
    const until = next ? next.level - 1 : maxSdk;
    const problems = unique([...verdicts.flatMap((verdict) => verdict.problems), ...demanded]);
    const verdict: LevelVerdict = {
      from: level,
      ...(until !== undefined && { until }),
      ...(verdicts[0] && { scheme: verdicts[0].scheme }),
      problems,
    };
    const last = levels.at(-1);
    if (last && last.scheme === verdict.scheme && formatAll(last.problems) === formatAll(problems)) {
      delete last.until;
      if (until !== undefined) last.until = until;
    } else levels.push(verdict);
  }
  return levels;
}

const formatAll = (problems: readonly Problem[]): string =>
  problems.map(({ found: what, place = '' }) => `${place}: ${what}`).join('\n');

const unique = (problems: readonly Problem[]): Problem[] => [
  ...new Map(problems.map((one) => [`${one.place ?? ''}: ${one.found}`, one])).values(),
];
