// Packs Kelpline's Android sources into an APK and an app bundle with the platform's own tools (Debian: aapt, zipalign,
// apksigner, libsmali-java, android-framework-res; for the bundle unzip too).
//   node demo/kelpline/build.mjs [--sources DIR] [--patch FILE] [--out FILE.apk] [--apk-only]
import { execFileSync } from 'node:child_process';
import {
  copyFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

const here = dirname(fileURLToPath(import.meta.url));
const { values } = parseArgs({
  options: {
    sources: { type: 'string' },
    patch: { type: 'string' },
    out: { type: 'string' },
    'apk-only': { type: 'boolean' },
  },
});
const out = resolve(values.out ?? join(here, 'kelpline.apk'));
const FRAMEWORK = '/usr/share/android-framework-res/framework-res.apk';
const LIBRARY = 'lib/arm64-v8a/libtides.so';
const JAVA = '/usr/share/java';
const SMALI_JARS = [
  'smali',
  'smali-util',
  'dexlib2',
  'antlr3-runtime',
  'stringtemplate',
  'jcommander',
  'guava',
  'failureaccess',
].map((jar) => `${JAVA}/${jar}.jar`);

for (const needed of [FRAMEWORK, SMALI_JARS[0]])
  if (!existsSync(needed)) {
    console.error(
      `${needed} is missing; on Debian: apt-get install aapt zipalign apksigner libsmali-java android-framework-res`,
    );
    process.exit(3);
  }

const work = mkdtempSync(join(tmpdir(), 'kelpline-'));
const run = (command, ...args) =>
  execFileSync(command, args, { stdio: ['ignore', 'ignore', 'inherit'], cwd: work });
const sources = sourcesOf(resolve(values.sources ?? join(here, 'android')), values.patch);

/** The sources; with what a patch makes of a copy of them. */
function sourcesOf(given, patch) {
  if (!patch) return given;
  cpSync(given, join(work, 'android'), { recursive: true });
  run('git', 'apply', '--whitespace=nowarn', resolve(patch));
  return join(work, 'android');
}

/** Attributes that the platform package is too old to know. */
function buildPlatform() {
  run('aapt2', 'compile', '--dir', join(sources, 'platform/res'), '-o', 'platform.zip');
  run(
    'aapt2',
    'link',
    '--manifest',
    join(sources, 'platform/AndroidManifest.xml'),
    '-o',
    'platform.apk',
    'platform.zip',
  );
}

function link(file, ...options) {
  const manifest = join(sources, 'AndroidManifest.xml');
  run(
    'aapt2',
    'link',
    '-I',
    'platform.apk',
    '-I',
    FRAMEWORK,
    '--manifest',
    manifest,
    '-o',
    file,
    ...options,
    'app.zip',
  );
}

/** The code names resources as `@string/title`; the packer has given them numbers. */
function assemble() {
  const ids = new Map(
    [...readFileSync(join(work, 'ids.txt'), 'utf8').matchAll(/:(\w+\/\w+) = (0x[0-9a-f]+)/g)].map(
      ([, name, id]) => [name, id],
    ),
  );
  mkdirSync(join(work, 'smali'));
  for (const file of readdirSync(join(sources, 'smali'))) {
    const text = readFileSync(join(sources, 'smali', file), 'utf8').replace(/@(\w+\/\w+)/g, (_, name) => {
      if (!ids.has(name)) throw new Error(`${file}: there is no resource ${name}`);
      return ids.get(name);
    });
    writeFileSync(join(work, 'smali', file), text);
  }
  run('java', '-cp', SMALI_JARS.join(':'), 'org.jf.smali.Main', 'assemble', '-o', 'classes.dex', 'smali');
}

/** A key for the demo alone: it guards nothing, so its password may stand here. */
function sign(file, signed, ...options) {
  const key = ['--ks', join(here, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  run('apksigner', 'sign', ...key, '--v1-signing-enabled', 'true', ...options, '--out', signed, file);
}

/** A native library with no code: header and one loadable segment. Planted: aligned to pages of 4 KB. */
function nativeLibrary() {
  const elf = Buffer.alloc(64 + 56);
  elf.set([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1]);
  elf.writeUInt16LE(3, 16);
  elf.writeUInt16LE(0xb7, 18);
  elf.writeUInt32LE(1, 20);
  elf.writeBigUInt64LE(64n, 32);
  for (const [at, value] of [
    [52, 64],
    [54, 56],
    [56, 1],
  ])
    elf.writeUInt16LE(value, at);
  elf.writeUInt32LE(1, 64);
  elf.writeUInt32LE(5, 68);
  for (const at of [64 + 32, 64 + 40]) elf.writeBigUInt64LE(BigInt(elf.length), at);
  elf.writeBigUInt64LE(4096n, 64 + 48);
  mkdirSync(join(work, 'lib/arm64-v8a'), { recursive: true });
  writeFileSync(join(work, LIBRARY), elf);
}

function buildApk() {
  link('linked.apk', '--emit-ids', 'ids.txt');
  assemble();
  nativeLibrary();
  run('aapt', 'add', 'linked.apk', 'classes.dex', LIBRARY);
  run('zipalign', '-f', '4', 'linked.apk', 'aligned.apk');
  sign('aligned.apk', 'signed.apk');
  copyFileSync(join(work, 'signed.apk'), out);
  console.error(`built ${out}`);
}

/** The same sources in the protobuf forms, laid out as one module, signed as bundles are: by v1 alone. */
function buildBundle() {
  link('proto.apk', '--proto-format', '--stable-ids', 'ids.txt');
  run('unzip', '-q', 'proto.apk', '-d', 'base');
  mkdirSync(join(work, 'base/manifest'));
  mkdirSync(join(work, 'base/dex'));
  renameSync(join(work, 'base/AndroidManifest.xml'), join(work, 'base/manifest/AndroidManifest.xml'));
  cpSync(join(work, 'classes.dex'), join(work, 'base/dex/classes.dex'));
  cpSync(join(work, LIBRARY), join(work, 'base', LIBRARY));
  // field 1, the tool's version, left empty
  writeFileSync(join(work, 'BundleConfig.pb'), Uint8Array.of(0x0a, 0x00));
  const files = readdirSync(join(work, 'base'), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name).slice(work.length + 1));
  run('aapt', 'add', 'bundle.aab', 'BundleConfig.pb', ...files);
  sign(
    'bundle.aab',
    'signed.aab',
    '--min-sdk-version',
    '26',
    '--v2-signing-enabled',
    'false',
    '--v3-signing-enabled',
    'false',
  );
  const bundle = out.replace(/\.apk$/, '.aab');
  copyFileSync(join(work, 'signed.aab'), bundle);
  console.error(`built ${bundle}`);
}

try {
  run('aapt2', 'compile', '--dir', join(sources, 'res'), '-o', 'app.zip');
  buildPlatform();
  buildApk();
  if (!values['apk-only']) buildBundle();
} finally {
  rmSync(work, { recursive: true, force: true });
}
