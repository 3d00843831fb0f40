/** The same finding under another name: a view id, a text or a drawable that was renamed. A guess, by what stays the same. */
import type { Finding, Occurrence } from '../../model/finding.ts';
import type { Box } from '../../model/geometry.ts';
import { cellKey } from '../looked.ts';
import type { Look } from './looked-again.ts';

interface Renamed {
  before: Finding;
  after: Finding;
  /** What is the same, in words. */
  by: string;
}

/**
 * Pairs findings that are in one judgement alone, where the name of each is in its own candidate alone too. Where two fit
 * equally well, neither is taken.
 */
export function matchRenamed(
  gone: readonly Finding[],
  come: readonly Finding[],
  before: Look,
  after: Look,
): Renamed[] {
  const left = byKind(gone.filter((finding) => isNamedIn(finding, before) && !isNamedIn(finding, after)));
  const right = byKind(come.filter((finding) => isNamedIn(finding, after) && !isNamedIn(finding, before)));
  const found: Renamed[] = [];
  for (const [kind, ones] of left) {
    const others = right.get(kind) ?? [];
    const scores = ones.map((one) => others.map((other) => similarity(one, other)));
    ones.forEach((one, i) => {
      const j = onlyBest(scores[i]!.map(({ points }) => points));
      if (j === undefined || onlyBest(scores.map((row) => row[j]!.points)) !== i) return;
      found.push({ before: one, after: others[j]!, by: scores[i]![j]!.same.join(' and ') });
    });
  }
  return [...found, ...matchByName(found, left, right)];
}

/** Further findings of what was matched: their names are known now. */
function matchByName(
  found: readonly Renamed[],
  left: ReadonlyMap<string, readonly Finding[]>,
  right: ReadonlyMap<string, readonly Finding[]>,
): Renamed[] {
  const nameOf = ({ identity: { screen, subject } }: Finding) => `${screen ?? ''}|${subject}`;
  const names = new Map(found.map((pair) => [nameOf(pair.before), pair] as const));
  const taken = new Set(found.flatMap((pair) => [pair.before, pair.after]));
  return [...left].flatMap(([kind, ones]) =>
    ones.flatMap((one): Renamed[] => {
      const pair = names.get(nameOf(one));
      if (!pair || taken.has(one)) return [];
      const same = right
        .get(kind)
        ?.find((other) => nameOf(other) === nameOf(pair.after) && !taken.has(other));
      return same ? [{ before: one, after: same, by: pair.by }] : [];
    }),
  );
}

/** Of one check on one screen, under one setting, and as sure of it. */
function byKind(findings: readonly Finding[]): Map<string, Finding[]> {
  const kinds = new Map<string, Finding[]>();
  for (const finding of findings) {
    const { aspect, screen } = finding.identity;
    const kind = JSON.stringify([finding.check, screen, aspect, finding.basis]);
    const list = kinds.get(kind);
    if (list) list.push(finding);
    else kinds.set(kind, [finding]);
  }
  return kinds;
}

const isNamedIn = ({ identity: { screen, subject } }: Finding, look: Look): boolean =>
  screen === undefined ? look.names.has(subject) : look.hasElement(screen, subject);

/** The position of the highest, where it is enough and no other comes near. */
function onlyBest(points: readonly number[]): number | undefined {
  const best = Math.max(0, ...points);
  if (best < ENOUGH) return undefined;
  return points.filter((one) => one >= best).length === 1 ? points.indexOf(best) : undefined;
}
const ENOUGH = 3;

function similarity(one: Finding, other: Finding): { points: number; same: string[] } {
  const pairs = sameCells(one, other);
  const hasText = pairs.some(
    ([a, b]) => a.shown !== '' && a.shown === b.shown && a.shown !== one.identity.subject,
  );
  const isThere = pairs.some(([a, b]) => share(a.boundsPx, b.boundsPx) >= SAME_PLACE);
  // what stands above may have grown or gone
  const isBelow = pairs.some(([a, b]) => isMovedAlong(a.boundsPx, b.boundsPx));
  const hasCause = one.cause !== undefined && one.cause === other.cause;
  const hasData = withoutName(one) === withoutName(other);
  // numbers that agree are a similarity of their own only where nothing has a place: two labels of one colour share theirs
  const isPlaced = pairs.some(([a, b]) => a.boundsPx !== undefined || b.boundsPx !== undefined);
  const hasNumbers =
    hasData &&
    !isPlaced &&
    Object.values(one.occurrences[0]!.data).some((value) => typeof value === 'number');
  const same = [
    ...(hasText ? ['text'] : []),
    ...(isThere || isBelow ? ['place'] : []),
    ...(hasCause || hasData ? ['what is measured'] : []),
  ];
  const points =
    Number(hasText) * 2 +
    (isThere ? 2 : Number(isBelow)) +
    Number(hasCause || hasData) +
    Number(hasNumbers) * 2;
  return { points, same };
}
const SAME_PLACE = 0.5;

/** Occurrences of both in one cell; of findings of the package the first ones. */
function sameCells(one: Finding, other: Finding): [Occurrence, Occurrence][] {
  const cells = new Map(other.occurrences.flatMap((of) => (of.cell ? [[cellKey(of.cell), of]] : [])));
  if (cells.size === 0) return [[one.occurrences[0]!, other.occurrences[0]!]];
  return one.occurrences.flatMap((of): [Occurrence, Occurrence][] => {
    const there = of.cell && cells.get(cellKey(of.cell));
    return there ? [[of, there]] : [];
  });
}

/** What is told of it, less its own name. */
const withoutName = ({ identity: { subject }, occurrences: [first] }: Finding): string =>
  JSON.stringify(first!.data).replaceAll(subject.replace(/^\w+\//, ''), '*');

const isMovedAlong = (a: Box | undefined, b: Box | undefined): boolean =>
  a !== undefined && b !== undefined && a.x === b.x && a.width === b.width && a.height === b.height;

function share(a: Box | undefined, b: Box | undefined): number {
  if (!a || !b) return 0;
  const width = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const height = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  if (width <= 0 || height <= 0) return 0;
  const both = width * height;
  return both / (a.width * a.height + b.width * b.height - both);
}
