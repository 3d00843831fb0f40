/** Drills, coverage and walks in reports: what they say, and that nothing in an app's own words gets out of its place. */
import { SaxesParser } from 'saxes';
import { parse } from 'yaml';
import { screensDraft } from '../../../src/core/drafts/screens-draft.ts';
import { type Intent, intentSchema } from '../../../src/core/model/intent.ts';
import type { CoverageCell, Judgement } from '../../../src/core/model/judgement.ts';
import { type RoamMap, roamMapSchema } from '../../../src/core/model/roam-map.ts';
import { drillMatrix, matrixCell } from '../../../src/core/reports/drill-matrix.ts';
import { coverageSection } from '../../../src/core/reports/html/coverage.ts';
import { junitReport } from '../../../src/core/reports/junit.ts';
import { outcomeTable } from '../../../src/core/reports/outcome-table.ts';
import { roamSvg } from '../../../src/core/reports/roam-svg.ts';
import { plainStyle } from '../../../src/core/reports/text.ts';
import { aBuild, aCell } from '../../support/facts.ts';

const HOSTILE = `<script>alert("1")</script> & 'it' `;

const cell = (screen: string, procedure: string, of: Partial<CoverageCell> = {}): CoverageCell => {
  const { device: _, ...rest } = aCell;
  return {
    cell: { ...rest, screen, procedure },
    planned: true,
    outcome: 'passed',
    findings: [],
    evidence: [],
    ...of,
  };
};

const drills = [
  cell('home', 'rotate', { evidence: ['aaaa'] }),
  cell('form', 'rotate', { outcome: 'failed', findings: ['ab12-cd34', 'ef56-gh78'], evidence: ['bbbb'] }),
  cell('home', 'discard', { outcome: 'untested', why: `Invalid: ${HOSTILE}` }),
  cell('form', 'discard', { outcome: 'untested', why: `Invalid: ${HOSTILE}` }),
  cell('home', 'back', { outcome: 'untested' }),
];
const judgement = (of: Partial<Judgement>): Judgement => ({
  fenlok: 'judgement/1',
  candidate: { platform: 'android', name: 'Boat', build: aBuild },
  judgedAt: '2026-11-23T10:00:00.000Z',
  ownChecks: [],
  checklist: 'list',
  strict: false,
  cards: [],
  verdict: 'open',
  counts: { passed: 0, failed: 0, cantTell: 0, untested: 0, inapplicable: 0 },
  items: [],
  findings: [],
  switchedOff: [],
  lapsed: [],
  lapsedSignOffs: [],
  coverage: [],
  drills: [],
  routes: { columns: [], rows: [] },
  messages: { columns: [], rows: [] },
  purchases: { columns: [], rows: [] },
  ads: { columns: [], rows: [] },
  variants: { devices: [], rows: [] },
  themePairs: [],
  assertedEvidence: 0,
  ...of,
});

/** Every element by name, and all text; fails on what is not well-formed. */
function readXml(xml: string): { names: string[]; text: string } {
  const read = { names: [] as string[], text: '' };
  const parser = new SaxesParser({ fragment: true });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ attributes, name }) => {
    read.names.push(name);
    read.text += ` ${Object.values(attributes).join(' ')}`;
  });
  parser.on('text', (text) => {
    read.text += text;
  });
  parser.write(xml).close();
  return read;
}

test('a matrix for the terminal: a mark in each cell, each reason once', () => {
  const lines = drillMatrix(drills.map(matrixCell), { style: plainStyle, widthColumns: 100 });
  expect(lines.slice(0, 6)).toEqual([
    '         home  form',
    'rotate    ■     ▲',
    'discard   □     □',
    'back      □',
    '',
    '■ passed   ▲ failed   □ untested',
  ]);
  expect(lines.slice(6).join(' ')).toContain('□ discard on home and 1 more: Invalid: <script>');
  expect(drillMatrix([], { style: plainStyle, widthColumns: 100 })).toEqual([]);
});

test('the page leads from a cell to its worst finding, or else to what was seen', () => {
  const evidenceHref = new Map([
    ['aaaa', '../traces/aaaa.jsonl'],
    ['cccc', '../captures/c"c/screen.png'],
  ]);
  const coverage = [cell('home', 'as-is', { evidence: ['cccc'] }), cell('form', 'as-is', { planned: false })];
  const page = String(coverageSection(judgement({ coverage, drills }), { evidenceHref, maps: [] }));
  const { names, text } = readXml(page);
  expect(names).not.toContain('script');
  expect(names.filter((name) => name === 'table').length).toBe(2);
  expect(page).toContain('<a class="failed" href="#finding-ab12-cd34" aria-label="failed, 2">');
  expect(page).toContain('<a class="passed" href="../traces/aaaa.jsonl"');
  expect(page).toContain('href="../captures/c&quot;c/screen.png"');
  expect(text).toContain('2 of 5 drills on screens prove something.');
  expect(text).toContain('1 of 1 planned captures were looked at, and 1 besides.');
  // said once, though two cells have it
  expect(page.match(/<li><b>/g)).toHaveLength(1);
});

const routes: Judgement['routes'] = {
  columns: ['declared', 'cold', 'malformed'],
  rows: [
    {
      name: `/x${HOSTILE}`,
      note: '→ home',
      cells: [
        { outcome: 'failed', findings: ['ab12-cd34'] },
        { outcome: 'untested', why: HOSTILE, findings: [] },
        { outcome: 'inapplicable', findings: [] },
      ],
    },
  ],
};

test('a capture that proves nothing was not looked at, and the page says why below its table', () => {
  const coverage = [
    cell('home', 'as-is', { evidence: ['aaaa'] }),
    cell('form', 'as-is', { outcome: 'untested', why: 'Not proven: no text is larger.', planned: false }),
  ];
  const page = String(coverageSection(judgement({ coverage }), { evidenceHref: new Map(), maps: [] }));
  expect(page).toContain('1 of 1 planned captures were looked at. ');
  expect(page).toMatch(/<\/table>.*<li><b>form, [^<]+<\/b> Not proven: no text is larger\.<\/li>/s);
});

test('a table of routes: in the terminal and on the page, each cell with its finding or its reason', () => {
  const lines = outcomeTable(routes, { style: plainStyle, widthColumns: 200 });
  expect(lines[1]).toMatch(/^\/x<script>.* ▲ +□ +– +→ home$/);
  expect(lines.at(-1)).toContain(`cold: ${HOSTILE.trim()}`);
  const page = String(coverageSection(judgement({ routes }), { evidenceHref: new Map(), maps: [] }));
  expect(readXml(page).names).not.toContain('script');
  expect(page).toContain('<a class="failed" href="#finding-ab12-cd34" aria-label="failed, 1">');
  expect(outcomeTable({ columns: [], rows: [] }, { style: plainStyle, widthColumns: 80 })).toEqual([]);
});

test('JUnit has a case for every cell that applies', () => {
  const { names, text } = readXml(
    junitReport(judgement({ coverage: [cell('home', 'as-is')], drills, routes }), { failOn: 'any' }).replace(
      /^<\?xml.*\n/,
      '',
    ),
  );
  const count = (name: string) => names.filter((one) => one === name).length;
  expect([count('testcase'), count('failure'), count('skipped')]).toEqual([8, 2, 4]);
  expect(text).toContain('form, light, en, rotate');
  expect(text).toContain('ab12-cd34, ef56-gh78');
});

const map: RoamMap = roamMapSchema.parse({
  fenlok: 'roam/1',
  build: aBuild,
  device: HOSTILE,
  deviceId: 'D',
  screens: [
    screen(
      'start',
      0,
      [],
      [
        ['list', 'moved', 'detail'],
        ['menu', 'moved', 'start-menu'],
        ['pay', 'avoided'],
        ['x', 'untried'],
      ],
    ),
    screen(
      'detail',
      1,
      [{ tap: 'list' }],
      [
        ['edit', 'moved', 'edit'],
        ['back', 'moved', 'start'],
      ],
    ),
    { ...screen('start-menu', 1, [{ tap: 'menu' }], []), activity: 'example.app/.StartActivity' },
    screen(
      'edit',
      2,
      [{ tap: 'list' }, { type: 'it\'s "5" : #', into: 'note' }, { tap: 'edit' }],
      [['save', 'crashed']],
    ),
  ],
  crashes: [{ screen: 'edit', action: 'save', exception: 'E', frame: 'F' }],
  neverReached: ['example.app.AtticActivity'],
  stepsTaken: 9,
  finished: false,
});

function screen(
  id: string,
  depth: number,
  way: object[],
  actions: [name: string, outcome: string, to?: string][],
) {
  const activity = `example.app/.${id[0]!.toUpperCase()}${id.slice(1)}Activity`;
  return {
    id,
    activity,
    outline: [id],
    title: HOSTILE,
    way,
    depth,
    actions: actions.map(([name, outcome, to]) => ({ name, shown: name, outcome, to })),
  };
}

test('a map is a picture that can be drawn: well-formed, each screen once, crashes and what was never seen named', () => {
  for (const titled of [true, false]) {
    const { names, text } = readXml(roamSvg(map, titled));
    expect(names).not.toContain('script');
    expect(names.filter((name) => name === 'rect').length).toBe(1 + map.screens.length);
    // ways back are left out
    expect(names.filter((name) => name === 'path').length).toBe(3);
    for (const words of [
      '4 screens, 9 acts, ▲ 1 crash, not finished',
      '▲ crashes; 1 of 1 tried',
      '2 of 4 tried, 1 avoided',
      'never in front: AtticActivity',
    ])
      expect(text).toContain(words);
  }
});

test('the screens that a walk proposes are an intent file, each activity once, with its parent and its way', () => {
  const proposed: Intent = intentSchema.parse({
    ...parse(screensDraft(map)),
    fenlok: 'intent/1',
    app: { id: 'example.app' },
  });
  expect(proposed.screens).toEqual([
    { id: 'start', activity: 'StartActivity', reach: [], change: [] },
    { id: 'detail', activity: 'DetailActivity', parent: 'start', reach: [{ tap: 'list' }], change: [] },
    { id: 'edit', activity: 'EditActivity', parent: 'detail', reach: map.screens[3]!.way, change: [] },
  ]);
});
