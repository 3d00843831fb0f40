// `npm run bench -- growth`: how long a call takes to start, and how judging grows with the number of captures, measured and
// kept. The captures are those of the demo under the names of more and more devices.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  cpSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { root } from './setup.mjs';

const bin = join(root, 'dist/bin/fenlok.js');
const SIZES = [250, 500, 1000, 2000];
const COLD_SIZES = [60, 120, 240];
const ROUNDS = 9;

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const timeMs = (...args) => {
  const start = performance.now();
  spawnSync(process.execPath, args, { stdio: 'ignore' });
  return performance.now() - start;
};

export function benchGrowth() {
  const work = mkdtempSync(join(tmpdir(), 'fenlok-growth-'));
  try {
    startUp();
    execFileSync(process.execPath, [bin, 'demo', '--out', join(work, 'demo')], { stdio: 'ignore' });
    judging('judging again, nothing changed', SIZES, work, (folder) => {
      judge(folder);
      return [judge(folder), judge(folder), judge(folder)];
    });
    judging('judging for the first time', COLD_SIZES, work, (folder) => {
      for (const room of ['facts', 'cuts'])
        rmSync(join(folder, 'dossier', room), { recursive: true, force: true });
      return [judge(folder)];
    });
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** In turns, so that what else the machine does falls on all alike. */
function startUp() {
  const calls = [['--version'], ['--help'], ['try', 'contrast', '#000000', '#ffffff'], ['judge', '--help']];
  const ratios = calls.map(() => []);
  for (let round = 0; round < ROUNDS; round++) {
    const alone = timeMs('-e', '0');
    for (const [i, call] of calls.entries()) ratios[i].push(timeMs(bin, ...call) / alone);
  }
  console.log(
    `\nstarting, as a multiple of an empty Node.js (median of ${ROUNDS} rounds, on ${availableParallelism()} cores)`,
  );
  for (const [i, call] of calls.entries())
    console.log(
      `  fenlok ${call.join(' ').padEnd(34)} ${median(ratios[i]).toFixed(1).padStart(5)}   (wanted: at most 2.0)`,
    );
}

function judge(folder) {
  const start = performance.now();
  spawnSync(process.execPath, [bin, 'judge'], { cwd: folder, stdio: 'ignore' });
  return performance.now() - start;
}

function judging(title, sizes, work, measure) {
  console.log(`\n${title}`);
  const points = sizes.map((size) => {
    const folder = join(work, `of-${size}`);
    multiply(join(work, 'demo'), folder, size);
    const ms = median(measure(folder));
    rmSync(folder, { recursive: true });
    console.log(
      `  ${String(size).padStart(5)} captures ${(ms / 1000).toFixed(1).padStart(7)} s   ${(ms / size).toFixed(1)} ms each`,
    );
    return [Math.log(size), Math.log(ms)];
  });
  console.log(`  grows with the power ${slopeOf(points).toFixed(2)} of their number`);
}

function slopeOf(points) {
  const mean = (k) => points.reduce((sum, point) => sum + point[k], 0) / points.length;
  const [x, y] = [mean(0), mean(1)];
  const above = points.reduce((sum, [px, py]) => sum + (px - x) * (py - y), 0);
  return above / points.reduce((sum, [px]) => sum + (px - x) ** 2, 0);
}

/** A project with so many captures, each with the facts that were measured on its original. */
function multiply(from, to, size) {
  mkdirSync(to, { recursive: true });
  for (const name of ['fenlok.yaml', 'networks', 'push', 'sales', 'dossier'])
    cpSync(join(from, name), join(to, name), { recursive: true });
  const captures = join(to, 'dossier/captures');
  const originals = readdirSync(captures).sort();
  for (const extra of originals.slice(size)) rmSync(join(captures, extra), { recursive: true });
  for (let i = originals.length; i < size; i++) {
    const original = originals[i % originals.length];
    const device = `device-${Math.floor(i / originals.length)}`;
    const name = createHash('sha256').update(`${device} ${original}`).digest('hex').slice(0, 16);
    const rename = (text) =>
      text.replaceAll(original, name).replace(/("device": ?)"[^"]*"/g, `$1"${device}"`);
    mkdirSync(join(captures, name));
    for (const file of readdirSync(join(captures, original)).filter((one) => one !== 'digest')) {
      const [source, place] = [join(captures, original, file), join(captures, name, file)];
      if (file === 'capture.json') writeFileSync(place, rename(readFileSync(source, 'utf8')));
      else linkSync(source, place);
    }
    const facts = join(to, 'dossier/facts');
    const [head, ...lines] = readFileSync(join(facts, `${original}.jsonl`), 'utf8').split('\n');
    const { count, key, ...rest } = JSON.parse(head);
    const renamed = rename(lines.join('\n'));
    const digest = createHash('sha256').update(`${key}\n${count}\n${renamed}`).digest('hex');
    writeFileSync(
      join(facts, `${name}.jsonl`),
      `${JSON.stringify({ ...rest, key, count, digest })}\n${renamed}`,
    );
  }
}
