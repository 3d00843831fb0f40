/** What the measuring says of a painted sheet, held against what the paintings say. */
import type { Assertion } from '../../../src/core/areas/check.ts';
import { iconContrast } from '../../../src/core/areas/contrast/checks/icon-contrast.ts';
import { textContrast } from '../../../src/core/areas/contrast/checks/text-contrast.ts';
import { observeIconContrast } from '../../../src/core/areas/contrast/observers/observe-icon-contrast.ts';
import { observeTextContrast } from '../../../src/core/areas/contrast/observers/observe-text-contrast.ts';
import type { CaptureEvidence } from '../../../src/core/areas/observer.ts';
import type { IconContrastFact, TextContrastFact } from '../../../src/core/model/fact.ts';
import type { Pixels } from '../../../src/core/model/ports.ts';
import { run, screenEvidence } from '../facts.ts';
import { type Manner, treeOf } from './manners.ts';
import type { PaintedSheet, Part, PartTruth } from './scene.ts';

export interface Scored {
  family: string;
  manner: Manner;
  painter: string;
  kind: 'text' | 'icon';
  text: string;
  truth: number;
  required: number;
  outcome: Assertion['outcome'] | 'not looked at';
  interval?: [number, number];
  ratio?: number;
  /** For a look at it. */
  where: PartTruth['inkPx'];
  unseen?: string;
  /** In dp, and CSS weight; and what was told of them. */
  size: { dp: number; weight: number; toldDp?: readonly number[]; toldBold?: unknown };
}

type ContrastFact = TextContrastFact | IconContrastFact;

export function scoreSheet(
  { pixels: clean, scene, truths }: PaintedSheet,
  manner: Manner,
  painter: string,
  pixels: Pixels = clean,
  family?: string,
): Scored[] {
  const evidence = screenEvidence(treeOf(scene, manner), { pixels, densityDpi: 160 * scene.scale });
  return scoreTruths(evidence, truths, { manner, painter, ...(family && { family }) });
}

/** What is measured on a screen against what is true of its elements. */
export function scoreTruths(
  evidence: CaptureEvidence,
  truths: readonly PartTruth[],
  { family, manner, painter }: Pick<Scored, 'manner' | 'painter'> & { family?: string },
): Scored[] {
  const facts: ContrastFact[] = [
    ...observeTextContrast.observe(evidence),
    ...observeIconContrast.observe(evidence),
  ];
  return elementsOf(truths).map(({ part, ratio, slot, inkPx }) => {
    const fact = factOf(facts, part.kind, part.text, inkPx);
    const [assertion] = fact ? run(part.kind === 'icon' ? iconContrast : textContrast, [fact]) : [];
    return {
      family: family ?? slot.family,
      manner,
      painter,
      kind: part.kind,
      text: part.text,
      truth: ratio,
      required: requiredOf(part),
      outcome: assertion?.outcome ?? 'not looked at',
      ...(fact &&
        !fact.unseen && {
          interval: (fact as { interval: [number, number] }).interval,
          ratio: (fact as { ratio: number }).ratio,
        }),
      ...(fact?.unseen && { unseen: fact.unseen }),
      where: inkPx,
      size: {
        dp: part.sizeDp,
        weight: part.weight,
        ...(fact && 'textSizeDp' in fact && { toldDp: fact.textSizeDp, toldBold: fact.bold }),
      },
    };
  });
}

/** WCAG 2.2, 1.4.3 and 1.4.11. */
const requiredOf = ({ kind, sizeDp, weight }: Part): number =>
  kind === 'icon' || sizeDp >= 18 || (sizeDp >= 14 && weight >= 700) ? 3 : 4.5;

/** Parts that are one element count once, by the one that lacks most. */
function elementsOf(truths: readonly PartTruth[]): PartTruth[] {
  return truths.filter(
    (truth) =>
      !truth.slot.joined ||
      truths.every((other) => other.slot !== truth.slot || other === truth || lackOf(other) >= lackOf(truth)),
  );
}

const lackOf = ({ part, ratio }: PartTruth): number => ratio / requiredOf(part);

/** The one in the smallest box around the ink's middle. */
function factOf(
  facts: readonly ContrastFact[],
  kind: Scored['kind'],
  text: string,
  ink: PartTruth['inkPx'],
): ContrastFact | undefined {
  const [x, y] = [ink.x + ink.width / 2, ink.y + ink.height / 2];
  return facts
    .filter((fact) => fact.kind === `${kind}-contrast`)
    .filter(
      ({ element: { boundsPx: of } }) =>
        x >= of.x && y >= of.y && x < of.x + of.width && y < of.y + of.height,
    )
    .filter((fact) => kind === 'icon' || fact.element.shown.includes(text))
    .sort(
      (a, b) =>
        a.element.boundsPx.width * a.element.boundsPx.height -
        b.element.boundsPx.width * b.element.boundsPx.height,
    )[0];
}

export const isFar = ({ required, truth }: Scored): boolean => Math.abs(truth / required - 1) > 0.05;
export const isDecided = ({ outcome }: Scored): boolean => outcome === 'passed' || outcome === 'failed';
export const isRight = ({ outcome, required, truth }: Scored): boolean =>
  outcome === (truth >= required ? 'passed' : 'failed');
/** On the border itself, a hundredth is a matter of how the paintings were rounded. */
export const isWrong = (of: Scored): boolean =>
  isDecided(of) && !isRight(of) && Math.abs(of.truth / of.required - 1) > 0.01;
export const isHeld = ({ interval, truth }: Scored): boolean =>
  !interval || (truth >= interval[0] * 0.995 && truth <= interval[1] * 1.005);

/** A table by whatever the key says. */
export function tabulate(scored: readonly Scored[], keyOf: (of: Scored) => string): string {
  const keys = [...new Set(scored.map(keyOf))].sort();
  const row = (name: string, of: readonly Scored[]) => {
    const far = of.filter(isFar);
    const seen = of.filter(({ interval }) => interval);
    const widths = seen
      .map(({ interval, ratio }) => (interval![1] - interval![0]) / 2 / ratio!)
      .sort((a, b) => a - b);
    return [
      name.padEnd(30),
      of.length,
      far.filter(isRight).length,
      far.filter(({ outcome }) => outcome === 'cantTell').length,
      far.filter(({ outcome }) => outcome === 'not looked at' || outcome === 'inapplicable').length,
      of.filter(isWrong).length,
      seen.length > 0 ? `${((100 * seen.filter(isHeld).length) / seen.length).toFixed(1)} %` : '-',
      widths.length > 0 ? `±${(100 * widths[widths.length >> 1]!).toFixed(1)} %` : '-',
    ].join('\t');
  };
  return [
    `${'family'.padEnd(30)}\tn\tright\tundec\tnot\twrong\theld\twidth`,
    ...keys.map((key) =>
      row(
        key,
        scored.filter((of) => keyOf(of) === key),
      ),
    ),
    row('all', scored),
  ].join('\n');
}
