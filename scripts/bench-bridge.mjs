// What our side costs for one command of a device's shell, as a ratio within one run against a bare socket that says the same:
// straight to the stand-in phone, and through Debian's bridge server where it is installed.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { createConnection, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

const COMMAND = 'echo tide';
const PER_ROUND = 60;
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

export async function benchBridge(root, rounds) {
  const { openDevice } = await import('../dist/device/index.js');
  const work = mkdtempSync(join(tmpdir(), 'fenlok-bench-bridge-'));
  const bin = join(root, 'dist/bin/fenlok.js');
  const phone = spawn(process.execPath, [bin, 'standin', 'phone', '--json'], {
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  const line = await new Promise((resolve) => createInterface({ input: phone.stdout }).once('line', resolve));
  const { address } = JSON.parse(line);
  const bridge = { stateFolder: work };
  try {
    const device = await openDevice(address, bridge);
    const bare = await bareDevice(address);
    await compare(
      'straight to the device',
      rounds,
      () => device.run(COMMAND),
      () => bare.run(COMMAND),
    );
    await device.close();
    bare.close();
    if (!existsSync('/usr/bin/adb')) return;
    const port = await freePort();
    const adb = (...args) =>
      execFileSync('/usr/bin/adb', args, {
        env: { ...process.env, ANDROID_ADB_SERVER_PORT: String(port), HOME: work },
        stdio: 'ignore',
      });
    adb('connect', address);
    try {
      const served = await openDevice(address, { ...bridge, server: { host: '127.0.0.1', port } }, 'server');
      await compare(
        "through the bridge's server",
        rounds,
        () => served.run(COMMAND),
        () => askServer(port, address, COMMAND),
      );
      await served.close();
    } finally {
      adb('kill-server');
    }
  } finally {
    phone.kill('SIGINT');
    rmSync(work, { recursive: true });
  }
}

async function compare(name, rounds, ours, theirs) {
  const time = async (run) => {
    const start = performance.now();
    for (let i = 0; i < PER_ROUND; i++) await run();
    return (performance.now() - start) / PER_ROUND;
  };
  await time(ours);
  await time(theirs);
  const pairs = [];
  for (let round = 0; round < rounds; round++) pairs.push([await time(ours), await time(theirs)]);
  console.log(`
one command of the shell, ${name}
  fenlok                       ${median(pairs.map(([own]) => own)).toFixed(2)} ms
  a bare socket                ${median(pairs.map(([, bare]) => bare)).toFixed(2)} ms
  ratio                        ${median(pairs.map(([own, bare]) => own / bare)).toFixed(2)}   (wanted: at most 1.3)`);
}

const freePort = () =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });

const WORDS = { CNXN: 0x4e584e43, OPEN: 0x4e45504f, OKAY: 0x59414b4f, WRTE: 0x45545257, CLSE: 0x45534c43 };

/** Says to the device just what must be said. */
function bareDevice(address) {
  const [host, port] = address.split(':');
  return new Promise((resolve) => {
    const socket = createConnection({ host, port: Number(port), noDelay: true });
    const send = (word, arg0, arg1, payload = Buffer.alloc(0)) => {
      const head = Buffer.alloc(24);
      const words = [word, arg0, arg1, payload.length, 0, word ^ 0xffffffff];
      for (const [i, value] of words.entries()) head.writeUInt32LE(value >>> 0, i * 4);
      socket.write(Buffer.concat([head, payload]));
    };
    let pending = Buffer.alloc(0);
    let next = 1;
    let ended = () => {};
    socket.on('data', (bytes) => {
      pending = Buffer.concat([pending, bytes]);
      while (pending.length >= 24 && pending.length >= 24 + pending.readUInt32LE(12)) {
        const [word, arg0, arg1, length] = [0, 4, 8, 12].map((at) => pending.readUInt32LE(at));
        pending = pending.subarray(24 + length);
        if (word === WORDS.CNXN)
          resolve({
            run: (line) =>
              new Promise((done) => {
                ended = done;
                send(WORDS.OPEN, next++, 0, Buffer.from(`shell,v2,raw:${line}\0`));
              }),
            close: () => socket.destroy(),
          });
        else if (word === WORDS.WRTE) send(WORDS.OKAY, arg1, arg0);
        else if (word === WORDS.CLSE) {
          send(WORDS.CLSE, arg1, arg0);
          ended();
        }
      }
    });
    socket.on('connect', () =>
      send(WORDS.CNXN, 0x01000001, 256 * 1024, Buffer.from('host::features=shell_v2\0')),
    );
  });
}

/** Says to the server just what must be said: which device, which service. */
function askServer(port, serial, line) {
  return new Promise((resolve, reject) => {
    const socket = createConnection({ host: '127.0.0.1', port, noDelay: true });
    const say = (text) => socket.write(`${Buffer.byteLength(text).toString(16).padStart(4, '0')}${text}`);
    let okays = 0;
    socket.on('connect', () => say(`host:transport:${serial}`));
    socket.on('data', (bytes) => {
      if (okays < 2 && bytes.subarray(0, 4).toString() === 'OKAY') {
        okays += 1;
        if (okays === 1) say(`shell,v2,raw:${line}`);
      }
    });
    socket.on('close', resolve);
    socket.on('error', reject);
  });
}
