// `npm run bench -- apps`: sample apps of Debian's sources, as a first-time user would have them judged: `start`, `add`, `judge`, each with its time and
// what was found by check. The share of true findings is read by eye and stands in docs/accuracy.md.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { sourceFolder } from './corpora.mjs';
import { root } from './setup.mjs';

const APPS = [
  'examples/tests/a2dp.Vol_137.apk',
  'examples/tests/com.android.example.text.styling.apk',
  'examples/tests/com.example.android.tvleanback.apk',
  'examples/tests/com.example.android.wearable.wear.weardrawers.apk',
  'examples/tests/com.teleca.jamendo_35.apk',
  'examples/tests/com.test.intent_filter.apk',
  'examples/tests/hello-world.apk',
  'examples/tests/lineageos_nexus5_framework-res.apk',
  'examples/android/abcore/app-prod-debug.apk',
];

export function benchApps() {
  const folder = sourceFolder('samples');
  if (!folder) return 1;
  const fenlok = join(root, 'dist/bin/fenlok.js');
  for (const app of APPS) {
    const file = join(folder, app);
    if (!existsSync(file)) continue;
    const work = mkdtempSync(join(tmpdir(), 'fenlok-apps-'));
    try {
      const begun = performance.now();
      for (const words of [
        ['start', file],
        ['add', file],
        ['judge', '--json'],
      ])
        spawnSync(process.execPath, [fenlok, ...words], { cwd: work, stdio: 'ignore' });
      const seconds = (performance.now() - begun) / 1000;
      const judgement = JSON.parse(readFileSync(join(work, 'dossier/report/judgement.json'), 'utf8'));
      const counts = new Map();
      for (const { basis, check } of judgement.findings) {
        const of = counts.get(check) ?? { measured: 0, estimated: 0 };
        counts.set(check, { ...of, [basis]: of[basis] + 1 });
      }
      console.log(
        `\n${basename(file)}  ${(statSync(file).size / 2 ** 20).toFixed(1)} MiB, ${seconds.toFixed(1)} s`,
      );
      for (const [check, { estimated, measured }] of counts)
        console.log(
          `  ${check.padEnd(24)} ${String(measured).padStart(5)} measured ${String(estimated).padStart(5)} estimated`,
        );
    } finally {
      rmSync(work, { recursive: true, force: true });
    }
  }
  return 0;
}
