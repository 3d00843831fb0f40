// Corpora that are data for tests and figures, and no part of the project: Debian's source packages, fetched with an apt
// configuration of their own, and npm packages that ship built frameworks, into .corpora/, once, and checked by their
// digest. Node built-ins only.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  linkSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { basename, dirname, join } from 'node:path';
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

/** Type designs under the SIL Open Font Licence, one under Ubuntu's: version and digest of each npm package. */
export const DESIGNS = {
  'open-sans': ['0.4.2', '95d4fdbbb2862c4cc05dff55212730394d9af312b685cab740811c1ce7c4e5be'],
  lato: ['0.4.1', '5cb54872e0134d491496bf10fa0afa305894f752f3ed6d4fa2f3f46a93545ed4'],
  montserrat: ['0.4.2', '27dfd624c74ba3240597a643d580ea8fe043eda17aceeee50364e08d542cd78e'],
  'source-sans-3': ['0.4.1', 'eb41834f563921e19b18b40bc924b97110983aef800d9cb67b9186f546311828'],
  poppins: ['0.4.1', 'de5ee7515fec3f68ce73aea4ceec8dee1d51434a3791bcdf1b994e76385a3c89'],
  nunito: ['0.4.2', '0587c2bb273575fcd9238db5ea4405a65cb4f7ae8fcadfbef059c1b16ef8e773'],
  raleway: ['0.4.2', 'b14edd97966622c3ecab0ab5e0532b9f8c892d1ea7cc3e391709137bee4e227d'],
  'work-sans': ['0.4.2', '083565de2d4754cacddbb51cfd5ba436b2ad368daf6c0c4d2ed40b3cc3323a73'],
  rubik: ['0.4.2', '195ab5af501f14f7a403a77555bfba61fd1601c2c7f5d55fbcbb2ce7b4191c47'],
  'dm-sans': ['0.4.2', 'f682e0150a070a118b8b113ca64974a6ced7e514d9d8af6ee95619804b48b352'],
  figtree: ['0.4.1', 'e75afd044b5bc484c2deaa54c8b08c840186a21897de7de0965616feb9b9f441'],
  'ibm-plex-sans': ['0.4.1', '8b0e86cb17fbcf46a1b3ee9fcf339ebb552938cc5b753eb28671725aa3f66671'],
  'fira-sans': ['0.4.1', '89eaf2db7774f47fb5854c8193386ca5cccd591454555443439e49553d44a710'],
  'noto-sans': ['0.4.2', '98cf14a19b8e67a0e76bfd4d5df98937b9734e6dde570bd750f2259042042548'],
  ubuntu: ['0.4.1', '596bc62e40fb9fe85747873939557614ef85847f3de09f3fab1671ee44ac71b0'],
  karla: ['0.4.2', '49d95159e8a937b4cc81311065f0424c910f65046be6ee34432cba97c24f5b3f'],
  merriweather: ['0.4.2', '4a2b090c3b585f0257bc3f8d362151e90a4975f420899e2db058ae89a9d691d3'],
  lora: ['0.4.2', 'ce5358724e12aa5b7fab7c487982d696f5c4809c470ea081d0a8c541b801a637'],
  'playfair-display': ['0.4.2', '32881439ce695ae85d7d949d4645825a5cb6bac0d464d0ffa09126c922e44e52'],
  'plus-jakarta-sans': ['0.4.2', '42c73a374d52bc6448dd6a630c37a9d86bb357f1605db8c18229354174441744'],
  lexend: ['0.4.1', '87a1cc77220765220868a891d8d30c9f2e3378309d678ee516eacf4cebc899ae'],
  'titillium-web': ['0.4.1', '36c05e3070bc6b14437e68ff3c2525c6f45ed884d43471d3c940bede50fec7eb'],
  overpass: ['0.4.2', '0d4d2f0e02324752129a941f0801cb2cebb71be42d1baa90ac7c9b483ea96c5f'],
  'public-sans': ['0.4.2', 'ef55db29f306d8990e4a65aaf4a73b8f709d641bd0f15b18d0116a410a6a5c59'],
  'libre-franklin': ['0.4.2', 'a4173e7b8328507770c11e9a05f15f6398921035ac783e53564601a8c2c08c52'],
  sora: ['0.4.2', '7a3cbe03f750f5085788a7c373e62f5ef99492bd177d09e6687567c827c0c174'],
  cabin: ['0.4.2', '5af9953f2785e823cc54406c34ba4af1249cdd2ba80ef5fdf464abd11f9ac2a5'],
  'exo-2': ['0.4.2', '65871e969aeb00060bf2a88ad37cba89f3620abaf298227534a1b96c89484dc6'],
  'be-vietnam-pro': ['0.4.1', '574b6af45c7d7ece6f22fd5e6b26652d86681a3d34a8b0e7c488880148e8edaa'],
  'pt-serif': ['0.4.1', 'e389c34deddccd1db2ee8fb320bd301155a7820301240bf6e195e46b374a85f2'],
  'source-serif-4': ['0.4.1', '84f0b412fbc9b0b666d6fe04620b2cd2e54bfd49ca61fe0663a9e5beb30afcc4'],
  'zilla-slab': ['0.4.1', 'faf6c72bf29850ea63a95d120317ee187c018254763277a86563a624e7bd36ca'],
  archivo: ['0.4.2', '156a6a6b32734b5a3c54e64faead7a525812faf8da88cf94e6958c2e4ed926ba'],
  heebo: ['0.4.2', '3628f08b80dea7099c9ba0aa81e2019118fd6eccc0137d181505a3b5e330a10d'],
  assistant: ['0.4.1', 'da1cd1df20efe500959faa8cc0ad18c87497d73727c264cf31a7b9441803a6f2'],
  'frank-ruhl-libre': ['0.4.1', 'e07dcaf8d328a97bf10ab0e6474adaf53932a5ea6c2e0843b182d4567e6b0118'],
  'noto-serif-hebrew': ['0.4.2', '9a7a1fd368db164b41a6be2f3adbe6699f3850e0188f7635ee5a93a45c8c65e3'],
  alef: ['0.4.1', 'e513950f2f189491562ef5695b12a60ab1d69e3fe18446387531ec32469093b7'],
  'noto-sans-arabic': ['0.4.3', '29e966f9d48a4ce7dd3c2c4c016f29cd888089538217303fb2c87de9e7f048ed'],
  tajawal: ['0.4.1', 'b92887c940e5148b599dbe703d3c71ab5a1224088ab81b4daa6cde2c4d200dec'],
  almarai: ['0.4.1', '7c50491128148dab34e71c0610d47e799c76e002f8c63814e7732a5690cdebc2'],
  amiri: ['0.4.1', '7228928b40d7c178cc00df1f5098dd7cce2d9294def732027c1f4be5c7abaddc'],
  'noto-naskh-arabic': ['0.4.5', '2f93452f15b3bdd86b922be17f247986d4d0e2ae7a1ca51f5d80326b2680628e'],
  'el-messiri': ['0.4.2', '8ea1e1e21c7eb11a5ca2d91ee2d597af3951410dc39ca90718cb0be90da6d1ba'],
  hind: ['0.4.1', '2aecbe3bca84df460d789e2892da18b37548c6208eed9da6d3847de5635ebfb5'],
  mukta: ['0.4.1', '7e0b291a30acd398ed9e60a1883b060d05c6a8fdfe62dc9389e4f6a0f242d8b8'],
  'noto-serif-devanagari': ['0.4.1', '965a5b76866dc464cbd30fd3e0a3ef725977973834bd952f7216da9260d3dfe5'],
  'baloo-2': ['0.4.2', '8a091c14b3ae3e476e49e389fa0087326519b15d35fe2c1cf0827c88bba23519'],
  kanit: ['0.4.1', '59022b9afae4ab6093c39df55a855dbd95e093b047b7c53567071175bd3f3ca3'],
  prompt: ['0.4.1', '064560b537775b25f7df11eeb7e8e9b5df3b2b45e4cb65d3fbcd9d2cb6fdbdcf'],
  sarabun: ['0.4.1', '770c8a0afef8539badb9b54e9a7e5bd8cf0a181dca2656dc161c1b558102c628'],
  'ibm-plex-sans-thai': ['0.4.1', 'e701d51f6355c7015fa7539d8cc763a8eb8fd13d27c91dfad60efe29cadfc49d'],
  mitr: ['0.4.1', 'da1b4920699489c98f25d7350adbb7cda292cf35fa9ed84ca5b511623149b943'],
  'bai-jamjuree': ['0.4.1', '835c69984c52eb6463e8eb43bb02b061930bbb856565c137081fd689c2af729b'],
  'noto-sans-bengali': ['0.4.4', 'aea68a0e86d50c55739f11b3efebf859cbc63219ad1dfbf83dc7e6cfd84a4243'],
  'noto-serif-bengali': ['0.4.4', '67076ca62eaa16cd21c75b98cfe995c62c34be81c88cb61d6aaed6cbc7cc40d9'],
  'hind-siliguri': ['0.4.1', '842cf1028411b4066aa4dd1352106a6934628af8baff7ce80633356b0f984304'],
  'noto-sans-tamil': ['0.4.3', 'e86c62e93d3e47ec8b93f71681e1ae2010b22a9f5e8bcd496b3e46c6ba70750e'],
  'mukta-malar': ['0.4.1', '7325704a6f8cb9c82fed92ff62f665437d75e6ab3dbc0f9c08fafbb35ca75ad0'],
  'hind-madurai': ['0.4.1', '761b28309392ce35a29484e70f467cb625d4e5e334e496962b2dffbc4ef9d57a'],
};
for (const [name, [version, sha256]] of Object.entries(DESIGNS))
  SOURCES[`design-${name}`] = { npm: `@expo-google-fonts/${name}@${version}`, sha256 };

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
 * Unpacks a package, fetched where it is not there yet; of several processes that want one, one fetches and the others wait.
 *
 * @returns its folder; undefined, with the reason on standard error, where it cannot be had here
 */
export function sourceFolder(name) {
  return isThere(name) ? join(folder, name) : alone(join(folder, 'lock'), () => fetchAndUnpack(name));
}

function isThere(name) {
  const { sha256 } = SOURCES[name] ?? BINARIES[name];
  const stamp = join(folder, name, STAMP);
  return existsSync(stamp) && readFileSync(stamp, 'utf8') === sha256;
}
const STAMP = '.sha256';

function fetchAndUnpack(name) {
  const place = join(folder, name);
  if (isThere(name)) return place;
  const { binary, npm, sha256, source } = SOURCES[name] ?? BINARIES[name];
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
  writeFileSync(join(place, STAMP), sha256);
  return place;
}

const WAIT_MS = 200;
const LONGEST_WAIT_MS = 900_000;

/** Does it while no other process does; a lock whose owner is gone is nobody's. */
export function alone(lock, work) {
  mkdirSync(dirname(lock), { recursive: true });
  const mine = `${lock}.${process.pid}`;
  writeFileSync(mine, String(process.pid));
  try {
    for (let waited = 0; !take(mine, lock); waited += WAIT_MS) {
      if (waited > LONGEST_WAIT_MS)
        throw new Error(`${lock} has been held for long: end its owner, or remove it`);
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, WAIT_MS);
    }
    try {
      return work();
    } finally {
      rmSync(lock, { force: true });
    }
  } finally {
    rmSync(mine, { force: true });
  }
}

/** A hard link is there with its content or not at all. */
function take(mine, lock) {
  try {
    linkSync(mine, lock);
    return true;
  } catch (error) {
    if (error.code !== 'EEXIST') throw error;
  }
  const left = `${mine}.left`;
  try {
    const owner = Number(readFileSync(lock, 'utf8'));
    if (isAlive(owner)) return false;
    // of several that see it left, one moves it away; it may be another's by then
    renameSync(lock, left);
    if (Number(readFileSync(left, 'utf8')) !== owner) linkSync(left, lock);
    rmSync(left, { force: true });
  } catch (error) {
    if (error.code !== 'ENOENT' && error.code !== 'EEXIST') throw error;
  }
  return false;
}

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
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
