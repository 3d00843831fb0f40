// Set-up shared by `npm run demo`, `npm test` and CI. Runs with nothing installed: Node built-ins only.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const say = (text) => process.stderr.write(`set-up: ${text}\n`);

/** Installs the npm packages of the lock file, unless exactly these are installed; no script of theirs is run. */
export function installNpmPackages() {
  const stamp = join(root, 'node_modules', '.fenlok-lock');
  const wanted = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('installing the npm packages of package-lock.json (npm ci) …');
  execFileSync('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 2, 2],
  });
  writeFileSync(stamp, wanted);
}

/**
 * Compiles src/ to dist/, with the keys that facts are kept by, and bundles the command; incremental, so it costs little when
 * nothing changed.
 */
export async function build() {
  const tsc = join(root, 'node_modules', 'typescript', 'bin', 'tsc');
  const run = spawnSync(process.execPath, [tsc, '-p', 'tsconfig.build.json'], {
    cwd: root,
    encoding: 'utf8',
  });
  if (run.status !== 0) {
    process.stderr.write(run.stdout + run.stderr);
    process.exit(1);
  }
  const { writeEvidenceKeys } = await import('./evidence-keys.mjs');
  writeEvidenceKeys(join(root, 'dist'));
  const { bundleCommand } = await import('./bundle.mjs');
  await bundleCommand();
}

// Debian's packages that some tests hold Fenlok against, and what is left out where one is missing.
const NATIVE_TOOLS = [
  {
    path: '/usr/bin/chromium',
    packages: ['chromium'],
    without: 'tests that open pages (report page, captures laid out by a browser)',
  },
  {
    path: '/usr/bin/adb',
    packages: ['adb'],
    without: "tests that drive the stand-in phone with Debian's bridge client",
  },
  {
    path: '/usr/bin/aapt2',
    packages: ['aapt'],
    without: 'tests that compare the package reader with aapt2, or rebuild the demo app',
  },
  {
    path: '/usr/bin/apksigner',
    packages: ['apksigner'],
    without: 'tests that verify signatures beside it, or rebuild the demo app',
  },
  {
    path: '/usr/bin/javac',
    packages: ['default-jdk-headless'],
    without: "the test of signatures beside the platform's own verifier",
  },
  {
    path: '/usr/bin/openssl',
    packages: ['openssl'],
    without: 'tests that read transactions signed with a chain of its own',
  },
  {
    path: '/usr/bin/llvm-objdump',
    packages: ['llvm'],
    without: 'tests that compare the reader of iOS code with llvm-nm and llvm-objdump',
  },
  {
    path: '/usr/bin/plistutil',
    packages: ['libplist-utils'],
    without: 'tests that compare the reader of property lists with plistutil',
  },
  {
    path: '/usr/bin/msgfmt',
    packages: ['gettext'],
    without: 'tests that compare the reader of PO files with msgfmt',
  },
  {
    path: '/usr/bin/pdftoppm',
    packages: ['poppler-utils'],
    without: 'the test that prints the report page',
  },
  {
    path: '/usr/bin/rsync',
    packages: ['rsync'],
    without: 'the test that runs an example for a CI service by a runner of its form',
  },
  {
    path: '/usr/bin/mksh',
    packages: ['mksh'],
    without: "tests that compare the stand-in phone's shell with the one that phones have",
  },
  {
    path: '/usr/bin/toybox',
    packages: ['toybox'],
    without: "tests that compare the stand-in phone's tools with those that phones have",
  },
  { path: '/usr/bin/zipalign', packages: ['zipalign'], without: 'tests that rebuild the demo app' },
  {
    path: '/usr/bin/curl',
    packages: ['curl'],
    without: 'the test that sends through the push gateway with curl',
  },
  {
    path: '/usr/bin/dexdump',
    packages: ['dexdump'],
    without: 'tests that compare the code reader with dexdump',
  },
  {
    path: '/usr/share/java/smali.jar',
    packages: ['libsmali-java'],
    without: 'tests that rebuild the demo app',
  },

  {
    path: '/usr/share/java/retrace.jar',
    packages: ['libproguard-java'],
    without: 'tests that hold stacks with their names given back against another program',
  },
  {
    path: '/usr/share/android-framework-res/framework-res.apk',
    packages: ['android-framework-res'],
    without: 'tests on the framework resource package, and those that rebuild the demo app',
  },
];

/**
 * Installs the native tools on Debian as root; elsewhere names what is missing.
 * With CI set, a tool that is still missing ends the run.
 */
export function installNativeTools() {
  const missing = () => NATIVE_TOOLS.filter((tool) => !existsSync(tool.path));
  if (missing().length > 0 && process.getuid?.() === 0 && existsSync('/etc/debian_version')) {
    const packages = [...new Set(missing().flatMap((tool) => tool.packages))];
    say(`installing Debian packages for the tests: ${packages.join(', ')} …`);
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    const apt = (...args) => spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 2], env }).status === 0;
    apt('update', '-q');
    apt('install', '-y', '-q', '--no-install-recommends', ...packages);
  }
  for (const tool of missing())
    say(`${tool.path} is missing (${tool.packages.join(', ')}); left out: ${tool.without}`);
  if (missing().length > 0 && process.env.CI) {
    say('CI is set, so nothing may be left out. Install the packages named above and run again.');
    process.exit(1);
  }
}
