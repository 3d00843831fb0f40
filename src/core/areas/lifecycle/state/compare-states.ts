/** What of a screen's state is not as it was. */
import type { StateChange } from '../../../model/fact.ts';
import type { ElementState, ScreenState, Scroller } from './screen-state.ts';

/** Rounding of a scroll position that is kept in another unit. */
const SCROLL_TOLERANCE_PX = 6;
// An element in a scroller is the same one where it stands within so much of where it must be.
const NEAR_PX = 24;

/** @returns nothing where all is as it was */
export function compareStates(before: ScreenState, after: ScreenState): StateChange[] {
  const changes = compareElements(before.fixed, after.fixed, byOrdinal);
  for (const scroller of before.scrollers) {
    const counterpart = after.scrollers.find(({ key }) => key === scroller.key);
    if (counterpart) changes.push(...compareScrollers(scroller, counterpart));
    else changes.push({ key: scroller.key, what: 'gone', before: '', after: '', boundsPx: scroller.bounds });
  }
  return changes;
}

function compareScrollers(before: Scroller, after: Scroller): StateChange[] {
  const moved = movedBy(before, after);
  if (moved === undefined) {
    const [first] = before.elements.filter(({ text }) => text);
    const [now] = after.elements.filter(({ text }) => text);
    if (!first && !now) return [];
    return [
      {
        key: before.key,
        what: 'content',
        before: first?.text ?? '',
        after: now?.text ?? '',
        boundsPx: after.bounds,
      },
    ];
  }
  const hasMoved = Math.abs(moved) > SCROLL_TOLERANCE_PX;
  const scrolled: StateChange[] = hasMoved
    ? [{ key: before.key, what: 'scroll', before: '', after: formatMove(moved), boundsPx: after.bounds }]
    : [];
  const { height, y } = after.bounds;
  const shown = before.elements.filter(({ bounds }) => {
    const top = bounds.y + moved;
    // by a pixel, too, rows come and go at the edges
    return moved === 0 || (top >= y && top + bounds.height <= y + height);
  });
  const near = (a: ElementState, b: ElementState) =>
    a.key === b.key &&
    Math.abs(a.bounds.x - b.bounds.x) <= NEAR_PX &&
    Math.abs(a.bounds.y + moved - b.bounds.y) <= NEAR_PX;
  return [...scrolled, ...compareElements(shown, after.elements, moved === 0 ? byOrdinal : near)];
}

const formatMove = (movedPx: number): string =>
  `${Math.abs(Math.round(movedPx))} px further ${movedPx > 0 ? 'up' : 'down'}`;

/** How far texts that both show have moved down: what most of them say. Undefined where they share none. */
function movedBy(before: Scroller, after: Scroller): number | undefined {
  const votes = new Map<number, number>();
  for (const one of before.elements) {
    if (!one.text || one.isField) continue;
    const counterparts = after.elements.filter(({ key, text }) => key === one.key && text === one.text);
    // a text that stands in several rows tells nothing
    if (
      counterparts.length !== 1 ||
      before.elements.filter(({ key, text }) => key === one.key && text === one.text).length !== 1
    )
      continue;
    const by = counterparts[0]!.bounds.y - one.bounds.y;
    votes.set(by, (votes.get(by) ?? 0) + 1);
  }
  return [...votes].sort((a, b) => b[1] - a[1])[0]?.[0];
}

type Matches = (before: ElementState, after: ElementState) => boolean;

const byOrdinal: Matches = (a, b) => a.key === b.key && a.ordinal === b.ordinal;

function compareElements(
  before: readonly ElementState[],
  after: readonly ElementState[],
  matches: Matches,
): StateChange[] {
  const changes: StateChange[] = [];
  for (const one of before) {
    const counterpart = after.find((other) => matches(one, other));
    if (counterpart) changes.push(...compareElement(one, counterpart));
    // boxes come and go with what is in them
    else if (one.text)
      changes.push({ key: one.key, what: 'gone', before: one.text, after: '', boundsPx: one.bounds });
  }
  return changes;
}

function compareElement(before: ElementState, after: ElementState): StateChange[] {
  const { key } = before;
  const { bounds: boundsPx } = after;
  const changes: StateChange[] = [];
  if (before.text !== after.text && !(isClock(before.text) && isClock(after.text)))
    changes.push({
      key,
      what: before.isField ? 'typed' : 'text',
      before: before.text,
      after: after.text,
      boundsPx,
    });
  for (const what of ['checked', 'selected', 'focused'] as const)
    if (before[what] !== after[what])
      changes.push({ key, what, before: String(before[what]), after: String(after[what]), boundsPx });
  return changes;
}

/** A time of day alone goes on by itself. */
const isClock = (text: string): boolean =>
  /^\d{1,2}[:.]\d{2}([:.]\d{2})?(\s?[ap]\.?m\.?)?$/i.test(text.trim());
