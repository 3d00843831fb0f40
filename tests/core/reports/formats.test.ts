/** Reports in their forms, with names that would be markup, formulas or calls to people: readers that are not ours take them. */
import fc from 'fast-check';
import { checks } from '../../../src/core/areas/checks.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { type ComparableJudgement, compareJudgements } from '../../../src/core/checklist/compare/compare.ts';
import { factsOfCapture } from '../../../src/core/checklist/find-on-screens.ts';
import { judge } from '../../../src/core/checklist/judge.ts';
import { checklistSchema } from '../../../src/core/model/checklist.ts';
import type { TargetFact } from '../../../src/core/model/fact.ts';
import { rulingsFileSchema } from '../../../src/core/model/ruling.ts';
import { comparisonView } from '../../../src/core/reports/comparison-view.ts';
import { textReports } from '../../../src/core/reports/formats.ts';
import { comparisonPage } from '../../../src/core/reports/html/comparison-page.ts';
import type { ReportContext } from '../../../src/core/reports/report-format.ts';
import { SourcePlaces } from '../../../src/core/reports/source-places.ts';
import { plainStyle } from '../../../src/core/reports/text.ts';
import { aBuild, aCell, anIntent, box, screenEvidence, ui } from '../../support/facts.ts';
import { faultsOfJunit, readCsv, readEarl, readMarkdown, readSarif } from '../../support/report-readers.ts';

const list = checklistSchema.parse({
  fenlok: 'checklist/1',
  name: 'test',
  items: [
    {
      id: 'targets',
      area: 'accessibility',
      shows: 'Targets are large enough.',
      level: 'blocking',
      by: { checks: ['small-target'] },
    },
    { id: 'seen', area: 'quality', shows: 'Somebody looked.', level: 'advisory', by: { person: true } },
    {
      id: 'crowded',
      area: 'accessibility',
      shows: 'Targets are apart.',
      level: 'advisory',
      by: { checks: ['crowded-target'] },
    },
  ],
});

const aCapture = factsOfCapture(screenEvidence(ui([0, 0, 99, 99]))).filter(({ kind }) => kind === 'capture');
const target = (key: string, shown: string, sizeDp: number, clearanceDp = 99): TargetFact => ({
  kind: 'target',
  cell: aCell,
  evidence: 'e1',
  platform: 'android',
  element: { key, className: 'ImageButton', shown, boundsPx: box([0, 9, sizeDp, sizeDp]) },
  enabled: true,
  widthDp: sizeDp,
  heightDp: sizeDp,
  pixelDp: 1,
  overlaps: [],
  clearanceDp,
});

const judged = (facts: readonly TargetFact[], rulings: object[] = [], signOffs: object[] = []) =>
  judge({
    candidate: { platform: 'android', name: 'App', build: aBuild },
    facts: [...aCapture, ...facts],
    intent: anIntent(),
    checklist: assembleChecklist(list, undefined, ['small-target', 'crowded-target']),
    rulings: rulingsFileSchema.parse({ fenlok: 'rulings/1', rulings, signOffs }),
    checks: checks.filter(({ id }) => id === 'small-target' || id === 'crowded-target'),
    now: '2026-11-23T10:00:00.000Z',
  }) as ComparableJudgement;

const context = (of: Partial<ReportContext> = {}): ReportContext => ({ version: '1.0.0', checks, ...of });

const HOSTILE = [
  '=HYPERLINK("x")',
  '+1+1',
  '-2',
  '@SUM(1)',
  '\t=1',
  ' =1',
  '＝1',
  '<script>alert(1)</script>',
  '[a](javascript:alert(1))',
  '![](https://x.example)',
  '@octo #12 **b** `c` ~d~ $e$ | f',
  ']]> <!-- & "\' --',
  'line\nbreak\r\nand \u0007bell \u202e\u0000',
  '# head',
  '- - -',
  '\\',
  '&lt;',
];
const hostile = fc.oneof(fc.constantFrom(...HOSTILE), fc.string({ unit: 'binary', maxLength: 30 }));

test('whatever a screen says, each form stays what its standard says, and keeps the words', async () => {
  await fc.assert(
    fc.asyncProperty(hostile, hostile, async (key, shown) => {
      const before = judged([target(key, shown, 48), target('other', shown, 20)]);
      const finding = judged([target(key, shown, 20)]).findings[0]!;
      const ruling = {
        finding: finding.id,
        digest: finding.digest,
        ruling: 'accepted',
        why: shown || 'x',
        by: key || 'x',
        at: '2026-11-20',
      };
      for (const rulings of [[], [ruling]]) {
        const judgement = judged([target(key, shown, 20), target('other', shown, 48)], rulings);
        const comparison = compareJudgements(before, judgement);
        expect(comparison.findings.map(({ change }) => change)).toEqual(['new', 'fixed']);
        const of = context({ comparison, pictures: 'https://ci.example/p' });
        expect(
          readSarif(textReports.sarif.write(judgement, of)).results.map(({ baselineState }) => baselineState),
        ).toEqual(['new', 'absent']);
        expect(readCsv(textReports.csv.write(judgement, of))).toHaveLength(1);
        for (const value of Object.values(readCsv(textReports.csv.write(judgement, of))[0]!))
          expect(value).not.toMatch(/^\s*[=+\-@＝＋－＠]/);
        expect((await readEarl(textReports.earl.write(judgement, of))).size).toBe(4);
        const { kinds, links } = readMarkdown(textReports.markdown.write(judgement, of));
        for (const kind of ['html_block', 'html_inline', 'image', 'code_block', 'block_quote'])
          expect(kinds).not.toContain(kind);
        expect(links.every((link) => link.startsWith('https://ci.example/p/'))).toBe(true);
        expect(textReports.markdown.write(judgement, of)).not.toMatch(/@[a-z]|(?<!&)#\d/i);
        const page = comparisonPage(comparison, { fontCss: '', proofs: new Map() });
        expect(page).not.toMatch(/<script|<img|javascript:alert\(1\)"/);
        expect(comparisonView(comparison, { style: plainStyle, widthColumns: 90, all: true })).not.toMatch(
          /[\u0000-\u0009\u000b-\u001f\u202e]/,
        );
      }
    }),
    { numRuns: 60 },
  );
});

test('JUnit: red are the items that block, unless something else is asked for; all else is skipped, with the reason', async () => {
  const judgement = judged([target('<a>', '& "x" \u0007', 20, 5)], [], []);
  const results = async (failOn?: ReportContext['failOn']) => {
    const xml = textReports.junit.write(judgement, context({ failOn }));
    expect(await faultsOfJunit(xml)).toEqual([]);
    const of = (id: string) => {
      const at = xml.indexOf(`name="${id}: `);
      return /<(failure|skipped)\b[^>]*>([^<]*)/
        .exec(xml.slice(at, xml.indexOf('</testcase>', at)))
        ?.slice(1);
    };
    return [of('targets')![0], of('crowded')![0], of('seen')!];
  };
  const untested = ['skipped', 'untested (advisory): Waits for a person to look and sign: fenlok sign seen'];
  expect(await results()).toEqual(['failure', 'skipped', untested]);
  expect(await results('any')).toEqual(['failure', 'failure', untested]);
  expect(await results('nothing')).toEqual(['skipped', 'skipped', untested]);
});

test('SARIF tells what cannot be told from what failed, what people ruled, and what was not looked at again', () => {
  const failing = judged([target('a', 'A', 20), target('b', 'B', 20)]);
  const [a] = failing.findings;
  const ruled = judged(
    [target('a', 'A', 20), target('b', 'B', 20)],
    [{ finding: a!.id, digest: a!.digest, ruling: 'false-alarm', why: 'seen', by: 'Ada', at: '2026-11-20' }],
  );
  const { results, tool } = readSarif(textReports.sarif.write(ruled, context()));
  expect(
    results.map(({ kind, level, suppressions }) => [kind, level, suppressions?.[0]?.justification]),
  ).toEqual([
    ['fail', 'error', 'false-alarm, Ada: seen'],
    ['fail', 'error', undefined],
  ]);
  expect(tool.driver.rules[0]!.help!.markdown).toContain('# small-target');
  const after = judged([target('a', 'A', 20)]);
  const compared = readSarif(
    textReports.sarif.write(after, context({ comparison: compareJudgements(failing, after) })),
  );
  expect(compared.results.map(({ baselineState, kind }) => [kind, baselineState])).toEqual([
    ['fail', 'unchanged'],
    ['open', 'unchanged'],
  ]);
});

test('Markdown stays short enough for a comment, and says how many findings it leaves out', () => {
  const many = judged(Array.from({ length: 900 }, (_, i) => target(`button_${i}`, 'x'.repeat(200), 20)));
  const text = textReports.markdown.write(many, context());
  expect(text.length).toBeLessThan(65_000);
  const shown = text.match(/^- ▲/gm)!.length;
  expect(text).toContain(`… and ${900 - shown} more`);
});

test('a finding is placed in the sources where one place alone fits', () => {
  const files = [
    {
      path: 'AndroidManifest.xml',
      text: '<manifest>\n  <activity\n    android:name=".TicketsActivity"/>\n</manifest>',
    },
    { path: 'res/values/strings.xml', text: '<resources>\n<string name="pay">Pay</string></resources>' },
    {
      path: 'res/values-de/strings.xml',
      text: '<resources>\n\n <string name="pay">Zahlen</string></resources>',
    },
    { path: 'res/layout/form.xml', text: '<A>\n  <B android:id="@+id/total"/></A>' },
    { path: 'res/values-night/colors.xml', text: '<color name="ink">#fff</color>' },
    { path: 'Twice.kt', text: 'find("twice"); find("twice"); tag("once")' },
  ];
  const places = new SourcePlaces(files);
  const placeOf = (area: string, subject: string, aspect?: string, screen?: string) => {
    const place = places.placeOf({
      area,
      identity: { subject, ...(aspect && { aspect }), ...(screen && { screen }) },
    } as never);
    return place && `${place.path}:${place.line}:${place.column}`;
  };
  expect(placeOf('links', 'example.app.TicketsActivity kelpline://tickets')).toBe('AndroidManifest.xml:3:5');
  expect(placeOf('localization', 'pay', 'de')).toBe('res/values-de/strings.xml:3:10');
  expect(placeOf('localization', 'pay', 'nb')).toBe('res/values/strings.xml:2:9');
  expect(placeOf('contrast', 'total > TextView[1]', 'dark', 'form')).toBe('res/layout/form.xml:2:18');
  expect(placeOf('contrast', 'color/ink on color/paper', 'dark')).toBe('res/values-night/colors.xml:1:8');
  expect(placeOf('contrast', 'once', 'dark', 'form')).toBe('Twice.kt:1:35');
  expect(placeOf('contrast', 'twice', 'dark', 'form')).toBeUndefined();
  expect(placeOf('ads', 'network northmast')).toBeUndefined();
});
