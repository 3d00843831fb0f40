/** Where a drill on a screen begins: where the intent file leads, or where a person stands. */
import type { IntentScreen } from '../../../core/model/intent-parts.ts';
import type { Snapshot } from '../../device.ts';
import { demandOwnWindow } from '../../phone/app-window.ts';
import { navigateTo, performSteps } from '../../phone/navigate-to.ts';
import type { DrillSubject } from '../drill-subject.ts';

/** Writes down what was in front. */
export type See = (step: string, snapshot: Snapshot) => void;

export interface Start {
  /** Names the screen in the trace. */
  screen: string;
  /** Leads to the screen, and does there what a person would. @throws StepFailed */
  arrive(subject: DrillSubject, see: See): Promise<void>;
  /** Refuses what is in front, where it cannot be drilled. @throws UnreadableError */
  demand?(subject: DrillSubject, before: Snapshot): void;
  /** Whether back may be pressed until the app is left, and what is there be lost. */
  mayWalkBack: boolean;
  /** What can be seen afterwards alone, where the screen did not come back. */
  lookAfterLoss?(subject: DrillSubject, see: See): Promise<void>;
}

/** From nothing, by the steps of the intent file. */
export const ledTo = (screen: IntentScreen): Start => ({
  screen: screen.id,
  arrive: async ({ app, device }, see) => {
    await navigateTo(device, app, screen, (first) => see('first', first));
    see('reached', await device.snapshot());
    await performSteps(device, app, screen.change);
  },
  mayWalkBack: true,
});

/** From what is in front. Only where it is lost anyway is the app opened once more, to tell whether it began again. */
export const here: Start = {
  screen: 'here',
  arrive: async () => {},
  demand: ({ app, device }, before) => demandOwnWindow(device, before, app.appId),
  mayWalkBack: false,
  lookAfterLoss: async ({ app, device }, see) => {
    await device.stop(app);
    await device.launch(app);
    see('first', await device.snapshot());
  },
};
