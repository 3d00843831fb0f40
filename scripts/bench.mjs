// Speed, as ratios within one run: judging texts and picking variants (bench-texts.mjs), looking at screens (bench-screens.mjs), picking colours in a page (bench-page.mjs), commands of a device (bench-bridge.mjs), links and push messages (bench-links.mjs), purchases (bench-ledger.mjs), and `fenlok read --json` against the platform's own tools that read the same, whole process
// against whole processes, in turns. Needs aapt2, apksigner and the framework resource package (see scripts/setup.mjs).
//   npm run bench [-- --rounds N]
//   npm run bench -- apps    real sample apps of Debian's sources, judged as a newcomer would: time, and what is found by check
//   npm run bench -- candidates  comparing two candidates, and reports
//   npm run bench -- growth  how long a call takes to start, and how judging grows with the number of captures
//   npm run bench -- in-hand look, hold and drill --here on the stand-in phone, against the bare round trips of the same commands
//   npm run bench -- logs    mapping files and logs, beside reading them
//   npm run bench -- truth|plants|real-pages|designs [--seeds 1,2,3] [--count N] [--write]    how far findings on screens can be believed: see bench-truth.mjs
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { benchApps } from './bench-apps.mjs';
import { benchBridge } from './bench-bridge.mjs';
import { benchCandidates } from './bench-candidates.mjs';
import { benchGrowth } from './bench-growth.mjs';
import { benchInHand } from './bench-in-hand.mjs';
import { benchLedger } from './bench-ledger.mjs';
import { benchGateway, benchLinks } from './bench-links.mjs';
import { benchLogs } from './bench-logs.mjs';
import { benchPage } from './bench-page.mjs';
import { benchScreens } from './bench-screens.mjs';
import { bench as benchInside } from './bench-texts.mjs';
import { benchTruth, truthSuites } from './bench-truth.mjs';
import { sourceFolder } from './corpora.mjs';
import { build, installNativeTools, installNpmPackages, root } from './setup.mjs';

if (process.argv[2] === 'apps') {
  installNpmPackages();
  await build();
  process.exit(benchApps());
}

if (process.argv[2] === 'logs') {
  installNpmPackages();
  await build();
  benchLogs();
  process.exit(0);
}

if (process.argv[2] === 'growth') {
  installNpmPackages();
  await build();
  benchGrowth();
  process.exit(0);
}

if (process.argv[2] === 'candidates') {
  installNpmPackages();
  await build();
  await benchCandidates();
  process.exit(0);
}

if (process.argv[2] === 'in-hand') {
  installNpmPackages();
  await build();
  await benchInHand(root);
  process.exit(0);
}

if (truthSuites.includes(process.argv[2])) {
  installNpmPackages();
  installNativeTools();
  process.exit(benchTruth(root, process.argv[2], process.argv.slice(3)));
}

const { values } = parseArgs({ options: { rounds: { type: 'string', default: '7' } } });
installNpmPackages();
installNativeTools();
await build();

const FRAMEWORK = '/usr/share/android-framework-res/framework-res.apk';
for (const needed of ['/usr/bin/aapt2', '/usr/bin/apksigner', FRAMEWORK])
  if (!existsSync(needed)) {
    console.error(`${needed} is missing: there is nothing to measure against`);
    process.exit(3);
  }

const work = mkdtempSync(join(tmpdir(), 'fenlok-bench-'));
const rssFile = join(work, 'rss');
// tells the highest memory of the process at its end
const hook = `data:text/javascript,import{writeFileSync}from'node:fs';process.on('exit',()=>writeFileSync(${JSON.stringify(rssFile)},String(process.resourceUsage().maxRSS)))`;
const bin = join(root, 'dist/bin/fenlok.js');

const timeMs = (command, ...args) => {
  const start = performance.now();
  execFileSync(command, args, { stdio: 'ignore' });
  return performance.now() - start;
};
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const natives = (file) => [
  ['aapt2 dump badging', () => timeMs('aapt2', 'dump', 'badging', file)],
  ['aapt2 dump resources', () => timeMs('aapt2', 'dump', 'resources', file)],
  ['apksigner verify --print-certs', () => timeMs('apksigner', 'verify', '--print-certs', file)],
];

const nodeAloneMs = median(Array.from({ length: 7 }, () => timeMs(process.execPath, '-e', '0')));

function measure(name, file) {
  const runs = [
    ['fenlok read --json', () => timeMs(process.execPath, bin, 'read', '--json', file)],
    ...natives(file),
  ];
  const times = new Map(runs.map(([label]) => [label, []]));
  const ratios = [];
  for (let round = 0; round < Number(values.rounds); round++) {
    const [own, ...theirs] = runs.map(([label, run]) => {
      const ms = run();
      times.get(label).push(ms);
      return ms;
    });
    ratios.push(own / theirs.reduce((sum, ms) => sum + ms, 0));
  }
  timeMs(process.execPath, '--import', hook, bin, 'read', '--json', file);
  const peakMiB = Number(readFileSync(rssFile, 'utf8')) / 1024;
  const { files } = JSON.parse(
    execFileSync(process.execPath, [bin, 'read', '--json', file], { encoding: 'utf8', maxBuffer: 2 ** 28 }),
  );
  const tableMiB = files.find((entry) => entry.name === 'resources.arsc').sizeBytes / 2 ** 20;
  console.log(`\n${name}`);
  for (const [label, list] of times)
    console.log(`  ${label.padEnd(32)} ${median(list).toFixed(0).padStart(6)} ms`);
  console.log(`  (Node.js alone, doing nothing)    ${nodeAloneMs.toFixed(0).padStart(5)} ms`);
  console.log(
    `  ratio to the sum of the three    ${median(ratios).toFixed(2).padStart(6)}   (wanted: at most 0.50)`,
  );
  console.log(
    `  peak memory                      ${peakMiB.toFixed(0).padStart(6)} MiB (wanted: at most ${(2 * tableMiB + 120).toFixed(0)})`,
  );
}

try {
  const signed = join(work, 'framework.apk');
  const key = ['--ks', join(root, 'demo/kelpline/throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  writeFileSync(rssFile, '0');
  execFileSync('apksigner', ['sign', ...key, '--min-sdk-version', '29', '--out', signed, FRAMEWORK], {
    stdio: 'ignore',
  });
  console.log(`median of ${values.rounds} rounds`);
  measure('the framework resource package, signed', signed);
  const samples = sourceFolder('samples');
  for (const name of ['com.example.android.tvleanback', 'lineageos_nexus5_framework-res']) {
    if (!samples) continue;
    const again = join(work, `${name}.apk`);
    const from = join(samples, 'examples/tests', `${name}.apk`);
    // no level below what it runs on: an old one would make both verify entry by entry
    execFileSync('apksigner', ['sign', ...key, '--min-sdk-version', '24', '--out', again, from], {
      stdio: 'ignore',
    });
    measure(`${name}, signed again`, again);
  }
  measure('the APK of the demo', join(root, 'demo/kelpline/kelpline.apk'));
  await benchInside(Number(values.rounds));
  await benchScreens(root, Number(values.rounds));
  await benchLinks(Number(values.rounds));
  await benchGateway();
  await benchLedger(Number(values.rounds));
  await benchPage(root);
  await benchBridge(root, Number(values.rounds));
} finally {
  rmSync(work, { recursive: true, force: true });
}
