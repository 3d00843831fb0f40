/** `try link`, `try payload`, what sites serve, and the gateway, as commands. */
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer, type Socket } from 'node:net';
import { join } from 'node:path';
import { exportPKCS8, generateKeyPair } from 'jose';
import { runProgram } from '../../src/cli/program.ts';
import { until } from '../../src/device/phone/pause.ts';
import { DeviceLink } from '../../src/standins/device-link.ts';
import { fenlok, recordingIo } from '../support/command.ts';
import { demoApk, demoFolder, demoIpa, root, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const siteOf = (host: string, name = 'assetlinks.json') =>
  join(demoFolder, 'site', host, '.well-known', name);
const sites = ['kelpline.example', 'www.kelpline.example'].map((host) => siteOf(host));

/** In this process, which is quicker. */
async function call(...args: string[]) {
  const io = recordingIo(scratch);
  const code = await runProgram(args, io);
  return { code, ...io.said };
}
const tryLink = (url: string, ...more: string[]) =>
  call(
    'try',
    'link',
    url,
    '--package',
    demoApk,
    '--intent',
    join(demoFolder, 'fenlok.yaml'),
    '--site',
    ...sites,
    ...more,
  );

test.each<[string, string, RegExp[]]>([
  [
    'verified',
    'https://kelpline.example/pass',
    [/^■ Opens the app: PassActivity$/m, /site {4}kelpline\.example agrees/, /route {3}\/pass → pass/],
  ],
  [
    'another certificate',
    'https://www.kelpline.example/pass',
    [
      /^▲ Opens in the browser: PassActivity takes it, but the site does not agree/m,
      /another certificate\): found\s+4B:1D/,
    ],
  ],
  [
    'the s forgotten',
    'https://kelpline.example/alerts',
    [/nothing of the app takes it/, /▲ AlertsActivity, filter 1 +scheme: wants http\n/],
  ],
  [
    'no BROWSABLE',
    'https://kelpline.example/sailings/2',
    [
      /SailingActivity, filter 1 +lacks the category android\.intent\.category\.BROWSABLE/,
      /with sailing = 2/,
    ],
  ],
  ['two for one', 'kelpline://offers', [/^◐ The user is asked: TimetableActivity or PassActivity$/m]],
  ['nobody', 'kelpline://tickets', [/^▲ Nothing opens/m, /TicketsActivity, filter 1 +is not exported/]],
  [
    'user info',
    'https://kelpline.example@evil.example/pass',
    [/host evil\.example/, /before @ is no part of the host/],
  ],
  ['an address', 'https://192.0.2.7/pass', [/an address cannot be verified/]],
  ['punycode', 'https://xn--fhre-loa.example/', [/compared as written, in its ASCII form/]],
  ['bad escapes', 'https://kelpline.example/pass%zz', [/without two hex digits/]],
  ['no scheme', 'kelpline.example/pass', [/scheme none, host none/, /there is no scheme/]],
  ['capitals', 'HTTPS://kelpline.example/pass', [/compares schemes letter by letter/]],
  ['control characters', 'https://kelpline.example/\u001b[31m', [/\/(?!\u001b)/]],
])('try link: %s', async (_, url, expected) => {
  const { code, out } = await tryLink(url);
  expect(code).toBe(0);
  for (const pattern of expected) expect(out).toMatch(pattern);
  expect(out).not.toContain('\u001b');
});

test('try link --json, on another platform version, on iOS, and a URL of 64 KB', async () => {
  const decision = JSON.parse((await tryLink('https://www.kelpline.example/pass', '--json')).out);
  expect(decision).toMatchObject({
    opens: 'browser',
    verification: { state: 'refused', why: 'other-certificate' },
  });
  const old = JSON.parse((await tryLink('https://www.kelpline.example/pass', '--json', '--sdk', '30')).out);
  expect(old.opens).toBe('choice');
  const ios = await call(
    'try',
    'link',
    'https://kelpline.example/staff/x',
    ...['--package', demoIpa],
    ...['--site', siteOf('kelpline.example', 'apple-app-site-association')],
  );
  expect(ios.out).toMatch(/is left out by the rule “not \/staff\/\*”/);
  const long = await tryLink(`https://kelpline.example/${'x'.repeat(65_536)}`);
  expect([long.code, long.err]).toEqual([
    2,
    expect.stringMatching(/has 65561 characters; devices hand on 32768/),
  ]);
});

test.each<[string, string | Buffer, number, RegExp]>([
  [
    'a page saved in its place',
    'HTTP/1.1 302 Found\nlocation: /login\n\nHTTP/1.1 200 OK\ncontent-type: text/html\n\n<!doctype html>',
    0,
    /a page of HTML; expected JSON/,
  ],
  ['another form', '{"applinks":{}}', 0, /as far as it goes: .*expected/],
  [
    'a fingerprint that is none',
    JSON.stringify([
      {
        relation: ['delegate_permission/common.handle_all_urls'],
        target: { namespace: 'android_app', package_name: 'a', sha256_cert_fingerprints: ['abc'] },
      },
    ]),
    0,
    /“abc”; expected 32 bytes in capital hex digits/,
  ],
  ['2 MB', Buffer.alloc(2 * 2 ** 20, 32), 3, /2097152 bytes; expected at most 1048576/],
])('a site file: %s', async (name, content, code, said) => {
  const folder = join(scratch, name.replaceAll(' ', '-'));
  const file = join(folder, 'kelpline.example/.well-known/assetlinks.json');
  mkdirSync(join(file, '..'), { recursive: true });
  writeFileSync(file, content);
  await call('add', demoApk, '--dossier', join(folder, 'dossier'));
  const added = await call('add', file, '--dossier', join(folder, 'dossier'));
  expect([added.code, added.err]).toEqual([code, expect.stringMatching(said)]);
});

test('a file whose place does not tell its site', async () => {
  const file = join(scratch, 'assetlinks.json');
  writeFileSync(file, '[]');
  const { code, err } = await tryLink('https://kelpline.example/', '--site', file);
  expect([code, err]).toEqual([
    3,
    expect.stringMatching(/does not tell its site; expected HOST\/\.well-known/),
  ]);
});

const put = (name: string, content: string | object): string => {
  const file = join(scratch, name);
  writeFileSync(file, typeof content === 'string' ? content : JSON.stringify(content));
  return file;
};

test.each<[string, string | object, number, RegExp]>([
  [
    'fine',
    { aps: { alert: 'Boat' } },
    0,
    /for iOS, \d+ of 4096 bytes[\s\S]*■ Nothing that a gateway refuses/,
  ],
  [
    '4,097 bytes',
    `{"aps":{"alert":"${'x'.repeat(4077)}"}}`,
    1,
    /4097 of 4096 bytes[\s\S]*▲ the message: 4097 bytes; expected at most 4096 bytes/,
  ],
  ['wrong types', { aps: { alert: 7, badge: '1' } }, 1, /▲ aps\.badge: "1"; expected a whole number from 0/],
  ['no JSON', '{"aps":', 3, /m\.json: no JSON/],
  ['for Android', { data: { n: 1 } }, 1, /for Android[\s\S]*▲ data\.n: 1; expected a text/],
])('try payload: %s', async (_, content, code, said) => {
  const tried = await call('try', 'payload', put('m.json', content));
  expect([tried.code, tried.out + tried.err]).toEqual([code, expect.stringMatching(said)]);
});

test('how a message reads: alike languages together, a key that is not there, a text that is cut', async () => {
  const { code, out } = await call(
    'try',
    'payload',
    join(demoFolder, 'push/offer.json'),
    '--package',
    demoApk,
  );
  expect(code).toBe(1);
  expect(out).toMatch(/▲ title: the app has no text alert_winter_head/);
  expect(out).toMatch(/source, fi +alert_winter_head\n +From 1 December/);
  expect(out).toMatch(/◐ body: about 2 lines, of which 1 is shown/);
  const { out: json } = await call(
    'try',
    'payload',
    join(demoFolder, 'push/offer.json'),
    '--package',
    demoApk,
    '--json',
    '--locale',
    'de',
  );
  expect(JSON.parse(json)).toMatchObject({
    form: 'android',
    channel: 'offers',
    previews: [{ locale: 'de' }],
  });
});

describe('the gateway as a command', () => {
  let child: ChildProcess;
  let log = '';
  const gateway = join(scratch, 'gateway.json');
  const tokens = join(scratch, 'token.txt');

  beforeAll(async () => {
    const args = [
      'push',
      '--connection',
      gateway,
      '--receiver',
      'example.app',
      '--token-file',
      tokens,
      '--log',
    ];
    child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), 'standin', ...args], { cwd: scratch });
    child.stderr!.on('data', (piece) => {
      log += piece;
    });
    await new Promise<void>((resolve) =>
      child.stdout!.on('data', (piece) => {
        log += piece;
        if (String(piece).includes('The push gateway is at')) resolve();
      }),
    );
  });
  afterAll(() => child.kill('SIGKILL'));

  const send = (to: string, ...more: string[]) => {
    const boat = put('boat.json', { aps: { alert: 'Boat' } });
    return fenlok(['try', 'payload', boat, '--topic', 'example.app', '--send', to, ...more], scratch);
  };

  test('a message is sent and shown; neither token nor key is in what is printed', async () => {
    const sent = await send(gateway, '--token-file', tokens);
    expect([sent.code, sent.out]).toEqual([0, expect.stringMatching(/■ The production gateway took it/)]);
    const { key, secret } = JSON.parse(readFileSync(gateway, 'utf8')) as Record<string, string>;
    const token = readFileSync(tokens, 'utf8').trim();
    for (const kept of [token, secret!, key!.split('\n')[1]!])
      expect(log + sent.out + sent.err).not.toContain(kept);
    // it goes on by itself once the service has answered
    await until(async () => log.includes('push.shown'), 10_000);
    expect(log).toMatch(/"kind":"push\.shown"/);
    expect(log).toMatch(/production {2}example\.app {2}alert {2}200/);
  });

  test('what it refuses is explained, with what to do', async () => {
    const other = await send(gateway, '--token-file', tokens, '--environment', 'development');
    expect([other.code, other.out]).toEqual([
      1,
      expect.stringMatching(/400 BadDeviceToken\n.*other environment.*Look at how the app is signed/),
    ]);
  });

  test('another key, a key that is none, and no key at all', async () => {
    const address = JSON.parse(readFileSync(gateway, 'utf8'));
    const strange = await exportPKCS8((await generateKeyPair('ES256', { extractable: true })).privateKey);
    const as = (of: object) => send(put('other.json', { ...address, ...of }), '--token', 'ab');
    const wrong = await as({ key: strange });
    expect([wrong.code, wrong.out]).toEqual([1, expect.stringMatching(/403 InvalidProviderToken/)]);
    const broken = await as({ key: 'SECRET-LETTERS' });
    expect([broken.code, broken.err]).toEqual([3, expect.stringMatching(/cannot be read; expected PKCS #8/)]);
    expect(broken.err).not.toContain('SECRET-LETTERS');
    const none = await as({ key: undefined });
    expect([none.code, none.err]).toEqual([3, expect.stringMatching(/neither key nor keyFile/)]);
  });

  test('nobody there, and a gateway that never answers', async () => {
    const sockets: Socket[] = [];
    const mute = createServer((socket) => sockets.push(socket));
    await new Promise<void>((resolve) => mute.listen(0, '127.0.0.1', resolve));
    const { port } = mute.address() as { port: number };
    const address = JSON.parse(readFileSync(gateway, 'utf8'));
    const at = (site: string) => send(put('mute.json', { ...address, production: site }), '--token', 'ab');
    const silent = await at(`https://127.0.0.1:${port}`);
    expect([silent.code, silent.err]).toEqual([5, expect.stringMatching(/gives no answer within 10 s/)]);
    for (const socket of sockets) socket.destroy();
    await new Promise((resolve) => mute.close(resolve));
    const gone = await at(`https://127.0.0.1:${port}/`.slice(0, -1));
    expect([gone.code, gone.err]).toEqual([5, expect.stringMatching(/cannot be reached \(ECONNREFUSED\)/)]);
  });

  test('Ctrl-C ends it', async () => {
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    expect(await ended).toBe(0);
  });
});

describe("Android's messaging service as a command", () => {
  const file = join(scratch, 'messages.json');
  const message = () => put('boat-android.json', { notification: { title: 'Boat' } });
  const children: ChildProcess[] = [];
  const logs: string[] = [];
  const standin = async (args: string[], isReady: RegExp) => {
    const child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), 'standin', ...args], {
      cwd: scratch,
    });
    children.push(child);
    child.stderr!.on('data', (piece) => logs.push(String(piece)));
    await new Promise<void>((resolve) =>
      child.stdout!.on('data', (piece) => isReady.test(String(piece)) && resolve()),
    );
  };
  beforeAll(() => standin(['messages', '--connection', file, '--log'], /The messaging service is at/));
  afterAll(() => {
    for (const child of children) child.kill('SIGKILL');
  });
  const send = (...more: string[]) => fenlok(['try', 'payload', message(), '--send', file, ...more], scratch);

  test('a message is sent to an app; a token of nobody is explained, and so are options that do not fit', async () => {
    const { devices, secret, serviceAccount } = JSON.parse(readFileSync(file, 'utf8'));
    const device = new DeviceLink<object, { project: string }>({
      devices,
      secret,
      deviceId: 'phone',
      onMessage: () => {},
    });
    await device.goOnline();
    const token = await device.register('example.kelpline', { project: 'kelpline' });
    const sent = await send('--token', token);
    expect([sent.code, sent.out]).toEqual([
      0,
      expect.stringMatching(/■ The messaging service took it \(projects\/kelpline\/messages\//),
    ]);
    const test = await send('--token', token, '--environment', 'development');
    expect([test.code, test.out]).toEqual([
      1,
      expect.stringMatching(/403 SENDER_ID_MISMATCH\n.*another project/),
    ]);
    const nobody = await send('--token', 'never:registered');
    expect([nobody.code, nobody.out]).toEqual([
      1,
      expect.stringMatching(/404 UNREGISTERED\n.*Delete the token/),
    ]);
    const key = serviceAccount.private_key.split('\n')[1];
    for (const kept of [token, key, secret])
      expect([...logs, sent.out, test.out].join('')).not.toContain(kept);
    expect(logs.join('')).toMatch(/kelpline-test {2}403 SENDER_ID_MISMATCH/);
    device.goOffline();
  });

  test('a message of the other platform, a file without a key, an account that is not known', async () => {
    const boat = put('boat.json', { aps: { alert: 'Boat' } });
    const apple = await fenlok(['try', 'payload', boat, '--send', file, '--token', 'a:b'], scratch);
    expect([apple.code, apple.err]).toEqual([
      2,
      expect.stringMatching(/sends to Android, and the message is for iOS/),
    ]);
    const address = JSON.parse(readFileSync(file, 'utf8'));
    const as = (of: object, ...more: string[]) =>
      fenlok(
        [
          'try',
          'payload',
          message(),
          '--send',
          put('changed.json', { ...address, ...of }),
          '--token',
          'a:b',
          ...more,
        ],
        scratch,
      );
    const none = await as({ serviceAccount: undefined });
    expect([none.code, none.err]).toEqual([
      3,
      expect.stringMatching(/neither serviceAccount nor serviceAccountFile/),
    ]);
    const broken = await as({ serviceAccount: { ...address.serviceAccount, private_key: 'SECRET' } });
    expect([broken.code, broken.err]).toEqual([
      3,
      expect.stringMatching(/private key of sender@\S+ cannot be read/),
    ]);
    expect(broken.err).not.toContain('SECRET');
    const strange = await as({
      serviceAccount: { ...address.serviceAccount, client_email: 'who@x.example' },
    });
    expect([strange.code, strange.err]).toEqual([
      5,
      expect.stringMatching(/grants who@x.example no access token: 400/),
    ]);
    const single = await as({ development: undefined }, '--environment', 'development');
    expect([single.code, single.err]).toEqual([2, expect.stringMatching(/names no second project/)]);
    const gone = await as({ url: 'http://127.0.0.1:9' });
    expect([gone.code, gone.err]).toEqual([5, expect.stringMatching(/cannot be reached/)]);
  });
});

test.each<[string[], RegExp]>([
  [['standin', 'messages', '--fail', 'loudly'], /--fail loudly: say slow, drop, .*UNAVAILABLE/],
  [['standin', 'messages', '--project', 'A B'], /--project A B: small letters/],
  [['try', 'payload', 'x.json', '--send', 'g.json'], /name the device with --token/],
  [['try', 'payload', 'x.json', '--environment', 'test'], /say production or development/],
  [['standin', 'push', '--fail', 'loudly'], /--fail loudly: say slow, drop, .*TooManyRequests/],
  [['standin', 'push', '--token-policy', 'lax'], /--token-policy lax: say connection or strict/],
  [['standin', 'push', '--environment', 'test'], /say production or development/],
])('a wrong call: %j', async (args, said) => {
  const { code, err } = await call(...args);
  expect([code, err]).toEqual([2, expect.stringMatching(said)]);
});
