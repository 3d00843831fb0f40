/**
 * The texts that a capture shows, each measured once: those that the tree gives as text, and descriptions that turn out to be
 * drawn. Some toolkits give what is drawn as the description of a plain view, several lines gathered into one node; whether a
 * description is drawn is a matter of pixels, line by line.
 */

import { behindCurtains } from '../../model/curtains.ts';
import type { Box } from '../../model/geometry.ts';
import {
  coversOf,
  cutBy,
  isField,
  isPicture,
  isShownByChild,
  shownText,
  type UiNode,
  type VisibleNode,
  visibleNodes,
} from '../../model/ui-tree.ts';
import type { CaptureEvidence } from '../observer.ts';
import { drawingsOf } from './pixels/find-drawings.ts';
import { type FlatInk, inkLayersOf, keepMarks, type MarkedInk } from './pixels/find-ink.ts';
import { isJoined, leastMarks, mayRunOnto, type Word } from './pixels/find-words.ts';
import { CLOSE_MATCH, GOOD_MATCH, isApart, isLoose, isPattern, matchText } from './pixels/match-text.ts';
import { lettersAtEdge } from './pixels/measure-glyphs.ts';
import { measureText } from './pixels/measure-text.ts';
import type { Area } from './pixels/sample-area.ts';
import { type SettledPixels, settleColours } from './pixels/settle-colours.ts';
import type { TextSeen, TextUnseen } from './pixels/text-seen.ts';

interface SeenText {
  item: VisibleNode;
  text: string;
  /** The node's, or where in it a line of its description is drawn. */
  boundsPx: Box;
  from: 'text' | 'description';
  /** Which of the node's texts it is, from 0. */
  line: number;
  seen: TextSeen | TextUnseen;
}

interface SeenTexts {
  texts: SeenText[];
  /** Drawn in a node beside its text. */
  drawings: { item: VisibleNode; boundsPx: Box }[];
  nodes: VisibleNode[];
  /** Texts and pictures that lie behind a scrim, and are left out. */
  behindCount: number;
  /** The picture as it is measured. */
  pixels: SettledPixels;
  /** Where so many texts of the tree are not in the picture, both are of different moments. */
  missing: { count: number; of: number; areMany: boolean };
}

// Several observers ask for the texts of the same capture, one after another.
const known = new WeakMap<CaptureEvidence, SeenTexts>();

export function seenTexts(evidence: CaptureEvidence): SeenTexts {
  const found = known.get(evidence) ?? findTexts(evidence);
  known.set(evidence, found);
  return found;
}

function findTexts({ pixels: asTaken, tree }: CaptureEvidence): SeenTexts {
  const pixels = settleColours(asTaken);
  const all = visibleNodes(tree, pixels);
  const behind = behindCurtains(all, pixels);
  const nodes = behind.size > 0 ? all.filter((item) => !behind.has(item)) : all;
  const found: SeenTexts = {
    texts: [],
    drawings: [],
    nodes,
    behindCount: [...behind].filter(({ node }) => node.text.trim() || isPicture(node)).length,
    pixels,
    missing: { count: 0, of: 0, areMany: false },
  };
  for (const item of nodes) {
    const text = shownText(item.node);
    const covers = () => coversOf(item, nodes);
    if (text && !isShownByChild(item.node, text)) {
      const isCut = cutBy(item, pixels) !== undefined;
      const inside = writtenInside(item, nodes);
      const over = [...covers(), ...inside];
      const seen = measureText(
        pixels,
        item.visiblePx,
        over,
        text,
        isCut,
        inside.length > 0 ? TITLE_SHARE : undefined,
      );
      found.texts.push({ item, text, boundsPx: item.visiblePx, from: 'text', line: 0, seen });
      // what an edge leaves of a line of letters looks like a drawing
      if (typeof seen !== 'string' && !isCut)
        for (const boundsPx of seen.drawings) found.drawings.push({ item, boundsPx });
    } else if (!text && isDescribed(item)) addDescription(found, item, pixels, covers());
  }
  return { ...found, missing: countMissing(found.texts, pixels) };
}

// Single ones may be drawn in ways that nobody foresaw; titles and tabs are the same on many screens.
const LEAST_TEXTS = 5;
const LEAST_MISSING = 4;
const MISSING_SHARE = 0.4;
// A shorter text is found in many a drawing.
const LEAST_LETTERS = 4;

/** Texts that nothing hides, and that are not where the tree has them. */
function countMissing(texts: readonly SeenText[], picture: SettledPixels): SeenTexts['missing'] {
  const clear = texts.filter(
    ({ from, item, seen, text }) =>
      from === 'text' &&
      (text.match(/\p{L}/gu)?.length ?? 0) >= LEAST_LETTERS &&
      seen !== 'covered' &&
      seen !== 'too-small' &&
      !cutBy(item, picture),
  );
  // losses blur letters until they fit no more, and leave them there
  const isMissing = (seen: SeenText['seen']): boolean =>
    picture.strayLevels === undefined ? typeof seen === 'string' || !!seen.doubtful : seen === 'no-ink';
  const count = clear.filter(({ seen }) => isMissing(seen)).length;
  return {
    count,
    of: clear.length,
    areMany: clear.length >= LEAST_TEXTS && count >= Math.max(LEAST_MISSING, clear.length * MISSING_SHARE),
  };
}

// Of a box that holds others: what its own text needs.
const TITLE_SHARE = 0.02;

/** What is drawn by elements inside of a text's own: a word in bold, a button at its end, all that a titled box holds. */
const writtenInside = (item: VisibleNode, nodes: readonly VisibleNode[]): Box[] =>
  item.node.children.length === 0
    ? []
    : nodes
        .filter(
          ({ ancestors, node }) =>
            ancestors.includes(item.node) && (node.text.trim() !== '' || isPicture(node)),
        )
        .map(({ visiblePx }) => visiblePx);

/** Its description may be drawn; that of a box that holds texts of its own speaks of them. */
const isDescribed = ({ node }: VisibleNode): boolean =>
  node.label.trim() !== '' && !isPicture(node) && !isField(node) && !holdsText(node);
const holdsText = (node: UiNode): boolean =>
  node.children.some((child) => child.text.trim() !== '' || child.label.trim() !== '' || holdsText(child));

function addDescription(
  found: SeenTexts,
  item: VisibleNode,
  pixels: CaptureEvidence['pixels'],
  covers: readonly Box[],
): void {
  const lines = item.node.label
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);
  const before = found.texts.length;
  for (const box of inkLayersOf(pixels, item.visiblePx, covers)) {
    const drawn = found.texts.slice(before).map(({ line }) => line);
    addLines(found, item, { pixels, covers, box, lines, drawn });
  }
  const [text] = lines as [string];
  if (found.texts.length > before || lines.length > 1 || text.length < LEAST_ON_UNEVEN) return;
  // a drawing and a blot may pass for two words
  if (isJoined(text)) return;
  const seen = measureText(pixels, item.visiblePx, covers, text);
  if (typeof seen === 'string' || seen.doubtful || !isWriting(seen, text)) return;
  found.texts.push({ item, text, boundsPx: item.visiblePx, from: 'description', line: 0, seen });
}

function addLines(
  found: SeenTexts,
  item: VisibleNode,
  {
    box,
    covers,
    drawn: before,
    lines,
    pixels,
  }: {
    pixels: CaptureEvidence['pixels'];
    covers: readonly Box[];
    box: FlatInk;
    lines: readonly string[];
    /** Lines that were found already. */
    drawn: readonly number[];
  },
): void {
  let left = box.marked;
  // where another colour lies in the box as well, some letters may lie on it
  const limit = box.background.others.length > 0 ? CLOSE_MATCH : GOOD_MATCH;
  const count = found.texts.length;
  for (const [line, text] of lines.entries()) {
    if (before.includes(line)) continue;
    const drawn = findLine(left, text, limit);
    // among the marks of a pattern some are as wide as any short word, or as letters that hang together
    const isWeak = text.length < LEAST_ON_UNEVEN || isLoose(text) || isJoined(text);
    if (!drawn || (lines.length === 1 && isWeak && drawn.isAmongMany)) continue;
    if (mayRunOnto(box.area, drawn.words, box.background.others)) continue;
    left = drawn.left;
    const boundsPx = inPicture(drawn.words, box.area);
    const seen = measureText(pixels, boundsPx, covers, text);
    if (typeof seen !== 'string') {
      if (!isWriting(seen, text)) continue;
      seen.edge = lettersAtEdge(drawn.words, box.area, item.visiblePx);
      if (!isSameRun(seen, drawn.words)) seen.doubtful = true;
    }
    found.texts.push({ item, text, boundsPx, from: 'description', line, seen });
  }
  if (found.texts.length > count)
    for (const boundsPx of drawingsOf(left.marks, box.area)) found.drawings.push({ item, boundsPx });
}

// Letters: what is as wide as a shorter word may be a drawing.
const LEAST_ON_UNEVEN = 5;
// Marks: a drawing beside a short text falls into fewer.
const MOST_BESIDE_SHORT = 3;
// Of the height of a line: the strokes of the lightest letters are thicker.
const LEAST_STEM = 0.03;

// Widths of the same words, found twice, differ by no more than this factor's logarithm.
const SAME_RUN = 0.25;

/** What was measured is what was found before: in a smaller box, something else may pass for the text. */
function isSameRun({ runPx }: TextSeen, words: readonly Word[]): boolean {
  const run = words.reduce((sum, { left, right }) => sum + right - left + 1, 0);
  return runPx > 0 && Math.abs(Math.log(runPx / run)) <= SAME_RUN;
}

/** A drawing may happen to be as wide as a short word; it falls into fewer marks, and its edges are no strokes. */
const isWriting = ({ linePx, markCount, stemPx }: TextSeen, text: string): boolean =>
  markCount >= leastMarks(text, 0.6) && stemPx >= linePx * LEAST_STEM;

/** A line of a description among the marks of a box, and the marks without it. */
function findLine(marked: MarkedInk, text: string, limit: number) {
  const match = matchText(marked, text);
  if (!match || match.cost > limit || !isApart(match)) return undefined;
  const own = new Set(match.words.flatMap(({ marks }) => marks));
  if (own.size < leastMarks(text, 0.6)) return undefined;
  return {
    words: match.words,
    isAmongMany: isPattern(match, MOST_BESIDE_SHORT),
    left: keepMarks(
      marked,
      marked.marks.filter((mark) => !own.has(mark)),
    ),
  };
}

// Room for antialiasing, and for the ground to be seen.
const MARGIN_PX = 3;

function inPicture(
  words: readonly { left: number; right: number; top: number; bottom: number }[],
  area: Area,
): Box {
  const x = Math.min(...words.map(({ left }) => left)) - MARGIN_PX;
  const y = Math.min(...words.map(({ top }) => top)) - MARGIN_PX;
  return {
    x: area.left + x,
    y: area.top + y,
    width: Math.max(...words.map(({ right }) => right)) + 1 + MARGIN_PX - x,
    height: Math.max(...words.map(({ bottom }) => bottom)) + 1 + MARGIN_PX - y,
  };
}
