// Puts Kelpline's iOS package together: binary property lists, texts in the encodings that builds leave behind, a Mach-O
// stub with entitlements and a code signature, a provisioning profile. Signing is done by openssl, with the demo's
// throwaway key; what is read back here is written by other code than Fenlok's.
//   node demo/kelpline/build-ipa.mjs [--out FILE]      (needs openssl, and Debian's aapt as a zip writer)
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import toBinaryPlist from 'bplist-creator';
import { assetCatalogue, interfaceFile } from './apple-files.mjs';

const here = dirname(fileURLToPath(import.meta.url));
const { values } = parseArgs({ options: { out: { type: 'string' } } });
const out = resolve(values.out ?? join(here, 'kelpline.ipa'));
const sources = join(here, 'ios');
const work = mkdtempSync(join(tmpdir(), 'kelpline-ios-'));
const app = 'Payload/Kelpline.app';
const readJson = (name) => JSON.parse(readFileSync(join(sources, name), 'utf8'));
const sha256 = (bytes) => createHash('sha256').update(bytes).digest();
const openssl = (...args) =>
  execFileSync('openssl', args, { cwd: work, stdio: ['ignore', 'pipe', 'inherit'] });

const files = new Map();
const put = (name, bytes) => files.set(name, Buffer.from(bytes));

function xmlPlist(value) {
  const escapeXml = (text) => text.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);
  const say = (item) => {
    if (Array.isArray(item)) return `<array>${item.map(say).join('')}</array>`;
    if (Buffer.isBuffer(item)) return `<data>${item.toString('base64')}</data>`;
    if (item instanceof Date) return `<date>${item.toISOString().replace('.000', '')}</date>`;
    if (typeof item === 'object')
      return `<dict>${Object.entries(item)
        .map(([key, inner]) => `<key>${escapeXml(key)}</key>${say(inner)}`)
        .join('')}</dict>`;
    if (typeof item === 'boolean') return item ? '<true/>' : '<false/>';
    if (typeof item === 'number') return `<integer>${item}</integer>`;
    return `<string>${escapeXml(item)}</string>`;
  };
  return Buffer.from(`<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">${say(value)}</plist>\n`);
}

/** Every encoding that is met in packages: UTF-8, UTF-16 in both orders with a mark, and binary. */
function putTexts() {
  const encode = {
    en: (text) => Buffer.from(text, 'utf8'),
    nb: (text) => Buffer.from(text, 'utf8'),
    de: (text) => Buffer.from(`\ufeff${text}`, 'utf16le'),
    ar: (text) => Buffer.from(`\ufeff${text}`, 'utf16le').swap16(),
    pl: (text) =>
      toBinaryPlist(
        Object.fromEntries([...text.matchAll(/^"(.*?)" = "(.*)";$/gm)].map(([, key, value]) => [key, value])),
      ),
  };
  for (const [locale, bytesOf] of Object.entries(encode))
    for (const name of readdirSync(join(sources, `${locale}.lproj`))) {
      const text = readFileSync(join(sources, `${locale}.lproj`, name), 'utf8');
      put(`${locale}.lproj/${name}`, name.endsWith('.strings') ? bytesOf(text) : text);
    }
}

/** The key of the Android package's keystore signs here too: it guards nothing. */
function unpackKey() {
  const keystore = ['pkcs12', '-in', join(here, 'throwaway.keystore'), '-passin', 'pass:throwaway', '-nodes'];
  openssl(...keystore, '-out', 'key.pem');
  return openssl('x509', '-in', 'key.pem', '-outform', 'DER');
}

function signCms(bytes, ...options) {
  writeFileSync(join(work, 'signed-content'), bytes);
  const who = ['-signer', 'key.pem', '-inkey', 'key.pem', '-md', 'sha256', '-outform', 'DER'];
  return openssl('cms', '-sign', '-binary', '-in', 'signed-content', ...who, ...options);
}

const u32 = (...numbers) => {
  const bytes = Buffer.alloc(4 * numbers.length);
  for (const [i, number] of numbers.entries()) bytes.writeUInt32LE(number >>> 0, 4 * i);
  return bytes;
};
const big32 = (...numbers) => {
  const bytes = Buffer.alloc(4 * numbers.length);
  for (const [i, number] of numbers.entries()) bytes.writeUInt32BE(number >>> 0, 4 * i);
  return bytes;
};
const padTo = (bytes, multiple) =>
  Buffer.concat([bytes, Buffer.alloc((multiple - (bytes.length % multiple)) % multiple)]);

const SIGNATURE_BYTES = 16384;

/** A 64-bit ARM executable with no code: header, load commands, symbols, and room for the signature. */
function machO({ imports, libraries }) {
  const names = Buffer.from(`\0${imports.map((name) => `${name}\0`).join('')}`);
  const uuid = sha256(imports.join() + libraries.join()).subarray(0, 16);
  const dylib = (path) => {
    const name = padTo(Buffer.from(`${path}\0`), 8);
    return Buffer.concat([u32(0x0c, 24 + name.length, 24, 2, 0x10000, 0x10000), name]);
  };
  const sizeOf = (commands) => commands.reduce((sum, command) => sum + command.length, 0);
  const plain = [
    Buffer.concat([u32(0x1b, 24), uuid]),
    u32(0x32, 24, 2, 16 << 16, 17 << 16, 0),
    ...libraries.map(dylib),
  ];
  const symbolsAt = 32 + sizeOf(plain) + 24 + 16;
  const stringsAt = symbolsAt + 16 * imports.length;
  const codeLimit = Math.ceil((stringsAt + names.length) / 16) * 16;
  const commands = [
    ...plain,
    u32(0x02, 24, symbolsAt, imports.length, stringsAt, names.length),
    u32(0x1d, 16, codeLimit, SIGNATURE_BYTES),
  ];
  const header = u32(0xfeedfacf, 0x0100000c, 0, 2, commands.length, sizeOf(commands), 0x85, 0);
  let nameAt = 1;
  const symbols = imports.map((name) => {
    const symbol = Buffer.concat([u32(nameAt), Buffer.from([0x01, 0, 0, 1]), u32(0, 0)]);
    nameAt += name.length + 1;
    return symbol;
  });
  return padTo(Buffer.concat([header, ...commands, ...symbols, names]), 16);
}

function codeDirectory(code, special, identifier) {
  const names = Buffer.from(`${identifier}\0${readJson('build.json').entitlements[TEAM]}\0`);
  const page = 4096;
  const hashes = [];
  for (let at = 0; at < code.length; at += page) hashes.push(sha256(code.subarray(at, at + page)));
  const specials = [5, 4, 3, 2, 1].map((slot) => (special[slot] ? sha256(special[slot]) : Buffer.alloc(32)));
  const namesAt = 52;
  const hashesAt = namesAt + names.length + 32 * specials.length;
  const head = Buffer.concat([
    big32(0x20200, 0, hashesAt, namesAt, specials.length, hashes.length, code.length),
    Buffer.from([32, 2, 0, 12]),
    big32(0, 0, namesAt + identifier.length + 1),
  ]);
  const body = Buffer.concat([head, names, ...specials, ...hashes]);
  return Buffer.concat([big32(0xfade0c02, body.length + 8), body]);
}

const TEAM = 'com.apple.developer.team-identifier';

/** Super blob: code directory, entitlements, CMS over the code directory. */
function codeSignature(code, special, identifier) {
  const directory = codeDirectory(code, special, identifier);
  const cms = signCms(directory);
  const blobs = [
    [0, directory],
    ...(special[5] ? [[5, special[5]]] : []),
    [0x10000, Buffer.concat([big32(0xfade0b01, cms.length + 8), cms])],
  ];
  let at = 12 + 8 * blobs.length;
  const index = blobs.map(([slot, blob]) => {
    const entry = big32(slot, at);
    at += blob.length;
    return entry;
  });
  const whole = Buffer.concat([
    big32(0xfade0cc0, at, blobs.length),
    ...index,
    ...blobs.map(([, blob]) => blob),
  ]);
  return Buffer.concat([whole, Buffer.alloc(SIGNATURE_BYTES - whole.length)]);
}

// As the platform's signer writes them for an app of one folder.
const SEAL_RULES = {
  '^.*': true,
  '.*\\.dSYM($|/)': { weight: 11 },
  '^(.*/)?\\.DS_Store$': { omit: true, weight: 2000 },
  '^.*\\.lproj/': { optional: true, weight: 1000 },
  '^.*\\.lproj/locversion.plist$': { omit: true, weight: 1100 },
  '^Base\\.lproj/': { weight: 1010 },
  '^Info\\.plist$': { omit: true, weight: 20 },
  '^PkgInfo$': { omit: true, weight: 20 },
  '^embedded\\.provisionprofile$': { weight: 20 },
  '^version\\.plist$': { weight: 20 },
};

/** Seals what lies in a folder of the app, and puts its signed code there. */
function sign(folder, info, { entitlements, ...code }) {
  const own = [...files].filter(([name]) => name.startsWith(folder));
  const sealed = own
    .map(([name, bytes]) => [name.slice(folder.length), bytes])
    .filter(([name]) => name !== 'Info.plist' && name !== 'PkgInfo');
  put(
    `${folder}_CodeSignature/CodeResources`,
    xmlPlist({
      files2: Object.fromEntries(sealed.map(([name, bytes]) => [name, { hash2: sha256(bytes) }])),
      rules2: SEAL_RULES,
    }),
  );
  const plist = entitlements && xmlPlist(entitlements);
  const special = {
    1: files.get(`${folder}Info.plist`),
    3: files.get(`${folder}_CodeSignature/CodeResources`),
    ...(plist && { 5: Buffer.concat([big32(0xfade7171, plist.length + 8), plist]) }),
  };
  const bytes = machO(code);
  const signature = codeSignature(bytes, special, info.CFBundleIdentifier);
  put(folder + info.CFBundleExecutable, Buffer.concat([bytes, signature]));
}

try {
  const build = readJson('build.json');
  const certificate = unpackKey();
  const dates = Object.fromEntries(
    ['CreationDate', 'ExpirationDate'].map((key) => [key, new Date(build.profile[key])]),
  );
  const profile = { ...build.profile, ...dates, DeveloperCertificates: [certificate] };
  putTexts();
  put('Info.plist', toBinaryPlist(readJson('Info.json')));
  put('PkgInfo', 'APPL????');
  put('PrivacyInfo.xcprivacy', xmlPlist(build.privacy));
  put('embedded.mobileprovision', signCms(xmlPlist(profile), '-nodetach'));
  const { colours, pictures } = readJson('assets.json');
  put('Assets.car', assetCatalogue(pictures, colours));
  put('Ticket.nib', interfaceFile(readJson('ticket-nib.json')));
  for (const [folder, { changedAfterwards = {}, files: brought = {}, info, ...part }] of Object.entries(
    build.parts,
  )) {
    put(`${folder}/Info.plist`, toBinaryPlist(info));
    for (const [name, text] of Object.entries(brought)) put(`${folder}/${name}`, text);
    sign(`${folder}/`, info, part);
    for (const [name, text] of Object.entries(changedAfterwards)) put(`${folder}/${name}`, text);
  }
  sign('', readJson('Info.json'), build);
  for (const [name, bytes] of files) {
    mkdirSync(dirname(join(work, app, name)), { recursive: true });
    writeFileSync(join(work, app, name), bytes);
  }
  execFileSync('aapt', ['add', 'kelpline.ipa', ...[...files.keys()].map((name) => `${app}/${name}`)], {
    cwd: work,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  copyFileSync(join(work, 'kelpline.ipa'), out);
  console.error(`built ${out}`);
} finally {
  rmSync(work, { recursive: true, force: true });
}
