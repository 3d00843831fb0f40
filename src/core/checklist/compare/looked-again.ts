/** Whether the other candidate was looked at where a finding is: only then was it fixed, or is it new. */
import { type Cell, formatCell } from '../../model/cell.ts';
import type { FactKind } from '../../model/fact.ts';
import { factSources } from '../../model/fact-sources.ts';
import type { Finding } from '../../model/finding.ts';
import { type Looked, Spans } from '../../model/looked.ts';
import { cellKey } from '../looked.ts';

interface CheckLook {
  reads: readonly string[];
  decided: Spans;
  lacking: Spans;
  because: readonly string[];
  limits: Looked['checks'][number]['limits'];
}

/** What one judgement looked at, by what is asked of it. */
export class Look {
  readonly checks: ReadonlyMap<string, CheckLook>;
  readonly names: ReadonlySet<string>;
  readonly #cells: readonly Cell[];
  readonly #positions: ReadonlyMap<string, number>;
  readonly #captured: Spans;
  /** By screen and key, then by kind of fact. */
  readonly #elements: ReadonlyMap<string, readonly (readonly [kind: string, cells: Spans])[]>;
  #withoutDevice: ReadonlySet<string> | undefined;
  readonly #captures = new Map<string, Cell[]>();

  constructor({ captured, cells, checks, elements, names }: Looked) {
    this.#cells = cells;
    this.#positions = new Map(cells.map((cell, i) => [cellKey(cell), i]));
    this.#captured = new Spans(captured);
    this.names = new Set(names);
    this.checks = new Map(
      checks.map(({ check, decided, lacking, ...of }) => [
        check,
        { ...of, decided: new Spans(decided), lacking: new Spans(lacking) },
      ]),
    );
    this.#elements = new Map(
      elements.map(({ key, measured, screen }) => [
        `${screen}|${key}`,
        Object.entries(measured).map(([kind, text]) => [kind, new Spans(text)] as const),
      ]),
    );
    for (const [i, cell] of cells.entries()) {
      if (!this.#captured.has(i)) continue;
      const ofScreen = this.#captures.get(cell.screen);
      if (ofScreen) ofScreen.push(cell);
      else this.#captures.set(cell.screen, [cell]);
    }
  }

  positionOf = (cell: Cell): number | undefined => this.#positions.get(cellKey(cell));

  hasElement = (screen: string, key: string): boolean => this.#elements.has(`${screen}|${key}`);

  /** The kinds of fact that an element was measured by in a cell. */
  kindsAt(screen: string, key: string, cell: Cell): string[] {
    const at = this.positionOf(cell);
    if (at === undefined) return [];
    return (this.#elements.get(`${screen}|${key}`) ?? []).flatMap(([kind, cells]) =>
      cells.has(at) ? [kind] : [],
    );
  }

  isCaptured(cell: Cell): boolean {
    const at = this.positionOf(cell);
    return at !== undefined && this.#captured.has(at);
  }

  hasOnOtherDevice(cell: Cell): boolean {
    this.#withoutDevice ??= new Set(this.#cells.map((one) => cellKey({ ...one, device: '' })));
    return this.#withoutDevice.has(cellKey({ ...cell, device: '' }));
  }

  capturesOf = (screen: string): readonly Cell[] => this.#captures.get(screen) ?? [];
}

/**
 * Why it cannot be said of the other candidate whether it has this finding; undefined where it was looked at as well as
 * this one.
 *
 * @param of what the judgement that has the finding looked at
 */
export function whyNotLooked(finding: Finding, of: Look, other: Look): string | undefined {
  const check = other.checks.get(finding.check);
  if (!check) return whyNoFacts(of.checks.get(finding.check)?.reads[0]);
  const own = of.checks.get(finding.check);
  const because = check.because.find((clause) => !own?.because.includes(clause));
  if (because) return because;
  const cells = new Map(finding.occurrences.flatMap(({ cell }) => (cell ? [[cellKey(cell), cell]] : [])));
  const reasons = [...cells.values()].flatMap((cell) => whyNotIn(cell, finding, of, other) ?? []);
  const [first] = reasons;
  if (!first || cells.size === 1) return first;
  return reasons.length === cells.size ? first : `${first} (${reasons.length} of its ${cells.size} places)`;
}

/** @param kind of fact that its check cannot do without */
function whyNoFacts(kind: string | undefined): string {
  const source = kind !== undefined && kind in factSources ? factSources[kind as FactKind] : undefined;
  return source?.missing.replace(/\.$/, '') ?? 'its check was not run';
}

function whyNotIn(cell: Cell, finding: Finding, of: Look, other: Look): string | undefined {
  const at = other.positionOf(cell);
  const place = formatCell(cell);
  if (at === undefined)
    return other.hasOnOtherDevice(cell)
      ? `${place} was looked at on another device only`
      : `nobody looked at ${place}`;
  const check = other.checks.get(finding.check)!;
  const own = of.checks.get(finding.check);
  const { screen = cell.screen, subject } = finding.identity;
  const kinds = of.kindsAt(screen, subject, cell).filter((kind) => own?.reads.includes(kind));
  if (kinds.length > 0) {
    const there = other.kindsAt(screen, subject, cell);
    if (there.length === 0) return `${subject} is not on ${place}, or was not reached`;
    return kinds.every((kind) => there.includes(kind)) && !isNewlyLacking(at, cell, finding, of, other)
      ? undefined
      : `${subject} could not be measured on ${place}`;
  }
  if (check.lacking.has(at)) return `the evidence of ${place} lacks something that its check needs`;
  if (check.decided.has(at)) return undefined;
  // a check that says nothing where all is well: what it joins must all be there
  const isWhole =
    other.isCaptured(cell) && of.capturesOf(cell.screen).every((capture) => other.isCaptured(capture));
  return isWhole ? undefined : `its check decided nothing on ${place}`;
}

function isNewlyLacking(at: number, cell: Cell, { check }: Finding, of: Look, other: Look): boolean {
  const before = of.positionOf(cell);
  return (
    other.checks.get(check)!.lacking.has(at) &&
    !(before !== undefined && of.checks.get(check)?.lacking.has(before))
  );
}
