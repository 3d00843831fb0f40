/** The bench in a browser, as a person uses it: over captures of the demo, and over files that are given to it. */
import { type ChildProcess, spawn } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import type { Browser, Locator, Page } from 'playwright-core';
import sharp from 'sharp';
import {
  contrastRatio,
  factsOfCapture,
  findOnScreens,
  formatRatio,
  parseHex,
  type Rgb,
  simulateVision,
  toHex,
} from '../../src/core/index.ts';
import { addCapture } from '../../src/node/captures.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { kelpline, shapes, startPhone } from '../../src/standins/index.ts';
import { launchChromium } from '../support/browser.ts';
import { fenlok } from '../support/command.ts';
import { capturePage } from '../support/page-capture.ts';
import { demoApk, describeWith, root, scratchFolder } from '../support/paths.ts';
import { statusOf } from '../support/raw-http.ts';

const CELLS = [
  { screen: 'booking', theme: 'light', textScale: 1 },
  { screen: 'booking', theme: 'light', textScale: 2 },
  { screen: 'booking', theme: 'dark', textScale: 1 },
  { screen: 'tickets', theme: 'light', textScale: 1 },
  { screen: 'tickets', theme: 'light', textScale: 2 },
] as const;

describeWith('chromium')('the bench', () => {
  const scratch = scratchFolder();
  const problems: string[] = [];
  const pictures = new Map<string, { png: Uint8Array; xml: string }>();
  let server: ChildProcess;
  let browser: Browser;
  let page: Page;
  let url: string;

  beforeAll(async () => {
    await addPackage(join(scratch, 'dossier'), demoApk);
    const dossier = await openDossier(join(scratch, 'dossier'));
    await withPackage(demoApk, async (installed) => {
      const phone = startPhone(shapes.common, installed, kelpline);
      for (const of of CELLS) {
        const { hierarchyXml, png } = await phone.show({ ...of, locale: 'en' });
        pictures.set(`${of.screen} ${of.theme} ${of.textScale}`, { png, xml: hierarchyXml });
        await addCapture(dossier, `${of.screen}.json`, {
          capture: {
            fenlok: 'capture/1',
            platform: 'android',
            cell: { ...of, locale: 'en', procedure: 'as-is', step: '', device: 'd', orientation: 'portrait' },
            densityDpi: shapes.common.densityDpi,
            picture: 'screen.png',
            hierarchy: 'screen.xml',
            carries: [],
          },
          picture: png,
          hierarchyXml,
        });
      }
    });
    server = spawn(
      process.execPath,
      ['scripts/example.mjs', 'bench', '--dossier', join(scratch, 'dossier'), '--port', '18741'],
      { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] },
    );
    url = await new Promise((resolve, reject) => {
      createInterface({ input: server.stdout! }).on(
        'line',
        (line) => line.startsWith('http') && resolve(line),
      );
      server.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
    browser = await launchChromium();
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      permissions: ['clipboard-read', 'clipboard-write'],
    });
    page = await context.newPage();
    page.on('console', (message) => problems.push(`${message.type()}: ${message.text()}`));
    page.on('pageerror', (error) => problems.push(error.message));
    page.on('request', (request) => {
      if (!/^(http:\/\/127\.0\.0\.1:|data:|blob:)/.test(request.url())) problems.push(request.url());
    });
    await page.goto(url);
  });
  afterAll(async () => {
    await browser?.close();
    server.kill('SIGTERM');
  });

  const choose = (label: string, value: string) =>
    page.getByLabel(label, { exact: true }).selectOption({ label: value });
  const open = async (tab: string, screen: string) => {
    await choose('Screen', screen);
    await page.getByRole('tab', { name: tab }).click();
    await page.locator(`.screen[aria-label*="${screen}"]`).first().waitFor();
  };
  const status = () => page.getByRole('tabpanel').getByRole('status').first();
  const says = (text: string | RegExp) => status().filter({ hasText: text }).waitFor();
  const leaveTabs = () => page.getByRole('heading', { level: 1 }).click();
  const pixelAt = async (picture: string, x: number, y: number): Promise<Rgb> => {
    const { data, info } = await sharp(pictures.get(picture)!.png)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (y * info.width + x) * info.channels;
    return [data[at]!, data[at + 1]!, data[at + 2]!];
  };

  test('shows what was found, with its numbers, and outlines it', async () => {
    await open('Findings', 'tickets');
    await says(/\d found/);
    const faint = page.getByRole('button', { name: /too faint/ });
    expect(await faint.textContent()).toMatch(/▲ failed.*Lower deck/);
    await faint.click();
    await page.getByText(/2\.42 : 1, text #9aa9ad on #ffffff/).waitFor();
    expect(await page.locator('.mark.active').count()).toBe(2);
  });

  test('walks the stops by key in the order that the command line prints', async () => {
    const dossier = await fenlok(['try', 'stops', 'booking', '--json', '--theme', 'light'], scratch);
    const { stops } = JSON.parse(dossier.out) as { stops: { name: string; actionable: boolean }[] };
    await open('Stops', 'booking');
    await leaveTabs();
    for (const [i, { name }] of stops.entries()) {
      await page.keyboard.press('ArrowDown');
      await says(`${i + 1} of ${stops.length}: ${name || 'no name'}`);
    }
    await page.keyboard.press('ArrowDown');
    await says(`1 of ${stops.length}`);
    await page.keyboard.press('c');
    const next = stops.findIndex(({ actionable }, i) => i > 0 && actionable);
    await says(`${next + 1} of ${stops.length}`);
    await page.getByText('Controls', { exact: true }).click();
    expect(await page.locator('.lines li').count()).toBe(stops.filter(({ actionable }) => actionable).length);
  });

  test('an unseen walk hides the picture until the control is found by ear', async () => {
    await open('Unseen walk', 'booking');
    await page.getByText('The picture is hidden').waitFor();
    expect(await page.locator('.screen canvas').isVisible()).toBe(false);
    await leaveTabs();
    const wanted = (await page.getByRole('heading', { level: 2 }).locator('q').textContent())!;
    await page.keyboard.press('p');
    await says(/another one|no control/);
    let steps = 0;
    while (!(await status().textContent())!.startsWith(wanted) && steps < 40) {
      await page.keyboard.press('ArrowDown');
      steps += 1;
      await page.waitForFunction(() => document.querySelector('.spoken')?.textContent !== '');
    }
    await page.keyboard.press('p');
    await page.getByText(`You made ${steps} steps`).waitFor();
    await page.getByText('You were on it.').waitFor();
    expect(await page.locator('.screen canvas').isVisible()).toBe(true);
    expect(await page.locator('.mark.trail').count()).toBe(steps + 1);
  });

  test.each(['One by one', 'Row by row'])(
    'scanning %s takes the presses that the list says',
    async (pattern) => {
      await open('Scanning', 'booking');
      await page.getByText(pattern, { exact: true }).click();
      await leaveTabs();
      const lines = page.locator('.lines.numbers li');
      for (const i of [0, 4, (await lines.count()) - 2]) {
        const line = lines.nth(i);
        const presses = Number(await line.locator('.number').first().textContent());
        const name = (await line.locator('span').last().textContent())!;
        await page.getByRole('button', { name: 'From the start' }).click();
        for (let press = 0; press < presses; press++) {
          const lit = (await page.locator('.lines [aria-current]').count()) > 0;
          const here = lit && (await line.getAttribute('aria-current')) === 'true';
          await page.keyboard.press(here ? 's' : 'n');
          await settled(page);
        }
        await says(`Selected ${name}`);
        await says(`with ${presses} presses`);
      }
    },
  );

  test('one switch: the highlight moves by itself, and a press selects', async () => {
    await open('Scanning', 'booking');
    await page.getByText('One switch').click();
    await choose('Pace', '0.5 s');
    // the page's clock stands still from here on, so that a slow machine cannot miss the moment
    await page.clock.install();
    await page.clock.pauseAt(Date.now() + 3_600_000);
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    for (const stop of [0, 1]) {
      await page.clock.runFor(500);
      await page.locator('.lines.numbers li').nth(stop).and(page.locator('[aria-current]')).waitFor();
    }
    await says(/Ada Fjelde/);
    await leaveTabs();
    await page.keyboard.press('s');
    await says(/Selected Ada Fjelde.* with 3 presses, 1\.5 s/);
    await page.clock.resume();
  });

  test('colours are picked by pointer and by key, weighed, mended and copied', async () => {
    await open('Colours', 'tickets');
    const picture = page.getByRole('application');
    const { height, width } = (await picture.boundingBox())!;
    const scale = shapes.common.widthPx / width;
    // by key: the crosshair starts in the middle
    await picture.focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowUp');
    await page.keyboard.press('ArrowLeft');
    const [x, y] = [(shapes.common.widthPx >> 1) - 1, (shapes.common.heightPx >> 1) - 60];
    await page.keyboard.press('b');
    const background = toHex(await pixelAt('tickets light 1', x, y));
    await hasValue(page.getByLabel('Background colour'), background);
    // by pointer: the next one is the text
    await page.getByText('Next click: text').click();
    const at = { x: Math.round(width * 0.5), y: Math.round(height * 0.93) };
    await picture.click({ position: at });
    const text = await pixelAt('tickets light 1', Math.floor(at.x * scale), Math.floor(at.y * scale));
    await hasValue(page.getByLabel('Text colour'), toHex(text));
    await says(formatRatio(contrastRatio(text, parseHex(background)!)));

    await page.getByLabel('Text colour').fill('#9aa9ad');
    await page.getByLabel('Background colour').fill('#ffffff');
    await says('2.42 : 1');
    await page.getByRole('button', { name: /^Use text/ }).click();
    await says('4.52 : 1');
    const mended = await page.getByLabel('Text colour').inputValue();
    await page.getByRole('button', { name: `Copy ${mended}` }).click();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(mended);
    await page.getByLabel('Text colour').fill('blue');
    await page.getByText('write it as #1c2630').waitFor();
  });

  test('views show the picture as others see it', async () => {
    await open('Colours', 'tickets');
    const plain = await page.locator('.magnifier code').textContent();
    await choose('View', 'deuteranopia');
    const seen = toHex(simulateVision(parseHex(plain!)!, 'deuteranopia'));
    await page.locator('.magnifier code', { hasText: seen }).waitFor();
    await choose('View', 'as it is');
  });

  test('pairs are outlined together and measured side by side', async () => {
    await open('Pairs', 'tickets');
    await page.getByText('Text sizes').click();
    await page.getByRole('application').nth(1).waitFor();
    await choose('Element to compare', 'Lower deck, any seat');
    expect(await page.locator('.mark.active').count()).toBe(2);
    const glyphs = await page
      .getByRole('row', { name: /^glyph/ })
      .getByRole('cell')
      .allTextContents();
    const [before, after] = glyphs.map(Number.parseFloat);
    expect(after! / before!).toBeGreaterThan(1.6);
    await page.getByRole('button', { name: /Lower deck/ }).waitFor();
    // pointing at the one outlines the other
    const first = page.getByRole('application').first();
    await first.hover({ position: { x: 60, y: 45 } });
    expect(await page.getByLabel('Element to compare').inputValue()).not.toBe('');
    expect(await page.locator('.mark.active').count()).toBe(2);
  });

  test('takes a picture with its dump, and says what is wrong with other files', async () => {
    const { png, xml } = pictures.get('booking dark 1')!;
    const hostile = '<img src=x onerror=alert(1)>';
    const file = (name: string, content: Uint8Array | string) => ({
      name,
      mimeType: '',
      buffer: Buffer.from(content),
    });
    const give = (...files: ReturnType<typeof file>[]) =>
      page.locator('input[type=file]').setInputFiles(files);
    const told = (text: RegExp) => page.getByRole('alert').getByText(text).waitFor();
    await page.getByRole('tab', { name: 'Stops' }).click();
    await give(
      file('mine.png', png),
      file('mine.xml', xml.replaceAll('Ada Fjelde', hostile.replaceAll('<', '&lt;'))),
    );
    await page.getByLabel(/^mine, light/).waitFor();
    await page.getByText(hostile).first().waitFor();
    await page.getByText(/Taken for 420 dpi|Taken for 480 dpi/).waitFor();
    await give(file('lone.xml', xml));
    await told(/lone\.xml: a dump alone shows nothing/);
    await give(file('notes.json', '{"a":1}'));
    await told(/notes\.json: this is no capture/);
    const half = await sharp(png).resize(540).png().toBuffer();
    await give(file('half.png', half), file('half.xml', xml));
    await told(/half\.png: a picture of 540 × 1200 px beside a tree that reaches to 1080 × \d+ px/);
    await give(file('broken.png', png.subarray(0, 200)), file('broken.xml', xml));
    await told(/broken\.png: not a picture that can be read/);
    await give(file('torn.png', png), file('torn.xml', xml.slice(0, 900)));
    await told(/XML that cannot be read/);
    await choose('Screen', 'tickets');
    await page.locator('.screen[aria-label^="tickets"]').waitFor();
    expect(await page.getByRole('alert').textContent()).toBe('');
  });

  test.each([
    ['light', 'Findings'],
    ['dark', 'Findings'],
    ['light', 'Stops'],
    ['light', 'Colours'],
    ['dark', 'Colours'],
    ['light', 'Scanning'],
    ['dark', 'Pairs'],
    ['light', 'Unseen walk'],
  ] as const)('passes our own rules: %s, %s', async (theme, tab) => {
    await page.setViewportSize({ width: 1280, height: 1700 });
    await page.emulateMedia({ colorScheme: theme, reducedMotion: 'reduce' });
    await open(tab, 'booking');
    // what is compared has been loaded, too
    if (tab === 'Pairs') await page.getByRole('application').nth(1).waitFor();
    await settled(page);
    const found = findOnScreens(factsOfCapture(await capturePage(page, theme)));
    expect(found.map(({ words }) => `${words.what}: ${words.measured}`)).toEqual([]);
  });

  test('asks for a token, gives nothing else away, and stays silent', async () => {
    const [folder] = readdirSync(join(scratch, 'dossier', 'captures'));
    const get = (path: string) => fetch(new URL(path, url)).then(({ status }) => status);
    const { search } = new URL(url);
    expect(await get(`captures/0/${folder}/screen.png${search}`)).toBe(200);
    for (const path of ['captures/index.json', `captures/0/${folder}/screen.png?token=0`])
      expect(await get(path)).toBe(403);
    writeFileSync(join(scratch, 'secret'), readFileSync(demoApk));
    for (const path of [
      `captures/0/..%2f../secret${search}`,
      `captures/0/${folder}/..%2f..%2f..%2fsecret${search}`,
      `captures/7/x/y${search}`,
    ])
      expect(await get(path)).toBe(404);
    // an address that is none is refused, and ends nothing
    const { hostname, port } = new URL(url);
    for (const target of ['/captures//', '/captures/%E0%A4%A'])
      expect(
        await statusOf(`GET ${target}${search} HTTP/1.1\r\nHost: ${hostname}:${port}`, Number(port)),
      ).toBe(400);
    expect(await get(`captures/index.json${search}`)).toBe(200);
    expect(problems).toEqual([]);
  });
});

/** React has shown what the last key changed. */
const settled = (page: Page): Promise<unknown> =>
  page.evaluate(() => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))));

async function hasValue(field: Locator, value: string): Promise<void> {
  await field.and(field.page().locator(`[value="${value}"]`)).waitFor();
}
