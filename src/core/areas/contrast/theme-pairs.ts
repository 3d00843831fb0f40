/** Each screen's texts in light and in dark, side by side: most trouble is in the one that nobody looked at. */
import type { Cell } from '../../model/cell.ts';
import type { TextContrastFact } from '../../model/fact.ts';
import type { Finding } from '../../model/finding.ts';
import type { ThemePair } from '../../model/judgement.ts';
import type { Outcome } from '../../model/outcome.ts';
import type { FactIndex, IntentWith } from '../check.ts';

// What a person looks through; the findings hold all of them.
const MAX_ROWS = 40;

type Theme = Cell['theme'];
type Side = NonNullable<ThemePair['rows'][number]['light']>;

/** @param outcomeOf a finding's outcome, with its ruling */
export function themePairs(
  facts: FactIndex<'text-contrast'>,
  intent: IntentWith,
  findings: readonly Finding[],
  outcomeOf: (finding: Finding) => Outcome,
): ThemePair[] {
  const found = new Map(
    findings
      .filter(({ check }) => check === 'text-contrast')
      .map((finding) => [
        keyOf(finding.identity.screen, finding.identity.subject, finding.identity.aspect),
        finding,
      ]),
  );
  const sideOf = (fact: TextContrastFact): Side => {
    const finding = found.get(keyOf(fact.cell.screen, fact.element.key, fact.cell.theme));
    // a text that an edge hides is decided where its like can be seen
    const isPassed = fact.enabled && !fact.unseen;
    const outcome = finding ? outcomeOf(finding) : isPassed ? 'passed' : 'inapplicable';
    return fact.unseen
      ? { outcome, ...(finding && { finding: finding.id }) }
      : {
          outcome,
          ...(finding && { finding: finding.id }),
          ratio: fact.ratio,
          foreground: fact.foreground,
          background: fact.background,
        };
  };
  const screens = new Map<string, Map<string, { shown: string } & Partial<Record<Theme, Side>>>>();
  for (const fact of facts.of('text-contrast')) {
    if (!isPlain(fact.cell, intent.sourceLocale)) continue;
    const rows = screens.get(fact.cell.screen) ?? new Map();
    screens.set(fact.cell.screen, rows);
    const row = rows.get(fact.element.key) ?? { shown: fact.element.shown };
    rows.set(fact.element.key, row);
    const side = sideOf(fact);
    // rows of a list share their key: the faintest stands for them
    if (!row[fact.cell.theme] || faintness(side) > faintness(row[fact.cell.theme]!))
      row[fact.cell.theme] = side;
  }
  return [...screens].map(([screen, rows]) => {
    const sorted = [...rows]
      .map(([subject, row]) => ({ subject, ...row }))
      .sort((a, b) => worst(b) - worst(a));
    return { screen, rows: sorted.slice(0, MAX_ROWS), more: Math.max(0, sorted.length - MAX_ROWS) };
  });
}

const keyOf = (...parts: (string | undefined)[]): string => parts.join('|');

const isPlain = ({ locale, orientation, procedure, textScale }: Cell, sourceLocale: string): boolean =>
  locale === sourceLocale && orientation === 'portrait' && procedure === 'as-is' && textScale === 1;

const RANK: Record<Outcome, number> = {
  failed: 300,
  cantTell: 200,
  passed: 100,
  inapplicable: 0,
  untested: 0,
};
const faintness = ({ outcome, ratio = 0 }: Side): number => RANK[outcome] - ratio;
const worst = ({ dark, light }: Partial<Record<Theme, Side>>): number =>
  Math.max(...[light, dark].map((side) => (side ? faintness(side) : 0)));
