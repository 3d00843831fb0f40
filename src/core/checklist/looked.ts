import type { FactIndex } from '../areas/check.ts';
import type { Cell } from '../model/cell.ts';
import type { FactKind } from '../model/fact.ts';
import { factKinds } from '../model/fact-sources.ts';
import type { Intent } from '../model/intent.ts';
import { formatSpans, type Looked } from '../model/looked.ts';
import type { CheckReport } from './collect-findings.ts';

/** What was looked at, and by which checks. */
export function lookedAt(reports: readonly CheckReport[], facts: FactIndex, intent: Intent): Looked {
  const cells = new CellList();
  const captured = formatSpans(facts.of('capture').map(({ cell }) => cells.positionOf(cell)));
  const elements = measuredElements(facts, cells);
  const checks = reports
    .filter(({ hadFacts }) => hadFacts)
    .map(({ check, decidedIn, lackingIn, missingAtLarge, unseen }) => ({
      check: check.id,
      reads: [check.needs, ...check.reads],
      decided: formatSpans(decidedIn.map((cell) => cells.positionOf(cell))),
      lacking: formatSpans(lackingIn.map((cell) => cells.positionOf(cell))),
      because: [...unseen, ...missingAtLarge.map((what) => `the evidence lacks ${what}`)],
      limits: Object.fromEntries(check.limits.map((name) => [name, intent.limits[name]])),
    }));
  return { cells: cells.list, captured, checks, elements, names: namesIn(facts) };
}

class CellList {
  readonly list: Cell[] = [];
  readonly #positions = new Map<string, number>();

  positionOf(cell: Cell): number {
    const key = cellKey(cell);
    const known = this.#positions.get(key);
    if (known !== undefined) return known;
    this.list.push(cell);
    this.#positions.set(key, this.list.length - 1);
    return this.list.length - 1;
  }
}

/** One key for one place, device and all. */
export const cellKey = ({
  device,
  locale,
  orientation,
  procedure,
  screen,
  step,
  textScale,
  theme,
}: Cell): string => [screen, procedure, step, device, locale, theme, textScale, orientation].join('|');

function measuredElements(facts: FactIndex, cells: CellList): Looked['elements'] {
  const elements = new Map<string, { screen: string; key: string; measured: Map<FactKind, number[]> }>();
  for (const kind of factKinds)
    for (const fact of facts.of(kind)) {
      if (!('element' in fact)) continue;
      const { screen } = fact.cell;
      const { key } = fact.element;
      const name = `${screen}|${key}`;
      let element = elements.get(name);
      if (!element) {
        element = { screen, key, measured: new Map() };
        elements.set(name, element);
      }
      const positions = element.measured.get(kind);
      if (positions) positions.push(cells.positionOf(fact.cell));
      else element.measured.set(kind, [cells.positionOf(fact.cell)]);
    }
  return [...elements.values()].map(({ key, measured, screen }) => ({
    screen,
    key,
    measured: Object.fromEntries([...measured].map(([kind, positions]) => [kind, formatSpans(positions)])),
  }));
}

const namesIn = (facts: FactIndex): string[] =>
  [
    ...new Set([
      ...facts.of('catalogue-text').map(({ key }) => key),
      ...facts.of('varied-resource').map(({ name }) => name),
      ...facts.of('unused-resource').map(({ name }) => name),
    ]),
  ].sort();
