// What is done with a phone in the hand, as a ratio within one run to the bare round trips of the same commands over the same
// line: look, a hold taken and released, and process death from here.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';

const ROUNDS = 9;
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

export async function benchInHand(root) {
  const { openDevice } = await import('../dist/device/index.js');
  const { appInFront, settingsNow } = await import('../dist/device/in-hand/app-in-front.js');
  const { drillHere } = await import('../dist/device/in-hand/drill-here.js');
  const { lookHere } = await import('../dist/device/in-hand/look-here.js');
  const { takeHold } = await import('../dist/device/in-hand/holds.js');
  const work = mkdtempSync(join(tmpdir(), 'fenlok-bench-in-hand-'));
  const phone = spawn(
    process.execPath,
    [
      ...[join(root, 'dist/bin/fenlok.js'), 'standin', 'phone', '--json'],
      ...['--package', join(root, 'demo/kelpline/kelpline.apk')],
    ],
    { stdio: ['ignore', 'pipe', 'ignore'] },
  );
  const line = await new Promise((resolve) => createInterface({ input: phone.stdout }).once('line', resolve));
  try {
    const device = await openDevice(JSON.parse(line).address, { stateFolder: work });
    await device.run('am start -W -n example.kelpline/.TimetableActivity');
    await settled(device);
    const actions = {
      look: async (on) => {
        const app = await appInFront(on);
        await lookHere(on, app.build.appId, await settingsNow(on, app.build.appId));
      },
      'hold, and release': async (on) => {
        const hold = await takeHold(on, work, 'bench', [['system/font_scale', '1.3']]);
        await hold.release();
      },
      'drill process-death --here': async (on) => {
        await drillHere(on, await appInFront(on), 'process-death', { stateFolder: work });
      },
    };
    console.log('\nwith a phone in the hand, against the same commands one after the other');
    for (const [name, act] of Object.entries(actions)) await compare(name, device, act);
    await device.close();
  } finally {
    phone.kill('SIGINT');
    rmSync(work, { recursive: true });
  }
}

async function compare(name, device, act) {
  const pairs = [];
  for (let round = 0; round < ROUNDS; round++) {
    const asked = [];
    const ask = (how) => (words, options) => {
      asked.push([how, words]);
      return device[how](words, options);
    };
    const recording = { ...device, info: device.info, run: ask('run'), bytes: ask('bytes') };
    await settled(device);
    const own = await timeMs(() => act(recording));
    await settled(device);
    const bare = await timeMs(async () => {
      for (const [how, words] of asked) await device[how](words);
    });
    pairs.push([own, bare, asked.length]);
  }
  const [own, bare, count] = [0, 1, 2].map((i) => median(pairs.map((pair) => pair[i])));
  const ratio = median(pairs.map(([ours, theirs]) => ours / theirs));
  console.log(
    `  ${name.padEnd(28)} ${own.toFixed(0).padStart(5)} ms   ${String(count).padStart(3)} commands bare ${bare.toFixed(0).padStart(5)} ms   ratio ${ratio.toFixed(2)}   (wanted: at most 1.5)`,
  );
}

/** Nothing on the screen moves any more. */
async function settled(device) {
  for (let tries = 0; tries < 60; tries++) {
    const bytes = await device.bytes('uiautomator dump /dev/tty');
    if (new TextDecoder().decode(bytes).includes('</hierarchy>')) return;
  }
}

async function timeMs(work) {
  const start = performance.now();
  await work();
  return performance.now() - start;
}
