// Speed of the bench's page: the time, in frames, from pressing on the picture until its colour, the ratio and the suggestions
// stand there.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const PICKS = 60;

export async function benchPage(root) {
  const { chromium } = await import('playwright-core');
  const server = spawn(process.execPath, [join(root, 'scripts/example.mjs'), 'bench', '--port', '18742'], {
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const url = await new Promise((resolve) => {
    createInterface({ input: server.stdout }).once('line', resolve);
  });
  const args = ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'];
  const quiet = ['--disable-background-networking', '--disable-component-update'];
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: [...args, ...quiet] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(url);
    await page.getByRole('tab', { name: 'Colours' }).click();
    await page.locator('.answer').waitFor();
    const picks = await page.evaluate(pickColours, PICKS);
    const frameMs = median(picks.map(({ frameMs }) => frameMs));
    const answerMs = picks.map(({ ms }) => ms);
    console.log('\nthe bench in a page');
    console.log(`  a picked colour answers in        ${median(answerMs).toFixed(1).padStart(6)} ms`);
    console.log(
      `  of ${picks.length} picks, the slowest       ${Math.max(...answerMs)
        .toFixed(1)
        .padStart(6)} ms`,
    );
    console.log(
      `  ratio to one frame (${frameMs.toFixed(1)} ms)      ${(median(answerMs) / frameMs).toFixed(2).padStart(6)}   (wanted: at most 1)`,
    );
  } finally {
    await browser.close();
    server.kill('SIGTERM');
  }
}

/** Runs in the page: presses on many places, and waits each time until the answer beside it has changed. */
async function pickColours(count) {
  const picture = document.querySelector('[role="application"]');
  const answer = document.querySelector('.answer');
  const box = picture.getBoundingClientRect();
  const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
  const picks = [];
  for (let i = 0; i < count; i++) {
    const first = await frame();
    const frameMs = (await frame()) - first;
    const at = {
      clientX: box.left + box.width * (0.1 + 0.8 * ((i * 0.618) % 1)),
      clientY: box.top + box.height * (0.05 + 0.9 * ((i * 0.382) % 1)),
      bubbles: true,
    };
    const start = performance.now();
    const answered = new Promise((resolve) => {
      const watcher = new MutationObserver(() => {
        watcher.disconnect();
        resolve(performance.now());
      });
      watcher.observe(answer, { subtree: true, childList: true, characterData: true, attributes: true });
      // the same colours as before change nothing
      setTimeout(() => {
        watcher.disconnect();
        resolve(undefined);
      }, 400);
    });
    picture.dispatchEvent(new PointerEvent('pointerdown', at));
    const end = await answered;
    if (end) picks.push({ ms: end - start, frameMs });
  }
  return picks;
}
