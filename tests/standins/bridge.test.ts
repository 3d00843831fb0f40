/** The stand-in phone driven by Debian's own bridge client and server, as a person would drive a real one. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeImage } from '../../src/node/decode-image.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { demoApk, describeWith } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

interface Ran {
  code: number;
  out: Buffer;
  err: string;
}

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

describeWith('adb')("Debian's bridge client", () => {
  let phone: ServedPhone;
  let serverPort: number;
  let work: string;

  const adb = (...args: string[]): Promise<Ran> =>
    new Promise((resolve) => {
      const options = {
        encoding: 'buffer' as const,
        maxBuffer: 64 * 2 ** 20,
        env: { ...process.env, ANDROID_ADB_SERVER_PORT: String(serverPort), HOME: work },
      };
      execFile('/usr/bin/adb', args, options, (error, out, err) =>
        resolve({ code: error ? Number(error.code) : 0, out, err: err.toString() }),
      );
    });
  const on = (...args: string[]) => adb('-s', phone.address, ...args);
  const shell = async (line: string) => (await on('shell', line)).out.toString();
  /** Asks again and again until it is so, as a script would. */
  const until = async (line: string, isSo: (out: string) => boolean): Promise<string> => {
    for (let tries = 0; tries < 100; tries++) {
      const out = await shell(line);
      if (isSo(out)) return out;
    }
    throw new Error(`never so: ${line}`);
  };
  const launch = () =>
    shell('am start -W -a android.intent.action.MAIN -c android.intent.category.LAUNCHER example.kelpline');

  beforeAll(async () => {
    work = await mkdtemp(join(tmpdir(), 'fenlok-bridge-'));
    serverPort = await freePort();
    phone = await bootPhone();
    const connected = await adb('connect', phone.address);
    expect(connected.out.toString()).toContain(`connected to ${phone.address}`);
  });
  afterAll(async () => {
    await adb('kill-server');
    await phone.close();
    await rm(work, { recursive: true });
  });

  test('it is listed as a device, with its model', async () => {
    expect((await adb('devices', '-l')).out.toString()).toMatch(
      new RegExp(`${phone.address}\\s+device product:standin_common model:Stand_in_Common`),
    );
  });

  test('launched, left and killed in the background, the app comes back as another process', async () => {
    expect(await launch()).toMatch(/LaunchState: COLD\nActivity: example.kelpline\/.TimetableActivity/);
    const first = (await shell('pidof example.kelpline')).trim();
    const row = new RegExp(`^u0_a\\d+ +${first} +\\d+ .* S example.kelpline *$`, 'm');
    expect(await shell('ps -A')).toMatch(row);
    // in front it is spared
    await shell('am kill example.kelpline');
    expect((await shell('pidof example.kelpline')).trim()).toBe(first);
    await shell('input keyevent HOME');
    await until('logcat -d -b events', (log) => /wm_on_stop_called: \[\d+,example.kelpline/.test(log));
    await shell('am kill example.kelpline');
    expect(await on('shell', 'pidof example.kelpline || echo gone')).toMatchObject({
      out: Buffer.from('gone\n'),
    });
    await launch();
    const second = (await shell('pidof example.kelpline')).trim();
    expect(second).toMatch(/^\d+$/);
    expect(second).not.toBe(first);
    const log = (await on('logcat', '-d', '-b', 'events', '-v', 'tag')).out.toString();
    expect(log).toMatch(new RegExp(`I/am_kill *: \\[0,${first},example.kelpline,\\d+,kill background\\]`));
    expect(log).toContain(`[0,${second},10123,example.kelpline,next-top-activity`);
  });

  test('a picture and a dump of the same moment agree in size', async () => {
    await launch();
    await until('uiautomator dump /sdcard/w.xml', (out) => out.includes('dumped to'));
    const xml = await shell('cat /sdcard/w.xml');
    expect(xml).toMatch(
      /^<\?xml .*<hierarchy rotation="0"><node .*resource-id="example.kelpline:id\/screen_root"/s,
    );
    const pixels = await decodeImage('s.png', (await on('exec-out', 'screencap', '-p')).out);
    expect([pixels.widthPx, pixels.heightPx]).toEqual([shapes.common.widthPx, shapes.common.heightPx]);
  });

  test('a file that is pushed and pulled is the same', async () => {
    const [here, back] = [join(work, 'a.bin'), join(work, 'b.bin')];
    const bytes = Buffer.alloc(700_001, 'kelp');
    await writeFile(here, bytes);
    expect((await on('push', here, '/sdcard/a.bin')).code).toBe(0);
    expect((await on('pull', '/sdcard/a.bin', back)).code).toBe(0);
    expect(bytes.equals(await readFile(back))).toBe(true);
    const none = await on('pull', '/sdcard/none', back);
    expect([none.code, none.out + none.err]).toEqual([1, expect.stringContaining('/sdcard/none')]);
    const closed = await on('push', here, '/system/a');
    expect([closed.code, closed.out + closed.err]).toEqual([1, expect.stringContaining('Permission denied')]);
  });

  test('the APK installs; the system says what is installed, and a broken one is refused', async () => {
    expect((await on('install', '-r', demoApk)).out.toString()).toContain('Success');
    expect(await shell('dumpsys package example.kelpline')).toMatch(
      /versionCode=240 .*\n +versionName=2.4.0/,
    );
    const broken = join(work, 'broken.apk');
    const bytes = await readFile(demoApk);
    await writeFile(broken, bytes.subarray(0, bytes.length / 2));
    const refused = await on('install', '-r', broken);
    expect(refused.code).toBe(1);
    expect(refused.out + refused.err).toContain('INSTALL_PARSE_FAILED');
  });

  test.each([
    ['echo one; echo "two  $USER" | grep -c shell', 'one\n1\n', 0],
    [
      'settings put system font_scale 1.3 && settings get system font_scale; settings delete system font_scale',
      '1.3\nDeleted 1 rows\n',
      0,
    ],
    ['settings get system font_scale', 'null\n', 0],
    ['false || echo $?', '1\n', 0],
    ['nonesuch --flag', '', 127],
    ["echo 'open", '', 1],
    ['wm density 320; wm density; wm density reset', 'Physical density: 480\nOverride density: 320\n', 0],
    ['logcat -b nonesuch -d', '', 1],
  ])('the shell: %s', async (line, out, code) => {
    const ran = await on('shell', line);
    expect([ran.out.toString(), ran.code]).toEqual([out, code]);
  });

  test('a phone that asks its user first, and one that refuses', async () => {
    const [asked, refused] = await Promise.all([
      bootPhone({ access: 'asked' }),
      bootPhone({ access: 'refused' }),
    ]);
    try {
      expect((await adb('connect', asked.address)).code).toBe(0);
      expect((await adb('-s', asked.address, 'shell', 'echo in')).out.toString()).toBe('in\n');
      await adb('connect', refused.address);
      expect((await adb('-s', refused.address, 'shell', 'echo in')).err).toMatch(/unauthorized|offline/);
    } finally {
      await Promise.all([asked.close(), refused.close()]);
    }
  });
});
