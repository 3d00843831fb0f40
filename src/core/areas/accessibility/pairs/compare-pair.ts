/** Two captures of one screen under settings that differ in one way, held against one another. */
import { type Cell, sayCell } from '../../../model/cell.ts';
import type { CaptureFact, ScreenTextFact, TextContrastFact } from '../../../model/fact.ts';
import { area, intersect } from '../../../model/geometry.ts';
import type { Intent } from '../../../model/intent.ts';
import type { FactIndex } from '../../check.ts';

export interface SeenScreen {
  capture: CaptureFact;
  texts: Map<string, ScreenTextFact>;
  inks: Map<string, TextContrastFact>;
}

export interface ScreenPair {
  before: SeenScreen;
  after: SeenScreen;
}

export type Harm = 'lost' | 'cut' | 'clipped' | 'ellipsized' | 'overlapped';

/** Every screen seen, by its cell. Use with `facts.once`. */
export function seenScreens(facts: FactIndex, _intent: Intent): Map<string, SeenScreen> {
  const screens = new Map<string, SeenScreen>();
  const byEvidence = new Map<string, SeenScreen>();
  for (const capture of facts.of('capture')) {
    const screen = { capture, texts: new Map(), inks: new Map() };
    screens.set(cellKey(capture.cell), screen);
    byEvidence.set(capture.evidence, screen);
  }
  for (const fact of facts.of('screen-text'))
    if (fact.from === 'text') addNumbered(byEvidence.get(fact.evidence)?.texts, fact.element.key, fact);
  for (const fact of facts.of('text-contrast'))
    addNumbered(byEvidence.get(fact.evidence)?.inks, fact.element.key, fact);
  return screens;
}

/** Rows of a list share their key, so the first, the second and so on are told apart. */
function addNumbered<T>(to: Map<string, T> | undefined, key: string, value: T): void {
  let number = 1;
  while (to?.has(`${key} #${number}`)) number += 1;
  to?.set(`${key} #${number}`, value);
}

/** Pairs each screen with the one whose cell is made from its own; those without such a twin are left out. */
export function* pairScreens(
  screens: ReadonlyMap<string, SeenScreen>,
  twinOf: (cell: Cell) => Cell | undefined,
): Iterable<ScreenPair> {
  for (const after of screens.values()) {
    const wanted = twinOf(after.capture.cell);
    const before = wanted && screens.get(cellKey(wanted));
    if (before && before !== after) yield { before, after };
  }
}

const cellKey = ({ device, locale, orientation, procedure, screen, step, textScale, theme }: Cell): string =>
  [screen, procedure, step, device, locale, theme, textScale, orientation].join('|');

/** What became of a text that was whole before. */
export function harmTo(key: string, { after, before }: ScreenPair): Harm | undefined {
  const text = after.texts.get(key);
  // what scrolls may only have moved out of sight
  if (!text) return before.texts.get(key)?.inScroller ? undefined : 'lost';
  if (text.ellipsized) return before.texts.get(key)?.ellipsized ? undefined : 'ellipsized';
  if (after.inks.get(key)?.cutBy === 'screen' && before.inks.get(key)?.cutBy !== 'screen') return 'cut';
  if (isClipped(before.inks.get(key), after.inks.get(key))) return 'clipped';
  return overlapsAny(key, after) && !overlapsAny(key, before) ? 'overlapped' : undefined;
}

// What hangs together or not makes words a little wider or narrower.
const LEAST_RUN = 0.75;

/** Letters end at the edge of their box, or fewer words are drawn than so large a text would need. */
function isClipped(before: TextContrastFact | undefined, after: TextContrastFact | undefined): boolean {
  if (!before || !after || before.unseen || after.unseen || before.cutBy || after.cutBy) return false;
  if (before.element.shown !== after.element.shown) return false;
  if (after.clipped && !before.clipped) return true;
  const growth = before.glyphDp > 0 ? after.glyphDp / before.glyphDp : 0;
  return after.runDp > 0 && growth >= 1 && after.runDp < before.runDp * growth * LEAST_RUN;
}

const LEAST_OVERLAP = 0.12;

function overlapsAny(key: string, { texts }: SeenScreen): boolean {
  const own = texts.get(key)?.element.boundsPx;
  if (!own) return false;
  return [...texts].some(
    ([
      other,
      {
        element: { boundsPx },
      },
    ]) => {
      if (other === key) return false;
      const shared = area(intersect(own, boundsPx));
      const [less, more] = [Math.min(area(own), area(boundsPx)), Math.max(area(own), area(boundsPx))];
      // a text that lies wholly within another repeats a part of it
      return shared > less * LEAST_OVERLAP && !(shared >= less * 0.98 && more > less * 1.5);
    },
  );
}

export const twinName = ({ before }: ScreenPair): string => sayCell(before.capture.cell);
