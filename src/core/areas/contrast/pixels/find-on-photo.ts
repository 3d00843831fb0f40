/**
 * Text over a photo. Its colour is the one that comes again and again in narrow strokes, while a photo's pixels all differ;
 * what counts as its background is what surrounds the strokes, a stretch of an em at a time, wherever that contrasts least.
 */
import type { Rgb } from '../colour.ts';
import { backgroundUnder, faintestStretch } from './faintest-stretch.ts';
import { markHeight, markInk } from './find-ink.ts';
import { leastMarks } from './find-words.ts';
import type { TextSeen } from './measure-text.ts';
import { type Area, countColours, toRgb } from './sample-area.ts';

const LEAST_SHARE = 0.015;
const MAX_CANDIDATES = 4;
const LEAST_IN_LETTERS = 0.6;
const MAX_FILL = 0.6;
// Of the tallest letter: an em is about 1.37 of it.
const STRETCHES = [1.2, 1.55];
const UNSURE = 1.04;

/** @param text as the tree holds it; may be empty */
export function measureOnPhoto(area: Area, text: string): TextSeen | undefined {
  const { colours, uncoveredCount } = area;
  const writing = [...countColours(colours)]
    .filter(([, count]) => count >= uncoveredCount * LEAST_SHARE)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MAX_CANDIDATES)
    .flatMap(([colour, count]) => findWriting(area, colour, count, leastMarks(text)) ?? [])
    .sort((a, b) => b.share - a.share)[0];
  if (!writing) return undefined;
  const { foreground, heightsPx, ink } = writing;
  const [tallest] = heightsPx as [number];
  const under = backgroundUnder(area, ink, tallest);
  const found = STRETCHES.flatMap((share) => faintestStretch(under, foreground, tallest * share) ?? []);
  const [faintest] = found.sort((a, b) => a.ratio - b.ratio);
  if (!faintest) return undefined;
  const highest = found.at(-1)!.ratio * UNSURE;
  return {
    foreground,
    background: faintest.background,
    ratio: faintest.ratio,
    interval: [
      Math.max(1, Math.min(faintest.ratio / UNSURE, ...found.map(({ lowest }) => lowest))),
      Math.min(21, highest),
    ],
    behind: 'picture',
    meanRatio: faintest.meanRatio,
    reached: 1,
    stemPx: 0,
    spanCount: 1,
    runPx: 0,
    clipped: false,
    glyphHeightsPx: heightsPx,
    linePx: tallest,
  };
}

interface Writing {
  foreground: Rgb;
  ink: Uint8Array;
  /** Tallest first. */
  heightsPx: number[];
  /** Of the colour's pixels, those that lie in marks as tall as letters: a photo's lie about in specks. */
  share: number;
}

function findWriting(
  { colours, heightPx, uncoveredCount, widthPx }: Area,
  colour: number,
  count: number,
  least: number,
): Writing | undefined {
  const ink = new Uint8Array(colours.length);
  for (let i = 0; i < colours.length; i++) if (colours[i] === colour) ink[i] = 1;
  const { marks } = markInk({ widthPx, heightPx, ink });
  const heightsPx = marks.map(markHeight).sort((a, b) => b - a);
  const [tallest = 0] = heightsPx;
  const letters = marks.filter((mark) => markHeight(mark) >= tallest * 0.4);
  const inLetters = letters.reduce((sum, mark) => sum + mark.count, 0);
  const isWriting =
    tallest >= 6 &&
    letters.length >= least &&
    inLetters >= count * LEAST_IN_LETTERS &&
    inLetters <= uncoveredCount * MAX_FILL &&
    strokeWidth(ink, widthPx) <= tallest * 0.35;
  return isWriting ? { foreground: toRgb(colour), ink, heightsPx, share: inLetters / count } : undefined;
}

/** Median length of the runs in rows. */
function strokeWidth(ink: Uint8Array, widthPx: number): number {
  const runs: number[] = [];
  let run = 0;
  for (let i = 0; i < ink.length; i++) {
    if (i % widthPx === 0 && run > 0) {
      runs.push(run);
      run = 0;
    }
    if (ink[i]) run += 1;
    else if (run > 0) {
      runs.push(run);
      run = 0;
    }
  }
  runs.sort((a, b) => a - b);
  return runs[Math.floor(runs.length / 2)] ?? 0;
}
