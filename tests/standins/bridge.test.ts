/** The stand-in phone driven by Debian's own bridge client and server, as a person would drive a real one. */
import { execFile, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { decodeImage } from '../../src/node/decode-image.ts';
import { encodePacket, type Packet, PacketReader } from '../../src/standins/phone/bridge/packet.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { demoApk, demoFolder, describeWith, root, scratchFolder, tools } from '../support/paths.ts';
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
    for (const [there, why] of [
      ['/system/a', 'Read-only file system'],
      ['/data/a', 'Permission denied'],
    ]) {
      const closed = await on('push', here, there!);
      expect([closed.code, closed.out + closed.err]).toEqual([1, expect.stringContaining(why!)]);
    }
  });

  test('a folder goes there and back, with what is in it', async () => {
    const [here, back] = [join(work, 'folder'), join(work, 'back')];
    await mkdir(join(here, 'in/deeper'), { recursive: true });
    for (const name of ['one', 'in/two', 'in/deeper/three']) await writeFile(join(here, name), name);
    expect((await on('push', here, '/sdcard/')).code).toBe(0);
    expect(await shell('find /sdcard/folder -type f | sort')).toBe(
      ['in/deeper/three', 'in/two', 'one'].map((name) => `/sdcard/folder/${name}\n`).join(''),
    );
    expect((await on('pull', '/sdcard/folder', back)).code).toBe(0);
    expect(await readFile(join(back, 'in/deeper/three'), 'utf8')).toBe('in/deeper/three');
  });

  test('a script on standard input is run', async () => {
    const child = spawn('/usr/bin/adb', ['-s', phone.address, 'shell'], {
      env: { ...process.env, ANDROID_ADB_SERVER_PORT: String(serverPort), HOME: work },
    });
    let out = '';
    child.stdout.on('data', (piece) => {
      out += piece;
    });
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.stdin.end('for i in a b; do\n  echo "<$i>"\ndone\nexit 6\n');
    expect([await ended, out]).toEqual([6, '<a>\n<b>\n']);
  });

  test('ports lead from the computer to the phone, and back; one that is closed refuses', async () => {
    const echo = createServer((socket) => {
      socket.on('error', () => socket.destroy());
      socket.pipe(socket);
    });
    await new Promise<void>((resolve) => echo.listen(0, '127.0.0.1', resolve));
    const { port } = echo.address() as { port: number };
    const say = (to: number, text: string): Promise<string> =>
      new Promise((resolve) => {
        let got = '';
        const socket = connect(to, '127.0.0.1');
        socket.on('data', (piece) => {
          got += piece;
          if (got.length >= text.length) socket.end();
        });
        socket.on('close', () => resolve(got));
        socket.on('error', () => {});
        socket.write(text);
      });
    const large = 'sea '.repeat(200_000);
    const back = Number((await on('reverse', 'tcp:0', `tcp:${port}`)).out);
    expect(await say(back, large)).toBe(large);
    const there = Number((await on('forward', 'tcp:0', `tcp:${port}`)).out);
    expect(await say(there, large)).toBe(large);
    await new Promise((resolve) => echo.close(resolve));
    expect(await say(there, 'x')).toBe('');
    expect(await say(back, 'x')).toBe('');
    // where the computer listens itself, the port leads there already
    expect((await on('reverse', `tcp:${serverPort}`, `tcp:${serverPort}`)).code).toBe(0);
    await on('reverse', '--remove-all');
    await on('forward', '--remove-all');
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

  // the tested table of the documentation: adb line, what a phone does, what is in the answer, exit code
  const table = readFileSync(join(root, 'docs/stand-in-phone.md'), 'utf8').matchAll(
    /^\| `((?:[^`|]|\\\|)+)` \|[^|]*\| (?:`([^`]*)`)? ?\| (\d*) \|$/gm,
  );
  const everyday = [...table].map(([, line, answer = '', code]) => ({
    args: [...line!.replaceAll('\\|', '|').matchAll(/"([^"]*)"|'([^']*)'|(\S+)/g)].map(
      ([, double, single, plain]) => double ?? single ?? plain!,
    ),
    answer,
    code,
  }));

  test('every line of the documented table is answered as it says, within seconds', async () => {
    expect(everyday.length).toBeGreaterThanOrEqual(80);
    const own = await bootPhone();
    try {
      await adb('connect', own.address);
      for (const { answer, args, code } of everyday) {
        const ran = await adb('-s', own.address, ...args);
        const said = ran.out.toString('latin1') + ran.err;
        expect([
          args.join(' '),
          said.includes(answer) ? answer : said,
          code === '' ? '' : String(ran.code),
        ]).toEqual([args.join(' '), answer, code]);
      }
      // the last one was a reboot
      await own.booted();
      // the client may not yet have seen that its old connection ended
      await adb('disconnect', own.address);
      await adb('connect', own.address);
      const after = await adb(
        '-s',
        own.address,
        'wait-for-device',
        'shell',
        'pidof example.kelpline; echo up',
      );
      expect(after.out.toString() + after.err).toBe('up\n');
    } finally {
      await own.close();
    }
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

describe('without a client in between', () => {
  let phone: ServedPhone;
  beforeAll(async () => {
    phone = await bootPhone({ halfMessageMs: 60 });
  });
  afterAll(() => phone.close());

  /** What the phone sends until it hangs up, or `count` messages. */
  function talk(packets: readonly (Packet | Uint8Array)[], count = 0): Promise<Packet[]> {
    return new Promise((resolve) => {
      const got: Packet[] = [];
      const reader = new PacketReader();
      const socket = connect(phone.port, '127.0.0.1');
      socket.on('data', (bytes) => {
        for (const packet of reader.push(bytes))
          got.push({ ...packet, payload: Uint8Array.from(packet.payload) });
        if (count > 0 && got.length >= count) socket.destroy();
      });
      socket.on('error', () => {});
      socket.on('close', () => resolve(got));
      for (const one of packets) socket.write(one instanceof Uint8Array ? one : encodePacket(one));
    });
  }
  const hello = (maxBytes: number): Packet => ({
    command: 'CNXN',
    arg0: 0x01000001,
    arg1: maxBytes,
    payload: Buffer.from('host::\0'),
  });
  const open = (id: number, name: string): Packet => ({
    command: 'OPEN',
    arg0: id,
    arg1: 0,
    payload: Buffer.from(`${name}\0`),
  });

  test.each(['nosuch:', 'framebuffer:', 'localabstract:x', 'tcp:1', 'jdwp:1', 'backup:', 'shellx'])(
    'a service that is not there is refused, with the id of who asked: %s',
    async (name) => {
      const [, answer] = await talk([hello(4096), open(77, name)], 2);
      expect(answer).toMatchObject({ command: 'CLSE', arg0: 0, arg1: 77 });
    },
  );

  test.each([0, 63])('a client whose largest payload is %i bytes is let go at once', async (maxBytes) => {
    expect(await talk([hello(maxBytes), open(1, 'shell:echo in')])).toEqual([]);
  });

  test('a client that sends half a message and waits is let go', async () => {
    const half = encodePacket(open(1, 'shell:echo in')).subarray(0, 30);
    expect(await talk([hello(4096), half])).toMatchObject([{ command: 'CNXN' }]);
  });
});

describeWith(
  'aapt2',
  'apksigner',
  'adb',
)('packages in several parts', () => {
  const work = scratchFolder();
  const run = promisify(execFile);
  const apk = async (name: string, of: string, appId = 'example.parts', code = 1): Promise<Uint8Array> => {
    const [manifest, file] = [join(work, `${name}.xml`), join(work, `${name}.apk`)];
    await writeFile(
      manifest,
      `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="${appId}" android:versionCode="${code}" ${of}>
        <uses-sdk android:minSdkVersion="24" android:targetSdkVersion="34"/><application android:hasCode="false"/></manifest>`,
    );
    await run(tools.aapt2, ['link', '-o', file, '-I', tools.framework, '--manifest', manifest]);
    const keys = ['--ks', join(demoFolder, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
    await run(tools.apksigner, ['sign', ...keys, file]);
    return readFile(file);
  };

  test('install together with their base, and not without it', async () => {
    const [base, german, stranger, newer] = await Promise.all([
      apk('base', ''),
      apk('german', 'split="config.de"'),
      apk('stranger', 'split="config.fr"', 'example.other'),
      apk('newer', 'split="config.fr"', 'example.parts', 2),
    ]);
    const phone = await bootPhone();
    try {
      const { packages } = phone.os;
      const replace = { replace: true };
      expect(await packages.install(german!, replace)).toMatch(/^INSTALL_FAILED_MISSING_SPLIT/);
      expect(await packages.install([german!, newer!], replace)).toMatch(/must include a base package/);
      for (const wrong of [stranger!, newer!])
        expect(await packages.install([base!, wrong], replace)).toMatch(
          /^INSTALL_FAILED_INVALID_APK: config\.fr/,
        );
      expect(packages.get('example.parts')).toBeUndefined();
      const env = { ...process.env, ANDROID_ADB_SERVER_PORT: String(await freePort()), HOME: work };
      const adb = (...args: string[]) => run(tools.adb, args, { env });
      await adb('connect', phone.address);
      await adb('-s', phone.address, 'install-multiple', join(work, 'base.apk'), join(work, 'german.apk'));
      const { stdout } = await adb('-s', phone.address, 'shell', 'pm', 'path', 'example.parts');
      await adb('kill-server');
      expect(stdout.replace(/~~\S+?==\/\S+?==/g, '…')).toBe(
        'package:/data/app/…/base.apk\npackage:/data/app/…/split_config.de.apk\n',
      );
    } finally {
      await phone.close();
    }
  });
});
