import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../../', import.meta.url));
export const demoApk = join(root, 'demo/kelpline/kelpline.apk');
export const demoBundle = join(root, 'demo/kelpline/kelpline.aab');
export const demoIpa = join(root, 'demo/kelpline/kelpline.ipa');
export const demoFolder = join(root, 'demo/kelpline');

export const tools = {
  adb: '/usr/bin/adb',
  chromium: '/usr/bin/chromium',
  aapt2: '/usr/bin/aapt2',
  apksigner: '/usr/bin/apksigner',
  framework: '/usr/share/android-framework-res/framework-res.apk',
  smali: '/usr/share/java/smali.jar',
  dexdump: '/usr/bin/dexdump',
  llvmNm: '/usr/bin/llvm-nm',
  llvmObjdump: '/usr/bin/llvm-objdump',
  mksh: '/usr/bin/mksh',
  msgfmt: '/usr/bin/msgfmt',
  openssl: '/usr/bin/openssl',
  pdftoppm: '/usr/bin/pdftoppm',
  plistutil: '/usr/bin/plistutil',
  proguard: '/usr/share/java/proguard.jar',
  retrace: '/usr/share/java/retrace.jar',
  rsync: '/usr/bin/rsync',
  toybox: '/usr/bin/toybox',
};

/** The assembler of dex files, with what it needs. */
export const smaliJars = [
  'smali',
  'smali-util',
  'dexlib2',
  'antlr3-runtime',
  'stringtemplate',
  'jcommander',
  'guava',
  'failureaccess',
]
  .map((jar) => `/usr/share/java/${jar}.jar`)
  .join(':');

/** Runs the tests that need native tools only where they are; `npm test` has named what is missing, CI refuses. */
export const describeWith = (...needed: (keyof typeof tools)[]): typeof describe =>
  needed.every((tool) => existsSync(tools[tool])) ? describe : (describe.skip as typeof describe);

/** A folder of its own for one test file, gone afterwards. */
export function scratchFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'fenlok-test-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}
