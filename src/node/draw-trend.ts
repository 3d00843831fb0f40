/** The trend as one SVG: items by outcome over the candidates, and what failed by area. Loaded only where something is drawn. */
import * as Plot from '@observablehq/plot';
import { parseHTML } from 'linkedom';
import type { Trend } from '../core/checklist/trend.ts';
import { type Outcome, worstFirst } from '../core/model/outcome.ts';
import { outcomeMark, outcomeWord } from '../core/reports/outcome-words.ts';
import { areaTitle } from '../core/reports/outline.ts';

const COLOURS: Record<Outcome, string> = {
  failed: '#a5341b',
  cantTell: '#b98a1d',
  untested: '#9aa4ac',
  passed: '#0b6a63',
  inapplicable: '#d8d6cd',
};
/** Of words, which need more contrast than bars. */
const WORDS: Record<Outcome, string> = {
  ...COLOURS,
  cantTell: '#7d5700',
  untested: '#56616c',
  inapplicable: '#56616c',
};
const INK = '#1c2630';
const PAPER = '#faf9f5';
const WIDTH = 960;
const FONT = '"Atkinson Hyperlegible Next", system-ui, sans-serif';

export async function drawTrend(trend: Trend): Promise<string> {
  const { document } = parseHTML('<!doctype html><html><body></body></html>');
  const outcomes = worstFirst.filter((outcome) => outcome !== 'inapplicable');
  const said = (outcome: Outcome) => `${outcomeMark[outcome]} ${outcomeWord[outcome]}`;
  const names = trend.candidates.map(({ name }) => name);
  const style = { fontFamily: FONT, fontSize: '14px', color: INK, background: 'none' };
  const bars = Plot.plot({
    document,
    style,
    width: WIDTH,
    height: 300,
    marginLeft: 48,
    marginRight: 130,
    x: { domain: names, label: null },
    y: { label: 'items', grid: true },
    color: { domain: outcomes.map(said), range: outcomes.map((outcome) => COLOURS[outcome]) },
    marks: [
      Plot.barY(
        trend.candidates.flatMap(({ counts, name }) =>
          outcomes.map((outcome) => ({ name, outcome: said(outcome), count: counts[outcome] })),
        ),
        { x: 'name', y: 'count', fill: 'outcome', insetLeft: 6, insetRight: 6 },
      ),
      // each stretch of the last bar by its name, so that colour says nothing alone
      Plot.text(labelsOf(trend, outcomes, said), {
        x: () => names.at(-1)!,
        y: 'middle',
        text: 'words',
        textAnchor: 'start',
        dx: barHalf(names.length) + 8,
        fill: 'colour',
      }),
      Plot.ruleY([0]),
    ],
  } as Plot.PlotOptions);
  const areas = trend.areas
    .filter(({ counts }) => counts.some(({ failed }) => failed > 0))
    .sort((a, b) => b.counts.at(-1)!.failed - a.counts.at(-1)!.failed);
  const cells = Plot.plot({
    document,
    style,
    width: WIDTH,
    height: 60 + areas.length * 30,
    marginLeft: 190,
    marginRight: 20,
    x: { domain: names, label: null, axis: 'top' },
    y: { domain: areas.map(({ area }) => areaTitle[area]), label: null },
    color: {
      scheme: 'Reds',
      domain: [0, Math.max(1, ...areas.flatMap(({ counts }) => counts.map(({ failed }) => failed))) * 2.2],
    },
    marks: [
      Plot.cell(cellsOf(areas, names), { x: 'name', y: 'area', fill: 'failed', inset: 1 }),
      Plot.text(cellsOf(areas, names), { x: 'name', y: 'area', text: 'words', fill: INK }),
    ],
  } as Plot.PlotOptions);
  return pageOf(bars.outerHTML, 300, cells.outerHTML, 60 + areas.length * 30);
}

/** Half a bar of Plot's band scale, whose padding is a tenth. */
const barHalf = (count: number): number => ((WIDTH - 178) / count) * 0.45;

function labelsOf(trend: Trend, outcomes: readonly Outcome[], said: (outcome: Outcome) => string) {
  const last = trend.candidates.at(-1)!;
  const total = outcomes.reduce((sum, outcome) => sum + last.counts[outcome], 0);
  let below = 0;
  return outcomes.flatMap((outcome) => {
    const count = last.counts[outcome];
    below += count;
    // a stretch too thin for its word is left to the table
    return count / total < 0.05
      ? []
      : [{ middle: below - count / 2, words: `${said(outcome)} ${count}`, colour: WORDS[outcome] }];
  });
}

const cellsOf = (areas: Trend['areas'], names: readonly string[]) =>
  areas.flatMap(({ area, counts }) =>
    counts.map(({ failed, untested }, i) => ({
      area: areaTitle[area],
      name: names[i]!,
      failed,
      words: untested > 0 ? `${failed} (${outcomeMark.untested} ${untested})` : String(failed),
    })),
  );

function pageOf(first: string, firstHeight: number, second: string, secondHeight: number): string {
  const title = (y: number, words: string) =>
    `<text x="20" y="${y}" font-family='${FONT}' font-size="18" font-weight="700" fill="${INK}">${words}</text>`;
  const placed = (svg: string, y: number) =>
    svg.replace('<svg ', `<svg xmlns="http://www.w3.org/2000/svg" x="20" y="${y}" `);
  const height = firstHeight + secondHeight + 130;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH + 40} ${height}" width="${WIDTH + 40}" height="${height}">
<rect width="100%" height="100%" fill="${PAPER}"/>
${title(36, 'Items by outcome, candidate by candidate')}
${placed(first, 50)}
${title(firstHeight + 90, `Failed items by area (${outcomeMark.untested} untested)`)}
${placed(second, firstHeight + 104)}
</svg>
`;
}
