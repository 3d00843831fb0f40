/**
 * Further defects, planted by chance in the app's model and in no truth file: a value that a screen no longer saves, or keeps over
 * no change of configuration. Each must be found, on its screen alone. MUTATION_SEED plants others.
 */
import { join } from 'node:path';
import type { Check } from '../../src/core/areas/check.ts';
import { lostScreen } from '../../src/core/areas/lifecycle/checks/lost-screen.ts';
import { lostState } from '../../src/core/areas/lifecycle/checks/lost-state.ts';
import type { Step } from '../../src/core/model/intent-parts.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import type { DrillSubject } from '../../src/device/drills/drill-subject.ts';
import { runScreenDrill } from '../../src/device/drills/on-screen/run-screen-drill.ts';
import { allScreenDrills } from '../../src/device/drills/on-screen/screen-drills.ts';
import { openLookout } from '../../src/device/ios/ios-device.ts';
import { addPackage, type Dossier, openDossier } from '../../src/node/dossier.ts';
import type { PhoneApp, ScreenModel } from '../../src/standins/phone/app-model.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { kelplineDossier, kelplineIntent, runFactOf, screenOf, subjectOn } from '../support/drill-bench.ts';
import { run } from '../support/facts.ts';
import { scratchFolder } from '../support/paths.ts';
import { bootLookout, demoIpa } from '../support/served-lookout.ts';
import { bootPhone } from '../support/served-phone.ts';

interface Mutation {
  screen: string;
  value: string;
  /** What shows it, and what is done to it before. */
  shownBy: string;
  change: Step[];
}

const MUTATIONS: Mutation[] = [
  { screen: 'booking', value: 'email', shownBy: 'email_field', change: [{ type: 'x', into: 'email_field' }] },
  {
    screen: 'booking',
    value: 'passengers',
    shownBy: 'passengers_count',
    change: [{ tap: 'passengers_plus' }],
  },
  { screen: 'booking', value: 'bike', shownBy: 'bike_toggle', change: [{ tap: 'bike_toggle' }] },
  { screen: 'pass', value: 'plan', shownBy: 'plan_month', change: [{ tap: 'plan_month' }] },
  { screen: 'sailing', value: 'told', shownBy: 'add_alert > TextView[1]', change: [{ tap: 'add_alert' }] },
  { screen: 'alerts', value: 'read', shownBy: 'content', change: [{ tap: 'alert_dismiss' }] },
  {
    screen: 'timetable',
    value: 'back',
    shownBy: 'from_harbour > TextView[2]',
    change: [{ tap: 'swap_direction' }],
  },
];
// on alerts and on the pass process death has defects of its own
const DRILLS = ['discard', 'process-death', 'rotate'];
const isPlanted = ({ screen }: Mutation, drill: string) =>
  drill === 'process-death' && (screen === 'alerts' || screen === 'pass');

const seed = Number(process.env.MUTATION_SEED ?? 20261127);
let state = seed;
const chance = (below: number): number => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return Math.floor((state / 2 ** 32) * below);
};

const scratch = scratchFolder();
let dossier: Dossier;
let iosDossier: Dossier;
beforeAll(async () => {
  dossier = await kelplineDossier(join(scratch, 'dossier'));
  await addPackage(join(scratch, 'ios'), demoIpa);
  iosDossier = await openDossier(join(scratch, 'ios'));
});

function forget({ screen, value }: Mutation, app: PhoneApp = kelpline): PhoneApp {
  const model = app.screens[screen]!;
  const without = (names: readonly string[] = []) => names.filter((name) => name !== value);
  const mutated: ScreenModel = { ...model, saves: without(model.saves), retains: without(model.retains) };
  return { ...app, screens: { ...app.screens, [screen]: mutated } };
}

async function onPhone<T>(app: PhoneApp, use: (subject: DrillSubject) => Promise<T>): Promise<T> {
  const phone = await bootPhone({ apps: [app] });
  const device = await openDevice(phone.address, { stateFolder: join(scratch, 'state') });
  try {
    return await use(await subjectOn(device, dossier, join(scratch, 'state')));
  } finally {
    await device.close();
    await phone.close();
  }
}

async function onIosPhone<T>(app: PhoneApp, use: (subject: DrillSubject) => Promise<T>): Promise<T> {
  const served = await bootLookout('small-phone', app);
  const device = await openLookout(served.address, served.token);
  try {
    return await use(await subjectOn(device, iosDossier, join(scratch, 'state')));
  } finally {
    await device.close();
    await served.close();
  }
}

/** `lost-state email_field`, of one run. */
async function foundBy(
  drill: string,
  { change, screen }: Mutation,
  subject: DrillSubject,
): Promise<string[]> {
  const lines = await runScreenDrill(allScreenDrills.find(({ id }) => id === drill)!, subject, {
    ...screenOf(screen),
    change,
  });
  const fact = await runFactOf(lines);
  return [lostState, lostScreen].flatMap((check: Check) =>
    run(check, [fact], kelplineIntent).flatMap((one) =>
      'draft' in one ? [`${check.id} ${one.draft.identity.subject}`] : [],
    ),
  );
}

const chosen = MUTATIONS.flatMap((mutation) => {
  const drills = DRILLS.filter((drill) => !isPlanted(mutation, drill));
  return [[mutation.value, drills[chance(drills.length)]!, mutation] as const];
});

test.each(chosen)('%s is not kept: %s loses it, and it alone', async (_, drill, mutation) => {
  expect(await onPhone(kelpline, (subject) => foundBy(drill, mutation, subject))).toEqual([]);
  const found = await onPhone(forget(mutation), (subject) => foundBy(drill, mutation, subject));
  expect(found).toContain(`lost-state ${mutation.shownBy}`);
  expect(found.filter((one) => one.startsWith('lost-screen'))).toEqual([]);
});

const onIos = MUTATIONS.filter((mutation) => !isPlanted(mutation, 'process-death'));

test.each(onIos.map((mutation) => [mutation.value, mutation] as const))(
  'on iOS %s is not given to the system: process death loses it, and it alone',
  async (_, mutation) => {
    const find = (subject: DrillSubject) => foundBy('process-death', mutation, subject);
    expect(await onIosPhone(kelplineIos, find)).toEqual([]);
    const found = await onIosPhone(forget(mutation, kelplineIos), find);
    expect(found).toContain(`lost-state ${mutation.shownBy.replace('TextView', 'UILabel')}`);
    expect(found.filter((one) => one.startsWith('lost-screen'))).toEqual([]);
  },
);
