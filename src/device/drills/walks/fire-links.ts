/** Links of one route, handed to a device as another app would: with the app gone, left, and in front. */
import { type LinkProbe, probesOf } from '../../../core/areas/links/probes.ts';
import type { Intent } from '../../../core/model/intent.ts';
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { DrillLine, DrillLineOf } from '../../../core/model/trace.ts';
import { NoDump } from '../../out-of-reach.ts';
import { navigateTo } from '../../phone/navigate-to.ts';
import { performStep, StepFailed } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import { makeReady } from './make-ready.ts';

type How = DrillLineOf<'link.fired'>['how'];

const MOST_BACKS = 6;

/** @throws OutOfReach */
export async function fireLinks(
  subject: DrillSubject,
  intent: Intent,
  routeId: string,
  signal?: AbortSignal,
): Promise<DrillLine[]> {
  const { app, device } = subject;
  const route = intent.links.routes.find(({ id }) => id === routeId)!;
  const { lines, write } = beginTrace(subject, 'links', route.screen);
  let shots = 0;
  const fire = async (probe: LinkProbe, how: How, addressed: boolean): Promise<boolean> => {
    signal?.throwIfAborted();
    const step = `link-${++shots}`;
    await makeReady(device, app, how);
    const from = how === 'front' ? (await device.snapshot()).activity : '';
    const moment = await device.logMoment();
    const before = (await device.logSince(moment)).length;
    const mine = (await device.logSince(moment, 'main')).length;
    const { started } = await device.openLink(probe.url, addressed ? app : undefined);
    write('link.fired', {
      step,
      url: probe.url,
      how,
      addressed,
      route: routeId,
      probe: probe.kind,
      variant: probe.variant,
      arguments: probe.arguments,
      started,
      from,
    });
    const seen = await device.snapshot();
    write('screen.seen', { step, activity: seen.activity, hierarchy: seen.hierarchy });
    const state = await device.stateOf(app);
    if (state !== undefined) write('app-state.seen', { step, state });
    if (probe.kind !== 'hostile' && route.shows.some((text) => !seen.hierarchy.includes(escapeXml(text))))
      await lookBelow(subject, step, write);
    const logged = [
      ...(await device.logSince(moment)).slice(before),
      ...(await device.logSince(moment, 'main')).slice(mine).filter(({ tag }) => tag === LOG_TAG),
    ];
    for (const { message, pid, tag } of logged) write('log.line', { tag, pid, message });
    // a refused link leaves in front what was there
    const inApp = [started, seen.activity].every((activity) => activity.startsWith(`${app.appId}/`));
    if (inApp && probe.kind === 'good' && !device.whyNot('back')) await walkBack(subject, step, write);
    return inApp;
  };
  try {
    await lookAtGoal(subject, intent, route.screen, write);
    for (const probe of probesOf({ ...intent, links: { ...intent.links, routes: [route] } })) {
      for (const how of waysOf(probe)) {
        const arrived = await fire(probe, how, false);
        // what the package keeps out is tried by name, so that the app itself is looked at all the same
        if (!arrived && probe.kind !== 'edge') await fire(probe, how, true);
      }
    }
  } catch (error) {
    if (!(error instanceof NoDump)) throw error;
    write('drill.stopped', { step: 'dump', why: error.message });
  }
  write('drill.ended', {});
  return lines;
}

/**
 * Where nothing names the screens of an app, the one that the links are for is looked at first: where they land is held against that.
 * A screen that cannot be reached is told by the drills on it, and landings on it stay untested.
 */
async function lookAtGoal(
  { app, device }: DrillSubject,
  { screens }: Intent,
  id: string,
  write: ReturnType<typeof beginTrace>['write'],
): Promise<void> {
  const screen = screens.find((one) => one.id === id);
  if (device.platform === 'android' || !screen) return;
  try {
    await navigateTo(device, app, screen);
    const { activity, hierarchy } = await device.snapshot();
    write('screen.seen', { step: 'goal', activity, hierarchy });
  } catch (error) {
    if (!(error instanceof StepFailed)) throw error;
  }
}

/** What is not in sight may stand further down; where nothing scrolls there is no more to see. */
async function lookBelow(
  { app, device }: DrillSubject,
  step: string,
  write: ReturnType<typeof beginTrace>['write'],
): Promise<void> {
  try {
    await performStep(device, app, { scroll: 'down' });
  } catch (error) {
    if (error instanceof StepFailed) return;
    throw error;
  }
  const { activity, hierarchy } = await device.snapshot();
  write('screen.seen', { step: `${step}-below`, activity, hierarchy });
}

/** As it stands in the dump. */
const escapeXml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

/** Arguments are read in another place when the app is there already. */
function waysOf({ kind, variant }: LinkProbe): How[] {
  if (kind === 'good') return ['cold', 'warm', 'front'];
  return variant === 'argument-malformed' ? ['cold', 'front'] : ['cold'];
}

async function walkBack(
  { app, device }: DrillSubject,
  step: string,
  write: ReturnType<typeof beginTrace>['write'],
): Promise<void> {
  for (let n = 1; n <= MOST_BACKS; n++) {
    await device.press('BACK');
    const { activity, hierarchy } = await device.snapshot();
    write('screen.seen', { step: `${step}-back-${n}`, activity, hierarchy });
    if (!activity.startsWith(`${app.appId}/`)) return;
  }
}
