// Makes the pictures of docs/screenshots again, from the demo: all, or those that are named: report, candidates, bench, rehearsal, phone,
// terminals. Needs chromium; the terminal ones also Xvfb, xterm and ImageMagick.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { setTimeout as pause } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { chromium } from 'playwright-core';
import sharp from 'sharp';
import { root } from './setup.mjs';

const out = join(root, 'docs/screenshots');
const bin = join(root, 'dist/bin/fenlok.js');
const work = mkdtempSync(join(tmpdir(), 'fenlok-screenshots-'));
const demo = join(work, 'fenlok-demo');

const PAGES = [
  { name: 'report', width: 1280, height: 800, scheme: 'light' },
  { name: 'report-finding', width: 1280, height: 800, scheme: 'light', at: '#area-contrast' },
  { name: 'report-variants', width: 1280, height: 800, scheme: 'light', at: '.variants' },
  { name: 'report-drills', width: 1280, height: 1400, scheme: 'light', at: '#drills' },
  { name: 'report-links', width: 1280, height: 800, scheme: 'light', at: '#links' },
  { name: 'both-platforms', width: 1280, height: 800, scheme: 'light', file: 'release-report/index.html' },
  { name: 'report-purchases', width: 1280, height: 1240, scheme: 'light', at: '#purchases' },
];

const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

async function report() {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS });
  spawnSync(process.execPath, [bin, 'judge', 'dossier', 'dossier-ios'], { cwd: demo, stdio: 'ignore' });
  for (const { name, width, height, scheme, at, file = 'dossier/report/index.html' } of PAGES) {
    const context = await browser.newContext({
      viewport: { width, height },
      colorScheme: scheme,
      offline: true,
    });
    const page = await context.newPage();
    await page.goto(pathToFileURL(join(demo, file)).href);
    if (at)
      await page
        .locator(at)
        .first()
        .evaluate((element) => element.scrollIntoView());
    await page.screenshot({ path: join(out, `${name}.png`) });
    await context.close();
  }
  await browser.close();
}

/** The demo's two candidates held against each other, and what was kept of both. */
async function candidates() {
  const run = (...words) => execFileSync(process.execPath, [bin, ...words], { cwd: demo, stdio: 'ignore' });
  execFileSync(process.execPath, [bin, 'demo', '--next'], { cwd: work, stdio: 'ignore' });
  run('keep', '--name', '2.4.0-rc1');
  run('keep', '--name', '2.4.1-rc1', '--dossier', 'dossier-next');
  run('trend', '--svg', 'trend.svg');
  // it ends with 1, since the second is worse
  spawnSync(process.execPath, [bin, 'compare', 'dossier', 'dossier-next'], { cwd: demo, stdio: 'ignore' });
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS });
  for (const [name, file, height] of [
    ['comparison', 'dossier-next/comparison/index.html', 1000],
    ['trend', 'trend.svg', 800],
  ]) {
    const page = await browser.newPage({ viewport: { width: name === 'trend' ? 1000 : 1280, height } });
    await page.goto(pathToFileURL(join(demo, file)).href);
    await page.screenshot({ path: join(out, `${name}.png`) });
  }
  await browser.close();
}

/** The bench over the demo's captures, in two of its ways to look. */
async function bench() {
  const { server, url } = await serveExample('bench', '--dossier', join(demo, 'dossier'));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS });
  const open = async (screen, tab, colorScheme = 'light') => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme });
    await page.goto(url);
    await page.getByLabel('Screen', { exact: true }).selectOption(screen);
    await page.getByRole('tab', { name: tab }).click();
    await page.locator(`.screen[aria-label^="${screen}"]`).first().waitFor();
    return page;
  };
  const stops = await open('alerts', 'Stops');
  await stops.getByRole('heading', { level: 1 }).click();
  for (let i = 0; i < 4; i++) await stops.keyboard.press('ArrowDown');
  await stops.getByText('4 of').waitFor();
  await stops.screenshot({ path: join(out, 'bench-stops.png') });
  const colours = await open('tickets', 'Colours');
  await colours.locator('.offers li').first().waitFor();
  await colours.locator('.screen').hover({ position: { x: 60, y: 178 } });
  await colours.screenshot({ path: join(out, 'bench-colours.png') });
  await browser.close();
  server.kill();
}

/** The demo's candidate on two phones, after a refund, on a second device and with all ads loaded. */
async function rehearsal() {
  const { server, url } = await serveExample('rehearsal');
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS });
  const page = await browser.newPage({ viewport: { width: 1280, height: 920 } });
  await page.clock.setFixedTime(new Date('2026-11-27T12:00:00Z'));
  await page.goto(url);
  const press = (name, within = page) => within.getByRole('button', { name, exact: true }).click();
  const [one, two] = ['phone 1', 'phone 2'].map((name) => page.getByRole('region', { name }));
  const buy = async (phone, product) => {
    await press(`Buy ${product}`, phone);
    await press('Pay', phone);
  };
  await page.getByLabel('App on both phones').selectOption('kelpline');
  await press('Install and open', one);
  for (const product of ['pass.month', 'pass.year', 'no-ads', 'crossings.10']) await buy(one, product);
  await press('Install and open', two);
  await press('Restore', two);
  for (let i = 0; i < 3; i++) await press('+ 31 days');
  await page.getByLabel('At the store, with').selectOption('pass.year');
  await press('Refund');
  await press('+ 31 days');
  await press('End', one);
  await press('Open', one);
  await page.getByRole('button', { name: /^failed: no-ads, second device/ }).click();
  await page.getByRole('heading', { level: 1 }).click();
  await press('Buy no-ads', two);
  await page.screenshot({ path: join(out, 'rehearsal.png') });
  await browser.close();
  server.kill();
}

async function serveExample(...words) {
  const args = ['scripts/example.mjs', ...words, '--port', '18743'];
  const server = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'pipe', 'ignore'] });
  const url = await new Promise((resolve) => {
    createInterface({ input: server.stdout }).once('line', resolve);
  });
  return { server, url };
}

/** Four screens of the made-up app side by side, on Android and below on iOS. */
async function phone() {
  const rows = [
    ['dossier', ['timetable|en|light|1', 'pass|en|dark|1', 'booking|de|light|1', 'tickets|ar|light|1']],
    ['dossier-ios', ['timetable|en|light|1', 'pass|en|dark|1', 'booking|en|light|2', 'tickets|ar|light|1']],
  ];
  const [width, height, gap] = [306, 680, 16];
  const pictures = [];
  for (const [r, [dossier, wanted]] of rows.entries()) {
    const folder = join(demo, dossier, 'captures');
    const captures = readdirSync(folder).map((digest) => join(folder, digest));
    for (const [c, key] of wanted.entries()) {
      const found = captures.find((of) => {
        const { cell } = JSON.parse(readFileSync(join(of, 'capture.json'), 'utf8'));
        const isPlain = cell.orientation === 'portrait' && cell.procedure === 'as-is';
        return isPlain && `${cell.screen}|${cell.locale}|${cell.theme}|${cell.textScale}` === key;
      });
      const input = await sharp(join(found, 'screen.png'))
        .resize(width, height, { fit: 'fill' })
        .png()
        .toBuffer();
      pictures.push({ input, left: gap + c * (width + gap), top: gap + r * (height + gap) });
    }
  }
  await sharp({
    create: {
      width: (width + gap) * 4 + gap,
      height: (height + gap) * 2 + gap,
      channels: 3,
      background: '#d9d7cf',
    },
  })
    .composite(pictures)
    .png({ palette: true })
    .toFile(join(out, 'kelpline.png'));
}

/** A command in a real terminal window; only its beginning where it is long. */
async function terminal(name, command, cwd, waitMs = 5000) {
  const display = ':78';
  const server = spawn('Xvfb', [display, '-screen', '0', '1280x800x24'], { stdio: 'ignore' });
  await pause(1000);
  const shell = `script -qec "${command}" /dev/null | head -n 45; sleep ${waitMs / 1000 + 3}`;
  const look = [
    '-fa',
    'DejaVu Sans Mono',
    '-fs',
    '10.5',
    '-geometry',
    '142x46+0+0',
    '-bg',
    '#faf9f5',
    '-fg',
    '#1c2630',
    '+sb',
    '-b',
    '8',
    '-bw',
    '0',
  ];
  const window = spawn('xterm', [...look, '-e', 'bash', '-c', shell], {
    cwd,
    stdio: 'ignore',
    env: { ...process.env, DISPLAY: display },
  });
  await pause(waitMs);
  execFileSync('import', ['-window', 'root', '-crop', '1280x800+0+0', join(out, `${name}.png`)], {
    env: { ...process.env, DISPLAY: display },
  });
  window.kill();
  server.kill();
  await pause(500);
}

/** A screen of the demo app looked at and drilled from there, on a stand-in phone of its own. */
async function inHand() {
  const own = join(work, 'hand');
  execFileSync('mkdir', ['-p', own]);
  const apk = join(root, 'demo/kelpline/kelpline.apk');
  const state = { ...process.env, FENLOK_STATE: join(own, 'state') };
  const phone = spawn(process.execPath, [bin, 'standin', 'phone', '--package', apk, '--json'], {
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const line = await new Promise((resolve) => createInterface({ input: phone.stdout }).once('line', resolve));
  const { address } = JSON.parse(line);
  const adb = (...args) => execFileSync('adb', ['-s', address, ...args], { encoding: 'utf8' });
  execFileSync('adb', ['connect', address]);
  adb('shell', 'am', 'start', '-W', '-n', 'example.kelpline/.TimetableActivity');
  for (const id of ['sailing_row', 'book', 'note_field']) {
    const at = new RegExp(`resource-id="[^"]*/${id}"[^>]*bounds="\\[(\\d+),(\\d+)\\]\\[(\\d+),(\\d+)\\]"`);
    let bounds = null;
    // no dump can be had while the screen moves
    for (let tries = 0; !bounds && tries < 40; tries++)
      bounds = at.exec(adb('exec-out', 'uiautomator', 'dump', '/dev/tty'));
    const [left, top, right, bottom] = bounds.slice(1).map(Number);
    adb('shell', 'input', 'tap', `${(left + right) >> 1}`, `${(top + bottom) >> 1}`);
  }
  adb('shell', 'input', 'text', 'Window%sseat');
  process.env.FENLOK_STATE = state.FENLOK_STATE;
  const call = (...words) => `node ${bin} ${words.join(' ')} --device ${address}`;
  await terminal('terminal-in-hand', `${call('look')}; ${call('drill process-death --here')}`, own, 9_000);
  phone.kill('SIGINT');
}

async function terminals() {
  if (!existsSync('/usr/bin/xterm') || !existsSync('/usr/bin/Xvfb')) {
    console.error('terminal pictures left out: Xvfb, xterm or ImageMagick is missing');
    return;
  }
  await terminal('terminal-judge', `node ${bin} judge`, demo, 12_000);
  await terminal('terminal-read', `node ${bin} read demo/kelpline/kelpline.apk`, root);
  const link = `node ${bin} try link https://www.kelpline.example/pass`;
  await terminal('terminal-link', `${link}; echo; node ${bin} try payload push/offer.json`, demo);
  await inHand();
  const stops = `node ${bin} try stops timetable; node ${bin} try stops alerts --dossier dossier-ios`;
  await terminal('terminal-stops', `${stops}; node ${bin} try presses booking --pattern rows`, demo);
  const start = `node ${bin} start ${join(root, 'demo/kelpline/kelpline.apk')} --out begun.yaml && cat begun.yaml`;
  await terminal('terminal-start', start, work);
}

const GROUPS = { report, candidates, bench, rehearsal, phone, terminals, 'in-hand': inHand };
const WITHOUT_DEMO = ['rehearsal', 'in-hand'];
const named = process.argv.slice(2);
// the terminals hold the one in the hand, too
const wanted = named.length > 0 ? named : Object.keys(GROUPS).filter((name) => name !== 'in-hand');
if (wanted.some((name) => !WITHOUT_DEMO.includes(name)))
  execFileSync(process.execPath, [bin, 'demo'], { cwd: work, stdio: 'ignore' });
for (const name of wanted) await GROUPS[name]();
rmSync(work, { recursive: true, force: true });
