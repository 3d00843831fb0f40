/** The demo, run as a user would run it, held against what was planted in the app. */
import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Ajv2020 } from 'ajv/dist/2020.js';
import sharp from 'sharp';
import { parse } from 'yaml';
import type { Comparison } from '../../src/core/model/comparison.ts';
import { screenDrills } from '../../src/core/model/drill.ts';
import type { Finding } from '../../src/core/model/finding.ts';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { addCapture, listCaptures } from '../../src/node/captures.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { judgeDossier } from '../../src/node/judge-dossier.ts';
import { readProject } from '../../src/node/project.ts';
import { readCaptureFiles } from '../../src/node/read-capture.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { startPhone } from '../../src/standins/phone/phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { launchChromium } from '../support/browser.ts';
import { fenlokProcess, type Run } from '../support/command.ts';
import { demoFolder, describeWith, root, scratchFolder, tools } from '../support/paths.ts';
import { faultsOfJunit, readCsv, readEarl, readMarkdown, readSarif } from '../support/report-readers.ts';

interface Planted {
  check: string;
  screen?: string;
  subject: string;
  aspect?: string;
  basis: string;
}

const {
  planted: truth,
  plantedIos,
  next,
}: Record<'planted' | 'plantedIos', Planted[]> & {
  next: Record<string, { check: string; where: string }[]>;
} = parse(readFileSync(join(demoFolder, 'truth.yaml'), 'utf8'));
const say = ({ check, screen = '', subject, aspect = '', basis }: Planted) =>
  [check, screen, subject, aspect, basis].join(' | ');
const formatFinding = ({ check, identity, basis }: Finding) => say({ check, ...identity, basis });

const byDrills = [
  'scripted-push',
  'push-token',
  'push-shown',
  'push-tap',
  'push-action',
  'product-ids',
  'signed-sale',
  'product-texts',
  'unfinished-purchase',
  'ended-purchase',
  'unrestored-purchase',
  'ad-load',
  'live-ad-request',
  'ad-after-removal',
  'link-landing',
  'malformed-link',
  'link-back',
  'lost-state',
  'lost-screen',
  'way-back',
  'crash',
  'running-service',
  'rating-moment',
  'rating-manner',
  'main-thread-work',
  'left-behind',
];

const scratch = scratchFolder();
const out = join(scratch, 'fenlok-demo');
let run: Run;
let judgement: Judgement;
let junit: string;

beforeAll(async () => {
  run = await fenlokProcess(['demo'], scratch);
  judgement = JSON.parse(readFileSync(join(out, 'dossier/report/judgement.json'), 'utf8'));
  junit = readFileSync(join(out, 'dossier/report/junit.xml'), 'utf8');
});

test('it ends with its verdict, the paths of its reports, and exit code 0', () => {
  expect(run.code).toBe(0);
  const failed = judgement.items.filter(({ level, outcome }) => level === 'blocking' && outcome === 'failed');
  expect(run.out).toContain(`▲ Blocked: ${failed.length} blocking items failed`);
  expect(judgement.verdict).toBe('blocked');
  for (const name of ['index.html', 'judgement.json', 'junit.xml']) {
    expect(run.err).toContain(join(out, 'dossier/report', name));
    expect(existsSync(join(out, 'dossier/report', name))).toBe(true);
  }
  expect(run.out + run.err).not.toMatch(/\u001b\[/);
});

test('what to do next begins with what costs most', () => {
  const next = run.out.slice(run.out.indexOf('Do next'), run.out.indexOf('Candidate'));
  const at = (words: string) => {
    expect(next).toContain(words);
    return next.indexOf(words);
  };
  // the wrong version, then crashes, then what nobody can do, then what is lost
  const order = ['The version is not higher', 'The app crashes', 'has no name', 'more items that failed'];
  expect(order.map(at)).toEqual(order.map(at).sort((a, b) => a - b));
  expect(next.match(/^ +\d+\. /gm)!.length).toBeLessThan(17);
});

test('it finds exactly what was planted: nothing missed, nothing else', () => {
  expect(judgement.findings.map(formatFinding).sort()).toEqual(truth.map(say).sort());
});

test('so it does in the iOS app, driven through a lookout', () => {
  const file = join(out, 'dossier-ios/report/judgement.json');
  const ios: Judgement = JSON.parse(readFileSync(file, 'utf8'));
  expect(ios.findings.map(formatFinding).sort()).toEqual(plantedIos.map(say).sort());
  expect(ios.verdict).toBe('blocked');
});

describeWith('chromium', 'pdftoppm')('on paper', () => {
  const pages: { widthPx: number; heightPx: number; data: Uint8Array }[] = [];
  let words: string;
  beforeAll(async () => {
    const browser = await launchChromium();
    // the paper is light, whatever the screen has
    const page = await browser.newPage({ colorScheme: 'dark' });
    await page.goto(pathToFileURL(join(out, 'dossier/report/index.html')).href);
    const pdf = join(scratch, 'report.pdf');
    await page.pdf({ path: pdf, preferCSSPageSize: true, printBackground: true });
    await browser.close();
    execFileSync(tools.pdftoppm, ['-r', '36', '-png', pdf, join(scratch, 'paper')]);
    words = execFileSync('/usr/bin/pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' });
    for (const name of readdirSync(scratch)
      .filter((file) => /^paper-\d+\.png$/.test(file))
      .sort()) {
      const { data, info } = await sharp(join(scratch, name))
        .greyscale()
        .raw()
        .toBuffer({ resolveWithObject: true });
      pages.push({ widthPx: info.width, heightPx: info.height, data });
    }
  });

  test('every page but the last is filled, on white, with nothing beyond its margins', () => {
    expect(pages.length).toBeGreaterThan(20);
    for (const [i, { data, heightPx, widthPx }] of pages.entries()) {
      const rows = Array.from({ length: heightPx }, (_, y) => data.subarray(y * widthPx, (y + 1) * widthPx));
      const isBlank = (row: Uint8Array) => row.every((level) => level > 245);
      // without the number of the page
      const inked = rows.slice(0, Math.floor(heightPx * 0.95)).findLastIndex((row) => !isBlank(row));
      if (i < pages.length - 1) expect([i + 1, inked / heightPx > 0.6]).toEqual([i + 1, true]);
      const margin = Math.floor(widthPx * 0.04);
      for (const row of rows) expect(isBlank(row.subarray(widthPx - margin))).toBe(true);
      for (const row of rows) expect(isBlank(row.subarray(0, margin))).toBe(true);
    }
  });

  test('every finding and every folded text is there', () => {
    for (const { id } of judgement.findings) expect(words).toContain(id);
    for (const { rows } of judgement.themePairs)
      for (const { shown } of rows) expect(words).toContain(shown.split(' ')[0]!);
  });
});

test('every finding says where, what was measured and required, why, and what to do', async () => {
  const { out: all } = await fenlokProcess(['judge', '--all'], out);
  for (const { id, occurrences, words } of judgement.findings) {
    expect(all).toContain(id);
    for (const part of [words.what, words.measured, words.required, words.why, words.remedy])
      expect(part).toMatch(/\w{2}/);
    expect(Object.values(words).join(' ')).not.toMatch(/undefined|NaN|\[object/);
    expect(occurrences[0]!.evidence).toMatch(/^[0-9a-f]{16}/);
  }
});

test('one screen is one cell for each theme and language, and all planned ones were captured', () => {
  expect(judgement.coverage).toHaveLength(7 * 2 * 3 * 2 + 3);
  expect(judgement.coverage.filter(({ outcome }) => outcome === 'untested')).toEqual([]);
});

test('every drill was run on every screen, and what passed is proven', () => {
  expect(judgement.drills).toHaveLength(7 * screenDrills.length);
  // nobody has allowed the app anything by then that could be taken back
  expect(
    new Set(judgement.drills.flatMap(({ cell, outcome }) => (outcome === 'untested' ? cell.procedure : []))),
  ).toEqual(new Set(['permission-revoked']));
  const screensOf = (procedure: string) =>
    judgement.drills
      .filter(({ cell, outcome }) => cell.procedure === procedure && outcome === 'failed')
      .map(({ cell }) => cell.screen);
  // by the truth file, and not by what was measured
  for (const drill of new Set(judgement.drills.map(({ cell }) => cell.procedure)))
    expect([drill, screensOf(drill).sort()]).toEqual([
      drill,
      [
        ...new Set(
          truth
            .filter(
              ({ aspect, basis, check }) =>
                byDrills.includes(check) && aspect === drill && basis === 'measured',
            )
            .map(({ screen }) => screen),
        ),
      ].sort(),
    ]);
  expect(judgement.items.find(({ id }) => id === 'state.settings-put-back')!.outcome).toBe('passed');
});

test('every route and message was tried, and each cell that failed leads to a finding', () => {
  const say = ({ columns, rows }: Judgement['routes'], outcome: string) =>
    rows.flatMap(({ cells, name }) =>
      cells.flatMap((cell, i) => (cell.outcome === outcome ? [`${name} ${columns[i]}`] : [])),
    );
  // as planted, see the truth file; what is kept from the app can only be looked at in the package
  expect(say(judgement.routes, 'failed').sort()).toEqual(
    [
      'kelpline://timetable warm',
      'kelpline://timetable in front',
      '/sailings/{sailing} declared',
      'kelpline://sailings/{sailing} cold',
      'kelpline://sailings/{sailing} variants',
      'kelpline://sailings/{sailing} malformed',
      'kelpline://tickets declared',
      '/pass site agrees',
      '/alerts declared',
      '/alerts site agrees',
      'kelpline://offers declared',
    ].sort(),
  );
  expect(say(judgement.messages, 'failed')).toEqual([
    'delay tap, not running',
    'delay buttons',
    'offer payload',
    'offer in front',
    'fares payload',
  ]);
  // what the service refuses reaches no device
  expect(say(judgement.messages, 'untested')).toEqual([
    'offer tap in front',
    'fares in front',
    'fares background',
    'fares not running',
  ]);
  expect(say(judgement.purchases, 'failed').sort()).toEqual([
    'all expired, quiet pass.year',
    'bought elsewhere no-ads',
    'finished crossings.10',
    'one of two expired pass.year',
    'refunded no-ads',
    'refunded pass.year',
    'reset pass.year',
    'second device no-ads',
  ]);
  expect(say(judgement.ads, 'failed').sort()).toEqual([
    'ticket-interstitial · ropewalk connector',
    'ticket-interstitial · ropewalk loaded',
    'timetable-banner · northmast loaded',
    'timetable-banner · northmast parameters',
  ]);
  // nobody can buy it, since the app asks for it by another name
  expect(say(judgement.purchases, 'untested').every((cell) => cell.endsWith(' crossings.20'))).toBe(true);
  const known = new Set(judgement.findings.map(({ id }) => id));
  for (const { rows } of [judgement.routes, judgement.messages, judgement.purchases, judgement.ads])
    for (const { findings, outcome } of rows.flatMap(({ cells }) => cells)) {
      expect(outcome === 'failed').toBe(findings.length > 0);
      for (const id of findings) expect(known.has(id)).toBe(true);
    }
});

test('the reports show drills by screens, and the map of the walk', () => {
  expect(run.out).toMatch(
    /\nDrills\n +timetable {2}sailing {2}booking {2}tickets {2}pass {2}alerts {2}settings\n/,
  );
  expect(run.out).toMatch(/^ {2}process-death +▲ +■ +▲ +▲ +▲ +▲ +■$/m);
  const page = readFileSync(join(out, 'dossier/report/index.html'), 'utf8');
  expect(page).toMatch(/<section class="sheet roam">.*10 screens.*▲ 1 crash/s);
  const { drills } = judgement;
  for (const { cell, evidence } of drills)
    if (cell.procedure === 'home-and-return') expect(page).toContain(`../traces/${evidence[0]!}.jsonl`);
});

describe('judging again', () => {
  const judgeJson = async (...args: string[]) => {
    const again = await fenlokProcess(['judge', '--json', ...args], out);
    return { ...again, judgement: JSON.parse(again.out) as Judgement };
  };

  test('gives the same from kept facts, valid by the published schema, and exit code 1', async () => {
    const again = await judgeJson();
    expect(again.code).toBe(1);
    expect({ ...again.judgement, judgedAt: '' }).toEqual({ ...judgement, judgedAt: '' });
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(
      JSON.parse(readFileSync(join(root, 'docs/schemas/judgement.json'), 'utf8')),
    );
    expect([validate(again.judgement), validate.errors]).toEqual([true, null]);
  });

  test('with --strict the estimated finding fails too', async () => {
    const { judgement: strict } = await judgeJson('--strict');
    expect(strict.items.find(({ id }) => id === 'contrast.text')!.why).toBe('4 findings.');
  });

  test('after rulings on all findings nothing has failed, and the candidate is open', async () => {
    const decision = ['--as', 'accepted', '--why', 'next release', '--by', 'Ada', '--until-build', '250'];
    const [first, ...others] = judgement.findings;
    expect((await fenlokProcess(['rule', first!.id, ...decision], out)).code).toBe(0);
    const all = ['rule', '--element', '*', '--count', String(others.length), ...decision];
    expect(await fenlokProcess(all, out)).toMatchObject({ code: 0, err: '' });
    const ruled = await judgeJson();
    expect([ruled.code, ruled.judgement.verdict, ruled.judgement.counts.failed]).toEqual([4, 'open', 0]);
    expect(ruled.judgement.findings.every(({ ruling }) => ruling?.ruling === 'accepted')).toBe(true);
  });
});

test('each screen has its texts in light and in dark, the worst first, as the findings have them', () => {
  expect(judgement.themePairs.map(({ screen }) => screen).sort()).toEqual(
    [...new Set(judgement.coverage.map(({ cell }) => cell.screen))].sort(),
  );
  const of = (screen: string) => judgement.themePairs.find((pair) => pair.screen === screen)!.rows;
  expect(of('pass')[0]).toMatchObject({
    subject: 'badge',
    light: { outcome: 'failed' },
    dark: { outcome: 'passed' },
  });
  expect(of('timetable')[0]).toMatchObject({
    subject: 'notice_text',
    light: { outcome: 'passed' },
    dark: { outcome: 'failed', foreground: '#8a6a1f', background: '#3a2d0e' },
  });
  for (const { rows } of judgement.themePairs)
    for (const { dark, light } of rows)
      for (const side of [light, dark]) {
        const finding = judgement.findings.find(({ id }) => id === side!.finding);
        expect(side!.outcome === 'failed' || side!.outcome === 'cantTell').toBe(finding !== undefined);
      }
});

test('JUnit has a case for every item and cell; what blocks fails, all else is skipped', async () => {
  const ofTables = [judgement.routes, judgement.messages, judgement.purchases, judgement.ads].flatMap(
    ({ rows }) => rows.flatMap((row) => row.cells),
  );
  const cells = [...judgement.coverage, ...judgement.drills, ...ofTables].filter(
    ({ outcome }) => outcome !== 'inapplicable',
  );
  const count = (name: string) => junit.split(`<${name}`).length - 1;
  expect([count('testcase '), count('testsuite ')]).toEqual([judgement.items.length + cells.length, 14]);
  const blocking = judgement.items.filter(
    ({ level, outcome }) => level === 'blocking' && outcome === 'failed',
  );
  const ids = new Set(blocking.flatMap(({ findings }) => findings));
  expect(count('failure ')).toBe(
    blocking.length +
      cells.filter(({ findings, outcome }) => outcome === 'failed' && findings.some((id) => ids.has(id)))
        .length,
  );
  expect(await faultsOfJunit(junit)).toEqual([]);
});

describeWith(
  'aapt2',
  'apksigner',
  'smali',
  'framework',
)('with one colour changed and the app built again', () => {
  test('its finding disappears, and nothing else changes', async () => {
    const sources = join(scratch, 'android');
    cpSync(join(demoFolder, 'android'), sources, { recursive: true });
    const colours = join(sources, 'res/values-night/colors.xml');
    writeFileSync(
      colours,
      readFileSync(colours, 'utf8').replace(
        '<color name="notice_ink">#8a6a1f<',
        '<color name="notice_ink">#e2c27a<',
      ),
    );
    const apkFile = join(scratch, 'mended.apk');
    execFileSync(
      process.execPath,
      [join(demoFolder, 'build.mjs'), '--sources', sources, '--out', apkFile, '--apk-only'],
      {
        stdio: 'pipe',
      },
    );

    const folder = join(scratch, 'mended');
    await addPackage(folder, apkFile);
    const dossier = await openDossier(folder);
    const project = await readProject(demoFolder, 'example.kelpline');
    // the screens that bear the colour are captured again, the others are those of the demo; no build is told of any
    await withPackage(apkFile, async (apk) => {
      const phone = startPhone(shapes.common, apk, kelpline);
      for (const { file } of await listCaptures(await openDossier(join(out, 'dossier')))) {
        const { capture, hierarchyXml, picture } = await readCaptureFiles(file);
        const { screen, theme } = capture.cell;
        const shown = screen === 'timetable' && theme === 'dark' ? await phone.show(capture.cell) : undefined;
        await addCapture(dossier, 'capture.json', {
          capture: { ...capture, build: undefined },
          picture: shown?.png ?? picture,
          hierarchyXml: shown?.hierarchyXml ?? hierarchyXml,
        });
      }
    });
    const mended = await judgeDossier(dossier, project, { strict: false, now: new Date() });
    // the wind's icon has the colour of its words; no drill was run on this build, and neither site nor message added
    const expected = truth.filter(
      ({ aspect, check, screen, subject }) =>
        !byDrills.includes(check) &&
        check !== 'unverified-domain' &&
        !/^(payload|listing)-|^known-bug$/.test(check) &&
        !subject.startsWith('channel ') &&
        !(screen === 'timetable' && aspect === 'dark' && subject.startsWith('notice')),
    );
    // nothing but a person's word binds the captures to the build that was made anew
    const asserted = mended.findings.filter(({ check }) => check === 'asserted-evidence');
    expect(asserted.flatMap(({ occurrences }) => occurrences)).toHaveLength(87);
    expect(
      mended.findings
        .filter((finding) => !asserted.includes(finding))
        .map(formatFinding)
        .sort(),
    ).toEqual(expected.map(say).sort());
    expect(mended.assertedEvidence).toBe(87);
  });
});

describe('the candidate after', () => {
  let comparison: Comparison;
  beforeAll(async () => {
    // without what the tests above have ruled
    cpSync(join(demoFolder, 'rulings.yaml'), join(out, 'rulings.yaml'));
    const after = await fenlokProcess(['demo', '--next', '--json'], scratch);
    expect([after.code, after.err]).toEqual([
      0,
      expect.stringContaining('fenlok compare dossier dossier-next'),
    ]);
    comparison = JSON.parse(after.out);
  });

  test('is told to be what was made of it, and nothing else', () => {
    const of = (change: string) =>
      comparison.findings
        .filter((one) => one.change === change)
        .map(({ check, where }) => `${check} | ${where}`)
        .sort();
    for (const [change, entries] of Object.entries(next))
      expect([change, of(change)]).toEqual([
        change,
        entries.map(({ check, where }) => `${check} | ${where}`).sort(),
      ]);
    const others = comparison.findings.filter(({ change }) => !(change in next));
    expect(new Set(others.map(({ change }) => change))).toEqual(new Set(['not-looked-again', 'unchanged']));
    expect(new Set(others.flatMap(({ change, check }) => (change === 'unchanged' ? [] : [check])))).toEqual(
      // sales are looked at again, and the sweep opens each screen
      new Set([
        ...byDrills.filter((check) => check !== 'signed-sale' && check !== 'main-thread-work'),
        'seen-undeclared',
      ]),
    );
    expect(comparison.isWorse).toBe(true);
  });

  test('rulings hold on, lapse, or are needed no more; and the list says what is untested now', () => {
    const { carried, lapsed, notNeeded } = comparison.rulings;
    expect(carried.map(({ about }) => about)).toEqual(['needless-export: example.kelpline.TideSyncService']);
    const moved = comparison.findings.find(
      ({ check, change }) => change === 'moved' && check === 'small-target',
    )!;
    expect(lapsed.map(({ finding, now }) => [finding, now])).toEqual([[moved.before!.id, moved.after!.id]]);
    expect(notNeeded.map(({ about }) => about)).toEqual(['missing-translation: sailing_boarding']);
    expect(comparison.items.filter(({ after }) => after !== 'untested').map(({ id }) => id)).toEqual([
      'candidate.version-raised',
    ]);
  });

  test('compare says so by itself, by its exit code and on a page with both pictures', async () => {
    const compared = await fenlokProcess(['compare', 'dossier', 'dossier-next'], out);
    expect(compared.code).toBe(1);
    expect(compared.out).toMatch(/▲ Worse: 2 findings are new; 6 fixed, \d+ not looked at again\./);
    expect((await fenlokProcess(['compare', 'dossier-next', 'dossier-next', '--json'], out)).code).toBe(0);
    const page = readFileSync(join(out, 'dossier-next/comparison/index.html'), 'utf8');
    const total = comparison.findings.find(({ where }) => where === 'booking, total')!.after!.id;
    const card = page.slice(page.indexOf(`id="finding-${total}"`));
    expect(
      card.slice(0, card.indexOf('</article>')).match(/<figcaption>(before|now)<\/figcaption><a/g),
    ).toHaveLength(2);
    for (const [, href] of page.matchAll(/href="(pictures\/[^"]+)"/g))
      expect(existsSync(join(out, 'dossier-next/comparison', href!))).toBe(true);
    const schema = JSON.parse(readFileSync(join(root, 'docs/schemas/comparison.json'), 'utf8'));
    expect(new Ajv2020({ strict: false, validateFormats: false }).validate(schema, comparison)).toBe(true);
  });
});

test('reports in other forms, each by a reader that is not ours, with places in the sources and fixes', async () => {
  const forms = ['sarif', 'earl', 'markdown', 'csv', 'json'];
  const call = ['report', ...forms, '--out', 'forms', '--source', join(demoFolder, 'android')];
  const { code, out: said } = await fenlokProcess(call, out);
  expect([code, said.trim().split('\n').length]).toEqual([0, forms.length]);
  const read = (name: string) => readFileSync(join(out, 'forms', name), 'utf8');
  const last: Judgement = JSON.parse(read('judgement.json'));
  const { results } = readSarif(read('fenlok.sarif'));
  expect(results).toHaveLength(last.findings.length);
  const placeOf = (subject: string) => {
    const { id } = last.findings.find(({ identity }) => identity.subject === subject)!;
    const result = results.find(({ partialFingerprints }) => partialFingerprints['fenlokFinding/v1'] === id)!;
    const { artifactLocation, region } = result.locations[0]!.physicalLocation!;
    return { file: artifactLocation.uri, line: region.startLine, fixes: result.fixes?.length ?? 0 };
  };
  const lineOf = (file: string, words: string) =>
    readFileSync(join(demoFolder, 'android', file), 'utf8')
      .split('\n')
      .findIndex((line) => line.includes(words)) + 1;
  for (const [subject, file, words, fixes] of [
    ['help_wireless', 'res/values-de/help.xml', 'name="help_wireless"', 1],
    ['example.kelpline.TideSyncService', 'AndroidManifest.xml', '".TideSyncService"', 0],
    ['example.kelpline.TicketsActivity kelpline://tickets', 'AndroidManifest.xml', '".TicketsActivity"', 0],
  ] as const)
    expect(placeOf(subject)).toEqual({ file, line: lineOf(file, words), fixes });
  const rows = readCsv(read('findings.csv'));
  expect(rows.map(({ finding }) => finding).sort()).toEqual(last.findings.map(({ id }) => id).sort());
  const earl = await readEarl(read('earl.jsonld'));
  for (const { id, outcome } of last.items) expect(earl.get(`urn:fenlok:item:${id}`)).toEqual([outcome]);
  const { kinds, texts } = readMarkdown(read('summary.md'));
  expect([...kinds].filter((kind) => kind.startsWith('html'))).toEqual([]);
  expect(read('summary.md').length).toBeLessThan(65_000);
  for (const { id } of last.findings.filter(({ ruling }) => !ruling)) expect(texts).toContain(id);
});
