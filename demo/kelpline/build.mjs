// Packs Kelpline's Android sources into an APK with the platform's own tools (Debian: aapt, zipalign,
// apksigner, libsmali-java, android-framework-res).
//   node demo/kelpline/build.mjs [--sources DIR] [--out FILE]
import { execFileSync } from 'node:child_process';
import { copyFileSync, existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

const here = dirname(fileURLToPath(import.meta.url));
const { values } = parseArgs({ options: { sources: { type: 'string' }, out: { type: 'string' } } });
const sources = resolve(values.sources ?? join(here, 'android'));
const out = resolve(values.out ?? join(here, 'kelpline.apk'));
const FRAMEWORK = '/usr/share/android-framework-res/framework-res.apk';
const JAVA = '/usr/share/java';
const SMALI = `${JAVA}/smali.jar`;

for (const needed of [FRAMEWORK, SMALI])
  if (!existsSync(needed)) {
    console.error(
      `${needed} is missing; on Debian: apt-get install aapt zipalign apksigner libsmali-java android-framework-res`,
    );
    process.exit(3);
  }

const work = mkdtempSync(join(tmpdir(), 'kelpline-'));
try {
  const run = (command, ...args) =>
    execFileSync(command, args, { stdio: ['ignore', 'ignore', 'inherit'], cwd: work });
  run('aapt2', 'compile', '--dir', join(sources, 'res'), '-o', 'compiled.zip');
  run(
    'aapt2',
    'link',
    '-I',
    FRAMEWORK,
    '--manifest',
    join(sources, 'AndroidManifest.xml'),
    '-o',
    'linked.apk',
    'compiled.zip',
  );
  const jars = [
    'smali',
    'smali-util',
    'dexlib2',
    'antlr3-runtime',
    'stringtemplate',
    'jcommander',
    'guava',
    'failureaccess',
  ];
  run(
    'java',
    '-cp',
    jars.map((jar) => `${JAVA}/${jar}.jar`).join(':'),
    'org.jf.smali.Main',
    'assemble',
    '-o',
    'classes.dex',
    join(sources, 'kelpline.smali'),
  );
  run('aapt', 'add', 'linked.apk', 'classes.dex');
  run('zipalign', '-f', '4', 'linked.apk', 'aligned.apk');
  // A key for the demo alone: it guards nothing, so its password may stand here.
  const key = join(here, 'throwaway.keystore');
  run(
    'apksigner',
    'sign',
    '--ks',
    key,
    '--ks-pass',
    'pass:throwaway',
    '--v1-signing-enabled',
    'true',
    '--out',
    'signed.apk',
    'aligned.apk',
  );
  copyFileSync(join(work, 'signed.apk'), out);
  console.error(`built ${out}`);
} finally {
  rmSync(work, { recursive: true, force: true });
}
