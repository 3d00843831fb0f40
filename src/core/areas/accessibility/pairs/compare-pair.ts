/** Two captures of one screen under settings that differ in one way, held against one another. */
import { type Cell, formatCell } from '../../../model/cell.ts';
import type { CaptureFact, ScreenTextFact, TextContrastFact } from '../../../model/fact.ts';
import type { FactIndex, IntentWith } from '../../check.ts';

export interface SeenScreen {
  capture: CaptureFact;
  texts: Map<string, ScreenTextFact>;
  inks: Map<string, TextContrastFact>;
  /** What its nodes have as descriptions, drawn or not, by their keys. */
  labels: Map<string, ScreenTextFact>;
}

export interface ScreenPair {
  before: SeenScreen;
  after: SeenScreen;
  /** The same as `after` in its other steps: scrolled on, say. */
  steps: SeenScreen[];
}

/** Every screen seen, by its cell. Use with `facts.once`. */
export function seenScreens(
  facts: FactIndex<'capture' | 'screen-text' | 'text-contrast'>,
  _intent: IntentWith,
): Map<string, SeenScreen> {
  const screens = new Map<string, SeenScreen>();
  const byEvidence = new Map<string, SeenScreen>();
  for (const capture of facts.of('capture')) {
    const screen = { capture, texts: new Map(), inks: new Map(), labels: new Map() };
    screens.set(cellKey(capture.cell), screen);
    byEvidence.set(capture.evidence, screen);
  }
  for (const fact of facts.of('screen-text')) {
    const screen = byEvidence.get(fact.evidence);
    if (fact.from === 'text') addNumbered(screen?.texts, fact.element.key, fact);
    else screen?.labels.set(fact.element.key, fact);
  }
  for (const fact of facts.of('text-contrast')) {
    const screen = byEvidence.get(fact.evidence);
    addNumbered(screen?.inks, fact.element.key, fact);
    // some toolkits give what is drawn as a description, line by line
    const label = fact.described && screen?.labels.get(nodeKey(fact.element.key));
    if (label)
      addNumbered(screen?.texts, fact.element.key, {
        ...label,
        element: fact.element,
        text: fact.element.shown,
      });
  }
  return screens;
}

/** Of the node that a line of a description, or a row, is of. */
export const nodeKey = (key: string): string => key.replace(/ #\d+$/, '').replace(/ line \d+$/, '');

/** Rows of a list share their key, so the first, the second and so on are told apart. */
function addNumbered<T>(to: Map<string, T> | undefined, key: string, value: T): void {
  let number = 1;
  while (to?.has(`${key} #${number}`)) number += 1;
  to?.set(`${key} #${number}`, value);
}

/** Pairs each screen with the one whose cell is made from its own; those without such a counterpart are left out. */
export function* pairScreens(
  screens: ReadonlyMap<string, SeenScreen>,
  counterpartOf: (cell: Cell) => Cell | undefined,
): Iterable<ScreenPair> {
  const bySteps = new Map<string, SeenScreen[]>();
  const stepless = ({ capture: { cell } }: SeenScreen) => cellKey({ ...cell, step: '' });
  for (const screen of screens.values())
    bySteps.set(stepless(screen), [...(bySteps.get(stepless(screen)) ?? []), screen]);
  for (const after of screens.values()) {
    const wanted = counterpartOf(after.capture.cell);
    const before = wanted && screens.get(cellKey(wanted));
    if (!before || before === after) continue;
    yield { before, after, steps: bySteps.get(stepless(after))!.filter((screen) => screen !== after) };
  }
}

const cellKey = ({ device, locale, orientation, procedure, screen, step, textScale, theme }: Cell): string =>
  [screen, procedure, step, device, locale, theme, textScale, orientation].join('|');

export const counterpartName = ({ before }: ScreenPair): string => formatCell(before.capture.cell);
