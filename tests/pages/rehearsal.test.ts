/** The rehearsal in a browser, as a person plays it. */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { pathToFileURL } from 'node:url';
import type { Browser, Locator, Page } from 'playwright-core';
import { factsOfCapture, findOnScreens } from '../../src/core/index.ts';
import { launchChromium } from '../support/browser.ts';
import { fenlok } from '../support/command.ts';
import { capturePage } from '../support/page-capture.ts';
import { demoApk, describeWith, root, scratchFolder } from '../support/paths.ts';

const NOON = new Date('2026-11-27T12:00:00Z');

describeWith('chromium')('the rehearsal', () => {
  const scratch = scratchFolder();
  const problems: string[] = [];
  let server: ChildProcess;
  let browser: Browser;
  let page: Page;
  let url: string;

  beforeAll(async () => {
    server = spawn(process.execPath, ['scripts/example.mjs', 'rehearsal', '--port', '18742'], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    url = await new Promise((resolve, reject) => {
      // another port is taken where somebody has this one, and that is told before the address
      createInterface({ input: server.stdout! }).on(
        'line',
        (line) => line.startsWith('http') && resolve(line),
      );
      server.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
    browser = await launchChromium();
  });
  beforeEach(async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    page = await context.newPage();
    page.on('console', (message) => problems.push(`${message.type()}: ${message.text()}`));
    page.on('pageerror', (error) => problems.push(error.message));
    page.on('request', (request) => {
      if (!/^(http:\/\/127\.0\.0\.1:|data:|blob:)/.test(request.url())) problems.push(request.url());
    });
    await page.clock.install({ time: NOON });
    await page.goto(url);
    await page.getByRole('heading', { level: 1 }).waitFor();
  });
  afterEach(() => page.context().close());
  afterAll(async () => {
    await browser?.close();
    server.kill('SIGTERM');
    expect(problems).toEqual([]);
  });

  const phone = (number: 1 | 2) => page.getByRole('region', { name: `phone ${number}` });
  const press = (name: string, within: Locator | Page = page) =>
    within.getByRole('button', { name, exact: true }).click();
  const install = async (number: 1 | 2, consent = 'Agree') => {
    await press('Install and open', phone(number));
    await press(consent, phone(number));
  };
  const buy = async (number: 1 | 2, product: string, answer = 'Pay') => {
    await press(`Buy ${product}`, phone(number));
    await press(answer, phone(number));
  };
  const atStore = async (product: string, what: string) => {
    await page.getByLabel('At the store, with').selectOption(product);
    await press(what, page.getByRole('region', { name: 'The store' }));
  };
  const says = (text: string | RegExp) => page.getByRole('status').filter({ hasText: text }).waitFor();
  const storeTime = async () => (await page.locator('.clock time').getAttribute('datetime'))!;
  const cell = (situation: string, product: string, outcome = '') =>
    page.getByRole('button', { name: new RegExp(`^${outcome}.*: ${product}, ${situation}$`) });
  const isCell = (situation: string, product: string, outcome: string) =>
    cell(situation, product, outcome).waitFor();
  const openTab = (name: RegExp) => page.getByRole('tab', { name }).click();
  const found = async () => {
    await openTab(/^Found/);
    return (await page.locator('.lines > li').allTextContents()).map((text) =>
      text.replace(/^\d+\S* ?failed /, ''),
    );
  };

  test('a purchase is played, and the situations fill up', async () => {
    await page.getByText('0 of 50').waitFor();
    await cell('bought', 'pass.month').click();
    await page.getByText('Buy it with a test account.').waitFor();
    await install(1);
    await buy(1, 'pass.month', 'Cancel');
    await buy(1, 'pass.month');
    await phone(1).getByText('✓ given').waitFor();
    await says('phone 1 gives pass.month');
    await press('+ 31 days');
    await isCell('bought', 'pass.month', 'passed');
    await isCell('renewed', 'pass.month', 'passed');
    await page.getByText('5 of 50').waitFor();

    await install(2);
    await press('Restore', phone(2));
    await isCell('second device', 'pass.month', 'passed');
    await atStore('pass.month', 'Refund');
    await page.waitForFunction(() => !document.body.textContent?.includes('✓ given'));
    await isCell('refunded', 'pass.month', 'passed');
    expect(await found()).toEqual([]);
    await page.getByText('differ: never').waitFor();
  });

  test('what the app and the store do not agree about is drawn, found and explained', async () => {
    await page.getByLabel('App on both phones').selectOption({ label: 'Kelpline, the candidate' });
    await press('Install and open', phone(1));
    await buy(1, 'pass.year');
    await buy(1, 'no-ads');
    await press('Install and open', phone(2));
    await press('Restore', phone(2));
    await atStore('pass.year', 'Refund');
    await press('+ 1 day');
    await press('End', phone(1));
    await press('Open', phone(1));
    await page.getByText('differ: pass.year, no-ads').waitFor();
    const titles = await page.locator('.timeline [aria-label="bar"] title').allTextContents();
    const differ = (product: string, device: string, how: string) =>
      expect(titles.filter((title) => title.startsWith(`${product}, ${device}: ${how}`))).not.toEqual([]);
    differ('pass.year', 'phone 1', 'given and not paid for');
    differ('no-ads', 'phone 2', 'paid for and not given');
    expect(titles.filter((title) => title.startsWith('no-ads, phone 1: paid'))).toEqual([]);
    await cell('second device', 'no-ads').click();
    await page
      .locator('.chosen')
      .getByText(/restoring does not bring it back/)
      .waitFor();
    expect(await found()).toEqual([
      expect.stringContaining('pass.year: it is still given after it ended'),
      expect.stringContaining('crossing.20'),
      expect.stringContaining('no-ads: it is paid for, and restoring does not bring it back'),
    ]);
    await page.getByRole('button', { name: /pass\.year: it is still given/ }).click();
    await page.getByText('Ask the store at each launch').waitFor();
  });

  test('the clock plays, pauses, steps and goes to what comes next', async () => {
    await install(1);
    await buy(1, 'pass.month');
    // from here on time passes only as it is told to, however slow the machine is
    await page.clock.pauseAt(await page.evaluate(() => Date.now() + 60_000));
    const beganMs = Date.parse(await storeTime());
    await press('▶ Play');
    await page.clock.runFor(5000);
    await press('❙❙ Pause');
    const playedMs = Date.parse(await storeTime()) - beganMs;
    expect(playedMs / 3600_000).toBeCloseTo(5, 0);
    await page.clock.runFor(5000);
    expect(Date.parse(await storeTime()) - beganMs).toBe(playedMs);
    await page.getByLabel('A second is').selectOption({ label: '1 week' });
    await page.getByRole('heading', { level: 1 }).click();
    await page.keyboard.press('p');
    await page.clock.runFor(5000);
    await page.keyboard.press('p');
    expect((Date.parse(await storeTime()) - beganMs - playedMs) / (7 * 24 * 3600_000)).toBeCloseTo(5, 0);
    await page.keyboard.press('n');
    await says('phone 1 gives pass.month');
    expect((await storeTime()).slice(0, 16)).toBe('2027-01-27T12:00');
    await page.keyboard.press('d');
    expect((await storeTime()).slice(0, 10)).toBe('2027-01-28');
  });

  test('with periods as short as in a test store, a plan ends within the hour', async () => {
    await page.getByLabel('Periods are').selectOption({ label: 'as in: Google Play, license testers' });
    await install(1);
    await buy(1, 'pass.month');
    await press('+ 1 hour');
    await says('phone 1 gives nothing');
    await openTab(/^Trace/);
    expect(await page.locator('.log').getByText('store.renewed').count()).toBe(6);
  });

  test('what was done is taken back, kept over a reload, and left for another beginning', async () => {
    await install(1);
    await buy(1, 'no-ads');
    await press('+ 1 day');
    const before = await storeTime();
    await buy(1, 'pass.year');
    await press('Undo');
    await phone(1).getByRole('dialog').waitFor();
    await press('Undo');
    expect(await storeTime()).toBe(before);
    await page.reload();
    await phone(1).getByText('✓ given').waitFor();
    expect(await storeTime()).toBe(before);
    await press('Begin again');
    await press('Install and open', phone(1));
    expect(await phone(1).getByText('✓ given').count()).toBe(0);
    await press('Undo');
    await press('Undo');
    await phone(1).getByText('✓ given').waitFor();
    expect(await storeTime()).toBe(before);
  });

  test.each([
    ['nothing that can be read', '{"fenlok":"rehearsal/1"'],
    ['acts that nobody can do', '{"fenlok":"rehearsal/1","startMs":0,"acts":[{"do":"fly","phone":7}]}'],
    [
      'a product that is not sold any more',
      '{"fenlok":"rehearsal/1","startMs":0,"acts":[{"do":"order","order":{"do":"elsewhere","account":"ada","product":"gone"}}]}',
    ],
    ['another table of time', '{"fenlok":"rehearsal/1","startMs":0,"testClock":"sundial","acts":[]}'],
  ])('what was kept is left where it is %s', async (_, kept) => {
    await page.evaluate((text) => localStorage.setItem('fenlok rehearsal of example.kelpline', text), kept);
    // what the page keeps when it is left must not write over it
    await page.evaluate(() =>
      window.addEventListener('pagehide', (event) => event.stopImmediatePropagation(), true),
    );
    await page.reload();
    await page.getByText('Open the app on a phone').waitFor();
    expect(await storeTime()).toMatch(/^2026-11-27T12:00/);
  });

  test('what the store does not do is told, and changes nothing', async () => {
    await atStore('pass.year', 'Bought elsewhere');
    const before = await storeTime();
    await atStore('pass.year', 'Bought elsewhere');
    await says(/▲ Refused:.*ada already has pass\.year/);
    expect(Date.parse(await storeTime()) - Date.parse(before)).toBeLessThan(10);
    await press('is refused', page.getByRole('region', { name: 'The store' }));
    await install(1);
    await buy(1, 'no-ads');
    await openTab(/^Trace/);
    await page.locator('.log').getByText('purchase.failed').waitFor();
  });

  test('ads: all are loaded, networks misbehave, and their logs tell why', async () => {
    await openTab(/^Ads/);
    await page.getByText('open it on a phone').waitFor();
    await install(1);
    await press('Register both phones for tests');
    await page.getByLabel('brightbuoy', { exact: true }).selectOption({ label: 'has nothing to show' });
    await press('Load all');
    const loaded = (row: string) => page.getByRole('button', { name: `: ${row}, loaded` });
    expect(await loaded('timetable-banner · brightbuoy').textContent()).toMatch(/◐ can’t tell/);
    expect(await loaded('ticket-interstitial · ropewalk').textContent()).toMatch(/■ passed/);
    await loaded('timetable-banner · northmast').click();
    await page.locator('.chosen').getByText('Northmast · timetable-banner: no bid, nbr 2').waitFor();
    await page.getByLabel('ropewalk', { exact: true }).selectOption({ label: 'answers half' });
    await press('Load all');
    await loaded('ticket-interstitial · ropewalk').click();
    await page
      .locator('.chosen')
      .getByText(/answer is no bid response/)
      .first()
      .waitFor();
    await page.getByLabel('Rows with').fill('northmast interstitial');
    expect(await page.locator('.outcomes tbody tr').allTextContents()).toEqual([
      expect.stringMatching(/^ticket-interstitial · northmast/),
    ]);
    await press('Show ticket-interstitial', phone(1));
    await press('Close the ad', phone(1));
    await says('phone 1 gives nothing');
    // mistakes are an update of the app
    await page.getByRole('button', { name: /Its mistakes/ }).click();
    await page.getByLabel('asks for live ads').click();
    await page.keyboard.press('Escape');
    await press('Open', phone(1));
    await press('Load all');
    expect((await found())[0]).toMatch(/is asked for a live ad on a development device/);
  });

  test('by keyboard alone, and the focus stays with the phone', async () => {
    const focused = () => page.evaluate(() => document.activeElement?.textContent);
    await phone(2).getByRole('button', { name: 'Install and open' }).focus();
    await page.keyboard.press('Enter');
    expect(await focused()).toBe('Agree');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Tab');
    expect(await focused()).toBe('Buy');
    await page.keyboard.press('Enter');
    expect(await focused()).toBe('Pay');
    await page.keyboard.press('Enter');
    await phone(2).getByText('✓ given').waitFor();
  });

  test('the saved trace is judged by the command as by the page', async () => {
    await page.getByLabel('App on both phones').selectOption({ label: 'Kelpline, the candidate' });
    await press('Install and open', phone(1));
    await buy(1, 'no-ads');
    await buy(1, 'crossings.10');
    await openTab(/^Ads/);
    await press('Load all');
    await press('Install and open', phone(2));
    await press('Restore', phone(2));
    const onPage = await found();
    await openTab(/^Trace/);
    const download = page.waitForEvent('download');
    await press('Save the trace');
    const file = join(scratch, 'rehearsal.jsonl');
    await (await download).saveAs(file);
    const intent = join(root, 'demo/kelpline/fenlok.yaml');
    const added = await fenlok(['add', demoApk, file, '--json'], scratch);
    const { taken } = JSON.parse(added.out) as { taken: { kind: string; digest: string }[] };
    const { digest } = taken.find(({ kind }) => kind === 'trace')!;
    const judged = await fenlok(['judge', '--intent', intent, '--json'], scratch);
    const { findings } = JSON.parse(judged.out) as {
      findings: { check: string; words: { what: string }; occurrences: { evidence: string }[] }[];
    };
    // what the intent file declares is held against all evidence, which a page of one trace does not have
    const byCommand = findings
      .filter(({ check }) => !['declared-unseen', 'seen-undeclared'].includes(check))
      .filter(({ occurrences }) => occurrences.some(({ evidence }) => digest.startsWith(evidence)))
      .map(({ words }) => words.what);
    expect(byCommand.length).toBeGreaterThan(3);
    expect([...onPage].sort()).toEqual(byCommand.sort());

    // the same file is looked at in the place of what is played
    await press('Begin again');
    await page.getByText('Trace (0)').waitFor();
    const give = (...files: { name: string; mimeType: string; buffer: Buffer }[]) =>
      page.locator('input[type=file]').setInputFiles(files);
    const lines = (text: string) => [{ name: 'other.jsonl', mimeType: '', buffer: Buffer.from(text) }];
    await give(...lines('{"at":"2026-11-27T12:00:00Z","kind":"store.bought"}'));
    await page
      .getByRole('alert')
      .getByText(/other\.jsonl, line 1, account/)
      .waitFor();
    await give(...lines('{"at":"2026-11-27T12:00:00Z","kind":"screen.shown"}'));
    await page.getByRole('alert').getByText('no line reports a purchase').waitFor();
    await page.locator('input[type=file]').setInputFiles(file);
    await says('Looking at rehearsal.jsonl');
    await page.getByText('differ: no-ads').waitFor();
    expect(await found()).toEqual(onPage);
    await press('Back to the rehearsal');
    await page.getByText('Found (0)').waitFor();

    // of a long table only some rows, in the terminal and on the report's page
    const rows = (...words: string[]) => fenlok(['judge', '--intent', intent, '--filter', ...words], scratch);
    const northmast = (await rows('NORTHMAST', 'banner')).out;
    expect(northmast).toMatch(/timetable-banner · northmast( +[■▲□]){5}/);
    expect(northmast).toMatch(/▲ timetable-banner: Northmast is given a wrong unit.*Copy unit from/s);
    expect(northmast).not.toMatch(/brightbuoy|interstitial|Do next/);
    expect((await rows('nobody', '--json')).code).toBe(2);
    expect((await rows('nobody')).out).toBe(
      'No row of links, push messages, purchases or ads holds “nobody”.\n',
    );
    await page.goto(pathToFileURL(join(scratch, 'dossier/report/index.html')).href);
    const shown = page.locator('#ads tbody tr:visible');
    expect(await shown.count()).toBe(4);
    await page.locator('#ads').getByLabel('Rows with').fill('northmast  Banner');
    expect(await shown.allTextContents()).toEqual([expect.stringContaining('timetable-banner · northmast')]);
    await page.locator('#ads').getByLabel('Rows with').fill('');
    expect(await shown.count()).toBe(4);
    problems.splice(0, problems.length, ...problems.filter((problem) => !problem.startsWith('file:')));
  });

  test.each([
    ['light', /^Situations/],
    ['dark', /^Situations/],
    ['light', /^Ads/],
    ['dark', /^Found/],
    ['light', /^Trace/],
  ] as const)('passes our own rules: %s, %s', async (theme, tab) => {
    await page.setViewportSize({ width: 1280, height: 1500 });
    await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
    await install(1);
    await buy(1, 'pass.month');
    await press('Buy no-ads', phone(1));
    await page.getByRole('button', { name: /Its mistakes/ }).click();
    await page.getByLabel('asks for live ads').click();
    await page.keyboard.press('Escape');
    await press('Open', phone(1));
    await openTab(tab);
    await page.evaluate(
      () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
    );
    const seen = findOnScreens(factsOfCapture(await capturePage(page, theme)));
    expect(seen.map(({ words }) => `${words.what}: ${words.measured}`)).toEqual([]);
  });

  test('without its token it shows nothing', async () => {
    await page.goto(url.replace(/token=.*/, 'token=0'));
    await page.getByRole('alert').getByText('the token is missing or wrong').waitFor();
    problems.splice(0, problems.length, ...problems.filter((problem) => !/403/.test(problem)));
  });

  test('files that cannot be read are told by name and line, before anything is served', () => {
    const demo = join(root, 'demo/kelpline');
    const store = join(scratch, 'store.yaml');
    writeFileSync(
      store,
      readFileSync(join(demo, 'store.yaml'), 'utf8').replace('period: P1M', 'peroid: P1M'),
    );
    const serve = (...words: string[]) =>
      spawnSync(process.execPath, ['scripts/example.mjs', ...words], { cwd: root, encoding: 'utf8' });
    const wrong = serve('rehearsal', '--intent', join(demo, 'fenlok.yaml'), '--store', store);
    expect([wrong.status, wrong.stdout]).toEqual([3, '']);
    expect(wrong.stderr).toMatch(/store\.yaml, line 9.*peroid.*period/s);
    expect(serve('rehearsal', '--store', store)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('--intent'),
    });
    expect(serve('bench', '--store', store)).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('bench has no --store; it has --dossier and --port'),
    });
    expect(serve('rehersal')).toMatchObject({
      status: 2,
      stderr: expect.stringContaining('bench, rehearsal'),
    });
  });
});
