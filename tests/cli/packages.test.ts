/** `read` and `start` at work, and what they do with packages that are damaged, hostile or none at all. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import toBinaryPlist from 'bplist-creator';
import { intentSchema } from '../../src/core/model/intent.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { readYaml } from '../../src/node/read-yaml.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, demoBundle, demoIpa, root, scratchFolder } from '../support/paths.ts';
import { type WrittenEntry, writeZip } from '../support/zip-writer.ts';

const scratch = scratchFolder();
const file = (name: string, bytes: Uint8Array): string => {
  writeFileSync(join(scratch, name), bytes);
  return name;
};

test('read says what stands out first, then who signed, what it may do, languages, links, signs and size', async () => {
  const { code, err, out } = await fenlok(['read', demoApk], scratch);
  expect([code, err]).toEqual([0, '']);
  const titles = out.split('\n').filter((line) => /^[A-Z]\w.*[^:]$/.test(line) && !line.includes('  '));
  expect(titles).toEqual([
    'What stands out',
    'Signed by',
    'May ask for or do',
    'Languages',
    'Pictures by density',
    'Links claimed',
    'Signs of push, purchases and ads',
    'Open to other apps',
    'Size',
  ]);
  for (const part of [
    /▲ Traffic without TLS is allowed to tides\.kelpline\.example/,
    /◐ TideSyncService can be started by every app/,
    /v3 holds, v2 holds, v1 is not looked at/,
    /show notifications +POST_NOTIFICATIONS \(the user is asked\)/,
    /nb +95 of 96, lacks sailing_bikes/,
    /purchases +permission com\.android\.vending\.BILLING/,
  ])
    expect(out).toMatch(part);
  expect(out).not.toMatch(/undefined|NaN|\[object/);
});

test('read says of an iOS package who may install it, and what it brings along', async () => {
  const { code, out } = await fenlok(['read', demoIpa], scratch);
  expect(code).toBe(0);
  for (const part of [
    /signed for development/,
    /the code signature holds/,
    /framework +Frameworks\/TideCharts\.framework +example\.tidecharts, whose signature does not hold/,
    /@1x 1 · @2x 2 · @3x 2 +\(5 forms of 2 pictures\)/,
    /applinks:kelpline\.example/,
  ])
    expect(out).toMatch(part);
});

test('read --json gives everything: of a bundle the modules, of an APK every value, of an IPA the entitlements', async () => {
  const [apk, bundle, ipa] = await Promise.all(
    [demoApk, demoBundle, demoIpa].map(async (path) =>
      JSON.parse((await fenlok(['read', '--json', path], scratch)).out),
    ),
  );
  expect(
    apk.resources.find(({ name }: { name: string }) => name === 'string/nav_alerts').values,
  ).toContainEqual({
    config: 'de',
    kind: 'string',
    text: expect.stringMatching(/\w/),
  });
  expect(apk.resources.length).toBe(bundle.resources.length);
  expect(bundle).toMatchObject({
    container: 'aab',
    android: { modules: [{ name: 'base' }] },
    build: apk.build,
  });
  expect(ipa.ios.entitlements['aps-environment']).toBe('development');
});

test('names in a package can neither move the cursor nor add lines: in what is printed, in errors, in the intent file', async () => {
  const info = {
    CFBundleIdentifier: 'app',
    CFBundleExecutable: 'Kelpline',
    CFBundleName: 'Ev\u001b[2Jil',
    CFBundleShortVersionString: '1\nlocales: [de]',
  };
  const hostile = file(
    'hostile.ipa',
    await withEntries(demoIpa, { name: `${app}Info.plist`, data: new Uint8Array(toBinaryPlist(info)) }),
  );
  const read = await fenlok(['read', hostile], scratch);
  expect(read.out.split('\n')[0]).toBe(
    `Ev\ufffd[2Jil  app 1 locales: [de] ()  iOS package, ${/[\d.]+ KiB/.exec(read.out)![0]}`,
  );
  await fenlok(['start', hostile, '--out', 'hostile.yaml'], scratch);
  const { value } = await readYaml(join(scratch, 'hostile.yaml'), intentSchema);
  expect(value.locales).toContain('en');
  const escaping = file(
    'escaping.apk',
    writeZip([{ name: 'AndroidManifest.xml\u001b[2J/../x', data: zeros(0) }]),
  );
  const { err } = await fenlok(['read', escaping], scratch);
  expect(read.out + err).not.toMatch(/\u001b/);
});

describe('start', () => {
  test.each([
    ['an APK', demoApk],
    ['an iOS package', demoIpa],
  ])('writes an intent file that can be read, from %s, and never writes over one', async (what, path) => {
    const folder = join(scratch, what.replaceAll(' ', '-'));
    mkdirSync(folder);
    const first = await fenlok(['start', path, '--json'], folder);
    expect(first.code).toBe(0);
    const text = readFileSync(join(folder, 'fenlok.yaml'), 'utf8');
    const { value } = await readYaml(join(folder, 'fenlok.yaml'), intentSchema);
    expect(value).toMatchObject({
      app: { id: 'example.kelpline' },
      sourceLocale: 'en',
      locales: ['en', 'ar', 'de', 'nb', 'pl'],
      links: { schemes: expect.arrayContaining(['kelpline']) },
    });
    const asked: string[] = JSON.parse(first.out).questions;
    expect([...text.matchAll(/^ *# \? (.*)$/gm)].map((match) => match[1])).toEqual(asked);
    // only screens of the app itself are proposed
    expect(value.screens.map(({ id }) => id)).not.toContain('full-screen');
    if (path === demoApk) {
      expect(value.screens).toHaveLength(9);
      expect(text).toMatch(/Left out.*com\.brightbuoy\.ads\.FullScreenActivity/);
    }
    const again = await fenlok(['start', path], folder);
    expect([again.code, again.err]).toEqual([
      2,
      expect.stringMatching(/is there already and is left as it is/),
    ]);
    expect(readFileSync(join(folder, 'fenlok.yaml'), 'utf8')).toBe(text);
  });

  test('judging with what it wrote needs no more', async () => {
    const folder = join(scratch, 'an-APK');
    expect((await fenlok(['add', demoApk], folder)).code).toBe(0);
    const { code, out } = await fenlok(['judge', '--json'], folder);
    expect(code).toBe(1);
    expect(JSON.parse(out).candidate.build.appId).toBe('example.kelpline');
  });

  test('nothing is written for what cannot be read', async () => {
    const { code } = await fenlok(
      ['start', file('letter.apk', new TextEncoder().encode('Dear Sir')), '--out', 'x.yaml'],
      scratch,
    );
    expect([code, existsSync(join(scratch, 'x.yaml'))]).toEqual([3, false]);
  });
});

const MAX_MEMORY_MIB = 512;
const MAX_TIME_MS = 10_000;

/** Runs `read` under the limits of time and memory that hold for any input. */
function readBounded(
  path: string,
): Promise<{ code: number | null; out: string; err: string; peakMiB: number }> {
  // the system counts what a process inherits from the one that began it; its own peak stands in /proc
  const tell = `data:text/javascript,${encodeURIComponent(`
    import { readFileSync } from 'node:fs';
    process.on('exit', () => {
      let kib = process.resourceUsage().maxRSS;
      try {
        kib = readFileSync('/proc/self/status', 'utf8').split('VmHWM:')[1].trim().split(' ')[0];
      } catch {}
      process.stderr.write('PEAK ' + kib);
    });`)}`;
  return new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      ['--import', tell, join(root, 'dist/bin/fenlok.js'), 'read', path],
      {
        cwd: scratch,
        timeout: MAX_TIME_MS,
      },
    );
    let [out, err] = ['', ''];
    child.stdout.on('data', (piece) => {
      out += piece;
    });
    child.stderr.on('data', (piece) => {
      err += piece;
    });
    child.on('error', reject);
    child.on('close', (code) => {
      const peakMiB = Number(/PEAK (\d+)/.exec(err)?.[1]) / 1024;
      resolve({ code, out, err: err.replace(/PEAK \d+/, ''), peakMiB });
    });
  });
}

const entriesOf = (path: string) =>
  withPackage(path, async ({ zip }) => {
    const entries: WrittenEntry[] = [];
    for (const name of zip.entries.keys()) entries.push({ name, data: await zip.read(name) });
    return entries;
  });
/** A package with some entries put in place of its own, or added. */
async function withEntries(path: string, ...changed: WrittenEntry[]): Promise<Uint8Array> {
  const names = changed.map(({ name }) => name);
  return writeZip([...(await entriesOf(path)).filter(({ name }) => !names.includes(name)), ...changed]);
}
const zeros = (mib: number) => new Uint8Array(mib * 2 ** 20);
const bytesOf = (path: string) => new Uint8Array(readFileSync(path));
const app = 'Payload/Kelpline.app/';

/** A table of one entry with as many empty values as fit: two bytes each. */
function emptyValues(mib: number): Uint8Array {
  const varint = (value: number): number[] =>
    value < 128 ? [value] : [(value & 127) | 128, ...varint(Math.floor(value / 128))];
  const values = new Uint8Array(mib * 2 ** 20);
  for (let i = 0; i < values.length; i += 2) values[i] = (6 << 3) | 2;
  let heads: number[] = [];
  let length = values.length;
  for (const field of [3, 3, 2]) {
    const head = [(field << 3) | 2, ...varint(length)];
    heads = [...head, ...heads];
    length += head.length;
  }
  return new Uint8Array(Buffer.concat([Buffer.from(heads), values]));
}

const cyclicPlist = Uint8Array.from(
  Buffer.from(
    '62706c6973743030d10101d10001' +
      '0000000000' +
      '080b' +
      '000000000000' +
      '0101' +
      '0000000000000002' +
      '0000000000000000' +
      '0000000000000013',
    'hex',
  ),
);

test.each<[string, () => Promise<Uint8Array> | Uint8Array, code: number, said: RegExp]>([
  ['nothing', () => new Uint8Array(), 3, /an empty file\); expected an app package/],
  [
    'random bytes',
    () => Uint8Array.from({ length: 5000 }, (_, i) => (i * 7919) % 251),
    3,
    /not a zip archive/,
  ],
  [
    'an archive that is no package',
    () => writeZip([{ name: 'a.txt', data: zeros(1) }]),
    3,
    /without AndroidManifest\.xml/,
  ],
  [
    'an archive of packages',
    () => writeZip([{ name: 'splits/a.apk', data: zeros(1) }]),
    3,
    /an archive of packages/,
  ],
  [
    'a path that escapes',
    () => withEntries(demoApk, { name: '../../etc/x', data: zeros(0) }),
    0,
    /climbs out of the archive/,
  ],
  [
    'an entry that inflates to 300 MB',
    () => withEntries(demoApk, { name: 'resources.arsc', data: zeros(300) }),
    0,
    /resources\.arsc: 314572800 bytes inflated from \d+/,
  ],
  [
    'one that says it is small and inflates to 300 MB',
    () => withEntries(demoApk, { name: 'classes.dex', data: zeros(300), claims: { sizeBytes: 1000 } }),
    0,
    /classes\.dex: compressed data that does not inflate/,
  ],
  [
    'a table and code as large as may be, of nothing',
    () =>
      withEntries(
        demoApk,
        { name: 'resources.arsc', data: zeros(190) },
        { name: 'classes.dex', data: zeros(190) },
      ),
    0,
    /not a resource table/,
  ],
  [
    'code as large as may be, of nothing',
    () =>
      withEntries(
        demoApk,
        { name: 'classes.dex', data: zeros(190) },
        { name: 'classes2.dex', data: zeros(190) },
      ),
    0,
    /classes2\.dex: something that is not a dex file/,
  ],
  [
    'a bundle whose table claims millions of values',
    () => withEntries(demoBundle, { name: 'base/resources.pb', data: emptyValues(120) }),
    0,
    /more fields than any bundle holds/,
  ],
  [
    'a property list that holds itself',
    () => withEntries(demoIpa, { name: `${app}Info.plist`, data: cyclicPlist }),
    3,
    /which holds itself/,
  ],
  [
    'an executable that is none',
    () => withEntries(demoIpa, { name: `${app}Kelpline`, data: zeros(1) }),
    3,
    /not a Mach-O executable/,
  ],
  [
    'an executable that the Info.plist names and that is not there',
    () =>
      withEntries(demoIpa, {
        name: `${app}Info.plist`,
        data: new Uint8Array(toBinaryPlist({ CFBundleExecutable: 'Gone' })),
      }),
    3,
    /Gone: no such entry/,
  ],
  [
    'an encrypted executable',
    async () => {
      const entries = await entriesOf(demoIpa);
      const executable = entries.find(({ name }) => name === `${app}Kelpline`)!;
      const bytes = Buffer.from(executable.data);
      bytes.writeUInt32LE(0x2c, bytes.indexOf(Buffer.from([0x32, 0, 0, 0, 24, 0, 0, 0])));
      return withEntries(demoIpa, { ...executable, data: new Uint8Array(bytes) });
    },
    0,
    /code that the store has encrypted/,
  ],
  [
    'an unsigned APK',
    async () => writeZip((await entriesOf(demoApk)).filter(({ name }) => !name.startsWith('META-INF/'))),
    0,
    /▲ The package is not signed/,
  ],
  [
    'one bit flipped after signing',
    async () => {
      const bytes = bytesOf(demoApk);
      const at = await withPackage(demoApk, ({ zip }) => zip.dataOffset('res/drawable/ic_bell.xml'));
      bytes[at + 30]! ^= 1;
      return bytes;
    },
    0,
    /▲ The signature does not hold[\s\S]*entry\s+res\/drawable\/ic_bell\.xml/,
  ],
])('%s: within the limits, and said plainly', async (what, make, code, said) => {
  const name = file(`${what.replace(/\W+/g, '-').slice(0, 40)}.zip`, await make());
  const run = await readBounded(name);
  expect([run.code, run.err]).toEqual([code, expect.not.stringMatching(/\n\s+at |defect/)]);
  expect((code === 0 ? run.out : run.err).replace(/\n\s+/g, ' ')).toMatch(said);
  expect(run.peakMiB).toBeLessThan(MAX_MEMORY_MIB);
});

test.each([
  ['APK', demoApk],
  ['AAB', demoBundle],
  ['IPA', demoIpa],
])('an %s cut off at any place is refused', async (kind, path) => {
  const whole = bytesOf(path);
  const cuts = Array.from({ length: 6 }, (_, i) => Math.floor(((i + 0.5) / 6) * whole.length));
  for (const cut of cuts) {
    const run = await fenlok(['read', file(`cut-${kind}-${cut}`, whole.subarray(0, cut))], scratch);
    expect([cut, run.code]).toEqual([cut, 3]);
    expect(run.err).toMatch(/^fenlok: .*(copy or build it again|Give the package)/s);
  }
});
