// `node scripts/soak.mjs [ENDINGS]`: ends calls of the command at random moments by random signals, some hundred times, and then
// asks whether anything was lost: every decision that was said to be done is kept, everything that was taken in is whole, and a
// judgement is the same as one without the endings.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './setup.mjs';

const bin = join(root, 'dist/bin/fenlok.js');
const endings = Number(process.argv[2] ?? 200);
const scratch = mkdtempSync(join(tmpdir(), 'fenlok-soak-'));
const SIGNALS = ['SIGKILL', 'SIGTERM', 'SIGINT', 'SIGHUP'];
let seed = Number(process.env.SEED ?? 20261129);
const random = () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};

/** @returns the exit code; null where it was killed */
function run(folder, args, endAfterMs) {
  const child = spawn(process.execPath, [bin, ...args], {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'ignore'],
  });
  const signal = SIGNALS[Math.floor(random() * SIGNALS.length)];
  const timer = endAfterMs === undefined ? undefined : setTimeout(() => child.kill(signal), endAfterMs);
  return new Promise((resolve) => {
    child.once('close', (code) => {
      clearTimeout(timer);
      resolve(code);
    });
  });
}

function project(name) {
  const folder = join(scratch, name);
  cpSync(join(root, 'demo/kelpline'), folder, { recursive: true });
  rmSync(join(folder, 'rulings.yaml'));
  return folder;
}

const ADDED = ['kelpline.apk', 'site', 'android/res', 'push/delay.json', 'push/offer.json'];
const judged = async (folder) => {
  const code = await run(folder, ['judge']);
  if (code !== 0 && code !== 1 && code !== 4) return `judge ended with ${code}`;
  const { judgedAt: _, ...judgement } = JSON.parse(
    readFileSync(join(folder, 'dossier/judgement.json'), 'utf8'),
  );
  return createHash('sha256').update(JSON.stringify(judgement)).digest('hex');
};

const whole = project('whole');
await run(whole, ['add', ...ADDED]);
await judged(whole);
const items = JSON.parse(readFileSync(join(whole, 'dossier/judgement.json'), 'utf8')).items.map(
  ({ id }) => id,
);

const folder = project('ended');
await run(folder, ['add', 'kelpline.apk']);
const done = new Set();
for (let i = 0; i < endings; i++) {
  const item = items[Math.floor(random() * items.length)];
  const call = [
    ['add', ...ADDED],
    ['judge'],
    ['sign', item, '--as', 'passed', '--why', 'seen', '--by', 'Ada'],
  ][Math.floor(random() * 3)];
  const code = await run(folder, call, 100 + random() * 900);
  if (call[0] === 'sign' && code === 0) done.add(item);
  if (process.stderr.isTTY) process.stderr.write(`\r${i + 1}/${endings}`);
}
const kept = readFileSync(join(folder, 'rulings.yaml'), 'utf8');
const lost = [...done].filter((item) => !kept.includes(item));
for (const item of items.filter((one) => kept.includes(`item: ${one}\n`)))
  await run(whole, ['sign', item, '--as', 'passed', '--why', 'seen', '--by', 'Ada']);
await run(folder, ['add', ...ADDED]);
const same = (await judged(whole)) === (await judged(folder));
const left = readdirSync(folder, { recursive: true }).filter((name) => String(name).includes('.incoming'));
console.log(
  `${endings} endings: ${done.size} decisions were said to be done, ${lost.length} of them lost; the judgement is ${same ? 'the same' : 'another one'}; ${left.length} half-written files are left`,
);
rmSync(scratch, { recursive: true });
process.exit(lost.length === 0 && same && left.length === 0 ? 0 : 1);
