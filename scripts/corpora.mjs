// Corpora that are data for tests and figures, and no part of the project: Debian's source packages, fetched with an apt
// configuration of their own, and npm packages that ship built frameworks, into .corpora/, once, and checked by their
// digest. Node built-ins only.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
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
  // translations: of a program in Python, and of names of countries and languages in some 150 languages
  'texts-python': {
    suite: 'trixie',
    source: 'deluge=2.2.0-1',
    file: 'deluge_2.2.0.orig.tar.xz',
    sha256: 'a3c8e48806eca331945947ae6d5e2bac61411664d23b3e061d72bf8b50a34e3c',
  },
  'texts-c': {
    suite: 'trixie',
    source: 'coreutils=9.7-3',
    file: 'coreutils_9.7.orig.tar.xz',
    sha256: 'e8bb26ad0293f9b5a1fc43fb42ba970e312c66ce92c1b0b16713d7500db251bf',
  },
  'texts-names': {
    suite: 'trixie',
    source: 'iso-codes=4.18.0-1',
    file: 'iso-codes_4.18.0.orig.tar.xz',
    sha256: '066bc4df7bf299561856a07119cde01d563c8c4c39906537a39363bb833d466c',
  },
  // frameworks for iOS: signed by a developer, and signed for distribution
  'signed-framework': {
    npm: '@pagopa/react-native-cie@1.5.0',
    sha256: '3d8e8ec7f61fccaa198edb2a604e3c39f1e3457bb3ba25eedfc015ded3d02c4e',
  },
  'signed-frameworks': {
    npm: '@jonit-dev/capacitor-plugin-facebook-analytics@1.0.6',
    sha256: '3765a295a47c350383a68579bd3efc0120c9a6298de301e578876fabc2840610',
  },
  // not signed, with compiled asset catalogues and interface files
  'assets-2017': {
    npm: 'cordova-plugin-document-scanner@4.2.7',
    sha256: '7de73a0b3050cea34ca6fca44228b847cd04160e2141a3824a04e0b2ca03d4ee',
  },
  'assets-2023': {
    npm: '@gooddollar/react-native-facetec@1.1.1',
    sha256: 'cd90d964e85a2ae170e97e815b49363b367a5cb20fde058f7c4818a93723ac8b',
  },
  // the platform's public classes as types, with the level since which each is there
  'android-types': {
    npm: '@nativescript/types-android@9.1.1',
    sha256: '16193ea9c70286d5b0d3e2dc559abb483ad61fb599219c59d1a4146fe370b25a',
  },
  'ios-types': {
    npm: '@nativescript/types-ios@9.1.2',
    sha256: '1c917c0945f304eae6b96d41a623c4c9c875e567d1666fa5a8fd69b0d16c2672',
  },
  'assets-2024': {
    npm: 'react-native-customui@2.2.8',
    sha256: 'd5e48062f088a0b027eefeb5a4af1a34bded85335f3aa60351372b03779c5185',
  },
  // pages in HTML that others drew, with their pictures and icon typefaces; all under the MIT licence
  'pages-creative': {
    npm: 'startbootstrap-creative@7.0.7',
    sha256: '746c2e46c5292e797358c90533ed695fbeb6ceff58ad7fd43284d93e9c3d0555',
  },
  'pages-agency': {
    npm: 'startbootstrap-agency@7.0.12',
    sha256: 'bc49d5677d6fd30ee77ce33c3baad729494153ffd94a893992414f2a8e8fecd4',
  },
  'pages-grayscale': {
    npm: 'startbootstrap-grayscale@7.0.6',
    sha256: 'adaa6fe67f6b58b645486648176734c8e421f291c23739904665fb16c8407eff',
  },
  'pages-blog': {
    npm: 'startbootstrap-clean-blog@6.0.9',
    sha256: '5c65d4e2d5705e29c6a144b7fa301f8ead8e976f5c4575fb6f1023ec673018a9',
  },
  'pages-landing': {
    npm: 'startbootstrap-landing-page@6.0.6',
    sha256: '0e4a29e63274ec0435352b45a825af81ebce444bd6db7f4901f512425dbdc407',
  },
  'pages-admin': {
    npm: 'startbootstrap-sb-admin-2@4.1.4',
    sha256: '5cb4d3875078a735953af3b1b12ed8271f1bcbb73ec0cb793d5ee81d22881b0f',
  },
  'pages-soft': {
    npm: 'soft-ui-dashboard@1.0.1',
    sha256: 'a829e661517184f7a7a84f6cc86efa17a65d91e30807b6d2bf631bb34d94f1ee',
  },
  'pages-soft-sections': {
    npm: 'soft-ui-design-system@1.0.4',
    sha256: 'b999a9fe6dc31469bcb498c9d0560ac17060d76957abe7f1cb1c2dddf61a5095',
  },
  'pages-black': {
    npm: 'black-dashboard@1.0.0',
    sha256: '7cc29cb6bfaff6f9b580dc9deae6d6c5862c469c7397716b4f8249971c636cb0',
  },
  'pages-ios-lists': {
    npm: 'ratchet-npm@2.0.4',
    sha256: '8064cf6ee9587289bce04acd4f625b0caa90722cb590448311a582b5281702f4',
  },
  'pages-argon': {
    npm: 'argon-design-system-free@1.2.0',
    sha256: '0ec937277280d61ce0b54e029543d1719c1d731ee85bcd2582a7757e31a618ea',
  },
  'pages-paper': {
    npm: 'paper-kit-2@2.1.0',
    sha256: 'ea262b722403d0b838682218476775fe6500d13bc2b265000837cb613c8e7657',
  },
  'pages-material': {
    npm: 'material-kit@2.0.4',
    sha256: '543712c988b2697c61a7ef6c9527ebf850b21b56e1bdfd7258fc6d333f725602',
  },
  'pages-material-admin': {
    npm: 'material-dashboard@3.1.0',
    sha256: '424b8c15e9446bae383106122e22e37a349139ee6fb4b94e214a6ffabc8b41b0',
  },
  'pages-mobile': {
    npm: 'jquery-mobile@1.4.1',
    sha256: 'bbd66a81ecad8a992c7790165941dcd5a315140b8fa2d8e223914e0a6c9a50b4',
  },
  'pages-tabler': {
    npm: 'tabler-ui@0.0.34',
    sha256: '04167737bbd743dc4f504b5a0f38bf0afe3e79b75352f057c22dbd79d276c899',
  },
  'pages-gentelella': {
    npm: 'gentelella@4.2.0',
    sha256: '42868c216515716c1f958d86459965b2d978d717eac912e456a2c540fed1e25d',
  },
};

/** By name: a binary package without dependencies, of a suite beside this machine's. */
const BINARIES = {
  // the platform's public classes at level 23
  'android-23': {
    suite: 'bullseye',
    binary: 'libandroid-23-java=6.0.1+r72-6',
    sha256: '8af1b6df556971dda0a6da3536ea526a838e0c363afcdd454213d8bce94793e3',
  },
};

/**
 * Unpacks a package, fetched where it is not there yet.
 *
 * @returns its folder; undefined, with the reason on standard error, where it cannot be had here
 */
export function sourceFolder(name) {
  const { binary, npm, sha256, source } = SOURCES[name] ?? BINARIES[name];
  const place = join(folder, name);
  const stamp = join(place, '.sha256');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sha256) return place;
  const no = (why) =>
    void process.stderr.write(`corpora: ${npm ?? source ?? binary} cannot be had here: ${why}\n`);
  const fetched = npm
    ? fetchFromNpm(npm, no)
    : binary
      ? fetchBinary(BINARIES[name], no)
      : fetchFromDebian(SOURCES[name], no);
  if (!fetched) return undefined;
  if (createHash('sha256').update(readFileSync(fetched)).digest('hex') !== sha256)
    return no(`${basename(fetched)} is not the file that was meant`);
  rmSync(place, { recursive: true, force: true });
  mkdirSync(place, { recursive: true });
  const unpacked = binary
    ? spawnSync('dpkg-deb', ['-x', fetched, place])
    : spawnSync('tar', ['xf', fetched, '-C', place, '--strip-components=1']);
  if (unpacked.status !== 0) return no(`${basename(fetched)} cannot be unpacked`);
  writeFileSync(stamp, sha256);
  return place;
}

function fetchFromNpm(wanted, no) {
  const npmFolder = join(folder, 'npm');
  mkdirSync(npmFolder, { recursive: true });
  const packed = spawnSync(
    'npm',
    ['pack', '--ignore-scripts', '--json', '--pack-destination', npmFolder, wanted],
    {
      encoding: 'utf8',
      timeout: 180_000,
    },
  );
  if (packed.status !== 0) return no('npm did not fetch it');
  return join(npmFolder, JSON.parse(packed.stdout)[0].filename.replace(/^@/, '').replaceAll('/', '-'));
}

function fetchFromDebian({ file, source, suite }, no) {
  // apt ends with an error where a sister file is gone; what counts is this file
  const aptFolder = askApt('deb-src', suite, ['source', '--download-only', '-q', source]);
  if (!aptFolder) return no('no Debian archive is configured on this machine');
  const fetched = join(aptFolder, file);
  return existsSync(fetched) ? fetched : no(`${file} was not fetched`);
}

function fetchBinary({ binary, suite }, no) {
  const aptFolder = askApt('deb', suite, ['download', '-q', binary]);
  if (!aptFolder) return no('no Debian archive is configured on this machine');
  const name = binary.split('=')[0];
  const file = readdirSync(aptFolder).find((one) => one.startsWith(`${name}_`) && one.endsWith('.deb'));
  return file ? join(aptFolder, file) : no(`${name} was not fetched`);
}

/** @returns the folder into which it fetched; undefined where no archive is known */
function askApt(kind, suite, args) {
  const aptFolder = join(folder, kind === 'deb' ? 'apt-binary' : 'apt');
  const lines = archiveLines(kind, suite);
  if (lines.length === 0) return undefined;
  for (const part of ['state/lists/partial', 'cache/archives/partial'])
    mkdirSync(join(aptFolder, part), { recursive: true });
  writeFileSync(join(aptFolder, 'sources.list'), `${lines.join('\n')}\n`);
  writeFileSync(
    join(aptFolder, 'apt.conf'),
    `Dir::State "${aptFolder}/state";\nDir::Cache "${aptFolder}/cache";\n` +
      `Dir::Etc::SourceList "${aptFolder}/sources.list";\nDir::Etc::SourceParts "/dev/null";\nAPT::Sandbox::User "root";\n`,
  );
  const apt = (...words) =>
    spawnSync('apt-get', words, {
      cwd: aptFolder,
      stdio: 'ignore',
      timeout: 180_000,
      env: { ...process.env, APT_CONFIG: join(aptFolder, 'apt.conf') },
    });
  apt('update', '-q');
  apt(...args);
  return aptFolder;
}

/** From where the machine takes its own packages, those of another suite. */
function archiveLines(kind, suite) {
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
  return archive ? [`${kind} [signed-by=${signed}] ${archive} ${suite} main`] : [];
}
