/** A link as another app would hand it over: with the app gone, left, and in front. Who takes it, and where it lands. */
import { crashInLog } from '../../core/areas/lifecycle/runs/crash-in-log.ts';
import { placeNodes } from '../../core/model/ui-tree.ts';
import type { Device } from '../bridge/device.ts';
import { makeReady, type ReadyFor } from '../drills/walks/make-ready.ts';
import { findApp, logMoment, logSince } from '../phone/app.ts';
import { quoteShell } from '../phone/quote-shell.ts';
import { takeSnapshot } from '../phone/snapshot.ts';

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

/** Who takes it as things stand, told by the system without opening anything. @returns an app id, or nothing */
export async function takerOf(device: Device, url: string): Promise<string | undefined> {
  const { out } = await device.run(
    `cmd package resolve-activity --brief -a android.intent.action.VIEW -c android.intent.category.BROWSABLE -d ${quoteShell(url)}`,
  );
  return /^([\w.]+)\//m.exec(out)?.[1];
}

/**
 * @param appId the app that is to be gone, left or in front meanwhile; it need not be the one that takes it
 * @throws OutOfReach
 */
export async function* fireLink(device: Device, url: string, appId: string): AsyncGenerator<FiredLink> {
  const app = await findApp(device, appId);
  for (const how of ['cold', 'warm', 'front'] as const) {
    if (app) await makeReady(device, app, how);
    const moment = await logMoment(device);
    const before = (await logSince(device, moment)).length;
    const { err, out } = await device.run(
      `am start -W -a android.intent.action.VIEW -c android.intent.category.BROWSABLE -d ${quoteShell(url)}`,
    );
    const taker = /^Activity: (\S+)/m.exec(out)?.[1] ?? '';
    const { activity, tree } = await takeSnapshot(device);
    const log = (await logSince(device, moment)).slice(before);
    const refused = /^Error: (.+)$/m.exec(`${out}\n${err}`)?.[1];
    const crash = crashInLog(log, taker.split('/')[0] || appId);
    yield {
      how,
      taker,
      landed: activity,
      title: placeNodes(tree).find(({ node }) => node.text)?.node.text ?? '',
      ...(!taker && { refused: refused ?? 'nobody was started' }),
      ...(crash && { crash }),
    };
    // without an entry in the launcher it can be neither left nor brought to the front
    if (!app) return;
  }
}

/** What the system knows of the site's word for the app (`pm get-app-links`, Android 12 on): `verified`, `none`, `1024` … */
export async function siteWordOf(device: Device, appId: string, host: string): Promise<string | undefined> {
  const { out } = await device.run(`pm get-app-links ${appId}`);
  return out
    .split(/\r?\n/)
    .map((line) => line.trim().split(/:\s*/))
    .find(([name]) => name === host)?.[1];
}
