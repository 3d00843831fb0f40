/**
 * Phones as they are in the field: whatever one does, a drill ends in the class that it has on a tidy phone, or says why it proves
 * nothing. `QUIRK_PAIRS` runs all drills under each quirk, and under so many pairs; `QUIRK_SEED` chooses others.
 */
import { join } from 'node:path';
import fc from 'fast-check';
import type { ScreenDrillId } from '../../src/core/model/drill.ts';
import type { Step } from '../../src/core/model/intent-parts.ts';
import { UnreadableError } from '../../src/core/model/problem.ts';
import type { AndroidDevice } from '../../src/device/android/android-device.ts';
import { takePicture } from '../../src/device/android/take-picture.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { allScreenDrills } from '../../src/device/drills/on-screen/screen-drills.ts';
import { appInFront } from '../../src/device/in-hand/app-in-front.ts';
import { drillHere } from '../../src/device/in-hand/drill-here.ts';
import { OutOfReach } from '../../src/device/out-of-reach.ts';
import { decodeImage } from '../../src/node/decode-image.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { frontWindow } from '../../src/standins/phone/os/front-window.ts';
import type { PhoneOs } from '../../src/standins/phone/os/phone-os.ts';
import { isQuirk, QUIRKS, type Quirk } from '../../src/standins/phone/quirks.ts';
import { middleOf } from '../support/by-thumb.ts';
import { formatClass, screenOf } from '../support/drill-bench.ts';
import { scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const stateFolder = join(scratchFolder(), 'state');
const PAIRS = Number(process.env.QUIRK_PAIRS ?? 0);
const BOOKING = screenOf('booking');
const all = Object.keys(QUIRKS).filter(isQuirk);
const drills = allScreenDrills.map(({ id }) => id);

/** What a drill may come to instead, and for what reason. */
const MAY_END: Partial<Record<Quirk, { reason: RegExp; drills?: readonly ScreenDrillId[] }>> = {
  'never-idle': { reason: /could not get idle state/ },
  'input-refused': { reason: /refuses touches and keys/ },
  'kills-at-once': {
    reason: /^invalid (other-process|same-process|not-destroyed|not-switched-back)/,
  },
  'own-recents': { reason: /^invalid not-switched-back/, drills: ['recents'] },
  'locks-itself': { reason: /its screen is off or locked|above|no app in front/ },
};

/** By the phone's own touches, whatever its bridge makes of them. */
async function goByFinger(os: PhoneOs, steps: readonly Step[]): Promise<void> {
  await os.launch('example.kelpline');
  for (const step of steps) {
    const name = 'tap' in step ? step.tap : 'into' in step ? step.into : '';
    for (let scrolls = 0; ; scrolls++) {
      const window = await frontWindow(os);
      const at = middleOf(window!.screen.hierarchyXml(window!.appId), name);
      if (at) {
        await os.input.tap(...at);
        break;
      }
      if (scrolls === 8) throw new Error(`nothing is called ${name}`);
      await os.input.swipe(540, 1500, 540, 900);
    }
    if ('type' in step) os.input.type(step.type);
  }
}

async function boot(quirks: readonly Quirk[]): Promise<{ phone: ServedPhone; device: AndroidDevice }> {
  const phone = await bootPhone({ quirks });
  return { phone, device: await openDevice(phone.address, { stateFolder }) };
}

/** The class, or the words of the error. */
async function endsIn({ device, phone }: Awaited<ReturnType<typeof boot>>, id: ScreenDrillId) {
  const { activities } = phone.os;
  phone.os.wake();
  phone.os.unlock();
  phone.os.cover = undefined;
  activities.forceStop('example.kelpline');
  await goByFinger(phone.os, [...BOOKING.reach!, ...BOOKING.change]);
  try {
    const { came, run } = await drillHere(device, await appInFront(device), id, { stateFolder });
    return run.stopped ? `invalid ${run.stopped.why}` : formatClass(came);
  } catch (error) {
    if (error instanceof OutOfReach || error instanceof UnreadableError) return error.message;
    throw error;
  }
}

const tidyClasses = new Map<ScreenDrillId, string>();

async function tidyClassOf(id: ScreenDrillId): Promise<string> {
  const known = tidyClasses.get(id);
  if (known !== undefined) return known;
  const tidy = await boot([]);
  try {
    const found = await endsIn(tidy, id);
    tidyClasses.set(id, found);
    return found;
  } finally {
    await tidy.device.close();
    await tidy.phone.close();
  }
}

async function expectSame(quirks: readonly Quirk[], ids: readonly ScreenDrillId[]): Promise<void> {
  const quirky = await boot(quirks);
  try {
    for (const id of ids) {
      const [wanted, found] = [await tidyClassOf(id), await endsIn(quirky, id)];
      const excuses = quirks.flatMap((quirk) => MAY_END[quirk] ?? []);
      const isExcused = excuses.some(
        ({ drills: only, reason }) => (only?.includes(id) ?? true) && reason.test(found),
      );
      expect([quirks, id, isExcused ? wanted : found]).toEqual([quirks, id, wanted]);
    }
  } finally {
    await quirky.device.close();
    await quirky.phone.close();
  }
}

// each drill comes up under one quirk at least
test.each(all.map((quirk, i) => [quirk, drills[i % drills.length]!] as const))(
  '%s: %s ends in the class that it has without, or says why it proves nothing',
  (quirk, id) => expectSame([quirk], PAIRS > 0 ? drills : [id]),
);

test.each(
  fc.sample(
    fc.tuple(
      fc.uniqueArray(fc.constantFrom(...all), { minLength: 2, maxLength: 2 }),
      fc.constantFrom(...drills),
    ),
    { numRuns: Math.max(2, PAIRS), seed: Number(process.env.QUIRK_SEED ?? 24) },
  ),
)('%j together: %s', (quirks, id) => expectSame(quirks, PAIRS > 0 ? drills : [id]));

test.each(['two-displays', 'other-display'] as const)('%s: the picture is of the app', async (quirk) => {
  const { device, phone } = await boot([quirk]);
  try {
    await phone.os.launch('example.kelpline');
    const { data } = await decodeImage('picture', await takePicture(device));
    expect(new Set(data).size).toBeGreaterThan(20);
  } finally {
    await device.close();
    await phone.close();
  }
});
