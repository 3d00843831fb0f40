/** The way to a screen: from the app's first one, by the steps of the intent file. */
import type { IntentScreen, Step } from '../../core/model/intent-parts.ts';
import type { Device, DeviceApp, Snapshot } from '../device.ts';
import { until } from './pause.ts';
import { performStep, StepFailed } from './perform-step.ts';

/** From nothing: the app is ended, opened, and led to the screen. @throws StepFailed */
export async function navigateTo(
  device: Device,
  app: DeviceApp,
  screen: IntentScreen,
  onFirst: (first: Snapshot) => void = () => {},
): Promise<void> {
  await device.stop(app);
  await device.launch(app);
  const first = await device.snapshot();
  onFirst(first);
  if (!screen.reach && !(screen.activity && first.activity.endsWith(screen.activity)))
    throw new StepFailed(
      'reach',
      `fenlok.yaml has no way to it: write \`reach:\` steps, or take them from a roam`,
    );
  await performSteps(device, app, screen.reach ?? []);
  await arrive(device, screen);
}

export async function performSteps(device: Device, app: DeviceApp, steps: readonly Step[]): Promise<void> {
  for (const step of steps) await performStep(device, app, step);
}

const ARRIVES_WITHIN_MS = 5_000;

async function arrive(device: Device, { activity }: IntentScreen): Promise<void> {
  // of iOS nothing tells which screen it is but what stands on it
  if (!activity || device.platform === 'ios') return;
  let now = '';
  const arrived = await until(async () => {
    now = (await device.snapshot()).activity;
    return now.endsWith(activity);
  }, ARRIVES_WITHIN_MS);
  if (!arrived)
    throw new StepFailed('arrive', `expected ${activity} in front, found ${now || 'nothing of the app'}`);
}
