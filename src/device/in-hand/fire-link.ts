/** A link as another app would hand it over: with the app gone, left, and in front. Who takes it, and where it lands. */
import { crashInLog } from '../../core/areas/lifecycle/runs/crash-in-log.ts';
import { headlineOf } from '../../core/areas/lifecycle/state/screen-state.ts';
import type { Device } from '../device.ts';
import { makeReady, type ReadyFor } from '../drills/walks/make-ready.ts';

export interface FiredLink {
  how: ReadyFor;
  /** `example.app/.PassActivity`, as the system says who was started; empty where nobody took it. */
  taker: string;
  /** What is in front afterwards. */
  landed: string;
  /** The first text on it. */
  title: string;
  /** What the system said where nobody took it. */
  refused?: string;
  crash?: { exception: string; message: string; frame: string };
}

/**
 * @param appId the app that is to be gone, left or in front meanwhile; it need not be the one that takes it
 * @throws OutOfReach
 */
export async function* fireLink(device: Device, url: string, appId: string): AsyncGenerator<FiredLink> {
  const app = await device.findApp(appId);
  for (const how of ['cold', 'warm', 'front'] as const) {
    if (app) await makeReady(device, app, how);
    const moment = await device.logMoment();
    const before = (await device.logSince(moment)).length;
    const { refused, started: taker } = await device.openLink(url);
    const { activity, tree } = await device.snapshot();
    const log = (await device.logSince(moment)).slice(before);
    const crash = crashInLog(log, taker.split('/')[0] || appId);
    yield {
      how,
      taker,
      landed: activity,
      title: headlineOf(tree),
      ...(refused && { refused }),
      ...(crash && { crash }),
    };
    // without an entry in the launcher it can be neither left nor brought to the front
    if (!app) return;
  }
}
