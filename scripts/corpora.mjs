// Corpora that are data for tests and figures, and no part of the project: Debian's source packages, fetched with an apt
// configuration of their own into .corpora/, once, and checked by their digest. Node built-ins only.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './setup.mjs';

const folder = join(root, '.corpora');

/** By name: the file of a source package that is wanted, and what it must be. */
export const SOURCES = {
  signatures: {
    suite: 'trixie',
    source: 'android-platform-tools-apksig=35.0.2-1',
    file: 'android-platform-tools-apksig_35.0.2.orig.tar.gz',
    sha256: '5555168fc8f8d84c1964508e877a0ace5b642f736212473c03ecd252dd3ba25b',
  },
  // sample apps among the test data of a tool that reads packages
  samples: {
    suite: 'bookworm',
    source: 'androguard=3.4.0~a1-6',
    file: 'androguard_3.4.0~a1.orig.tar.gz',
    sha256: '9af53333d3d69bc79bf353cd44876c5244d53398ec6857b1b191d63dc6ec04f5',
  },
};

/**
 * Unpacks a source package, fetched where it is not there yet.
 *
 * @returns its folder; undefined, with the reason on standard error, where it cannot be had here
 */
export function sourceFolder(name) {
  const { file, sha256, source, suite } = SOURCES[name];
  const place = join(folder, name);
  const stamp = join(place, '.sha256');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sha256) return place;
  const no = (why) => void process.stderr.write(`corpora: ${source} cannot be had here: ${why}\n`);
  const aptFolder = join(folder, 'apt');
  const lines = debSourceLines(suite);
  if (lines.length === 0) return no('no Debian archive is configured on this machine');
  for (const part of ['state/lists/partial', 'cache/archives/partial'])
    mkdirSync(join(aptFolder, part), { recursive: true });
  writeFileSync(join(aptFolder, 'sources.list'), `${lines.join('\n')}\n`);
  writeFileSync(
    join(aptFolder, 'apt.conf'),
    `Dir::State "${aptFolder}/state";\nDir::Cache "${aptFolder}/cache";\n` +
      `Dir::Etc::SourceList "${aptFolder}/sources.list";\nDir::Etc::SourceParts "/dev/null";\nAPT::Sandbox::User "root";\n`,
  );
  const apt = (...args) =>
    spawnSync('apt-get', args, {
      cwd: aptFolder,
      stdio: 'ignore',
      timeout: 180_000,
      env: { ...process.env, APT_CONFIG: join(aptFolder, 'apt.conf') },
    });
  apt('update', '-q');
  // apt ends with an error where a sister file is gone; what counts is this file
  apt('source', '--download-only', '-q', source);
  const fetched = join(aptFolder, file);
  if (!existsSync(fetched)) return no(`${file} was not fetched`);
  if (createHash('sha256').update(readFileSync(fetched)).digest('hex') !== sha256)
    return no(`${file} is not the file that was meant`);
  rmSync(place, { recursive: true, force: true });
  mkdirSync(place, { recursive: true });
  const tar = spawnSync('tar', ['xf', fetched, '-C', place, '--strip-components=1']);
  if (tar.status !== 0) return no(`${file} cannot be unpacked`);
  writeFileSync(stamp, sha256);
  return place;
}

/** From where the machine takes its binary packages, sources of another suite. */
function debSourceLines(suite) {
  const configured = '/etc/apt/sources.list.d';
  const files = ['/etc/apt/sources.list']
    .concat(existsSync(configured) ? readdirSync(configured).map((name) => join(configured, name)) : [])
    .filter((path) => /\.(list|sources)$/.test(path) && existsSync(path))
    .map((path) => readFileSync(path, 'utf8'));
  const uris = files.flatMap((text) => [
    ...[...text.matchAll(/^URIs:\s*(\S+)/gm)].map(([, uri]) => uri),
    ...[...text.matchAll(/^deb\s+(?:\[[^\]]*\]\s+)?(\S+)/gm)].map(([, uri]) => uri),
  ]);
  const archive = uris.find((uri) => /\/debian\/?$/.test(uri));
  const signed = '/usr/share/keyrings/debian-archive-keyring.gpg';
  return archive ? [`deb-src [signed-by=${signed}] ${archive} ${suite} main`] : [];
}
