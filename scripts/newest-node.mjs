// `node scripts/newest-node.mjs [--demo]`: the built command under the newest long-term version of Node.js, besides the oldest that is
// supported, which everything else runs under.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fetchNode, NEWEST } from './fetch-node.mjs';
import { root } from './setup.mjs';

const node = fetchNode();
const bin = join(root, 'dist/bin/fenlok.js');

if (!node) leaveOut('its binary could not be fetched');

const work = mkdtempSync(join(tmpdir(), 'fenlok-newest-'));
const apk = join(root, 'demo/kelpline/kelpline.apk');
try {
  run(0, '--version');
  run(0, '--help');
  run(0, 'try', 'contrast', '#000000', '#ffffff');
  run(0, 'read', apk);
  run(0, 'start', apk);
  run(0, 'add', apk);
  run(1, 'judge', '--json');
  const { findings } = JSON.parse(readFileSync(join(work, 'dossier/judgement.json'), 'utf8'));
  if (findings.length === 0) end('judge found nothing in the demo’s package');
  if (process.argv.includes('--demo')) run(0, 'demo', '--out', 'demo');
  console.log(`under Node.js ${NEWEST}: start, add, judge and the others do as they should`);
} finally {
  rmSync(work, { recursive: true, force: true });
}

function run(expected, ...args) {
  const { status, stderr } = spawnSync(node, [bin, ...args], {
    cwd: work,
    encoding: 'utf8',
    maxBuffer: 2 ** 28,
  });
  if (status !== expected) end(`fenlok ${args.join(' ')} ended with ${status}: ${stderr}`);
}

function end(why) {
  console.error(`under Node.js ${NEWEST}: ${why}`);
  rmSync(work, { recursive: true, force: true });
  process.exit(1);
}

function leaveOut(why) {
  console.error(`not tried under Node.js ${NEWEST}: ${why}`);
  process.exit(0);
}
