/** What is to be run on a device, in which order, and about how long it takes. */
import { plannedCells } from '../../core/checklist/coverage.ts';
import type { DrillId } from '../../core/model/drill.ts';

import type { Intent, IntentScreen } from '../../core/model/intent.ts';
import type { CoverageCell } from '../../core/model/judgement.ts';
import type { Device } from '../bridge/device.ts';
import { isKnownProcedure } from './capture-screen.ts';
import type { ScreenDrill } from './drill.ts';
import { allScreenDrills } from './screen-drills.ts';

type PlannedCell = CoverageCell['cell'];

export type PlanStep =
  | { kind: 'capture'; drill: 'capture-sweep'; cell: PlannedCell; screen: IntentScreen }
  | { kind: 'screen'; drill: ScreenDrill['id']; run: ScreenDrill; screen: IntentScreen }
  | { kind: 'cold-start'; drill: 'cold-start' }
  | { kind: 'links'; drill: 'fire-links'; route: string }
  | { kind: 'push'; drill: 'push-walk' }
  | { kind: 'store'; drill: 'buy-flows' }
  | { kind: 'ads'; drill: 'load-ads' }
  | { kind: 'roam'; drill: 'roam' };

export interface Plan {
  steps: PlanStep[];
  /** What cannot be done on this device, and why. */
  left: { what: string; why: string }[];
  /** Already in the dossier. */
  done: number;
}

export interface Wanted {
  drills: readonly DrillId[];
  screens?: readonly string[];
  /** Words that a step's description must hold, all of them. */
  only?: readonly string[];
  /** There is a gateway that messages can be sent from. */
  hasGateway?: boolean;
  /** There is a test store that things can be bought from. */
  hasStore?: boolean;
  /** There are ad networks of a test that answer. */
  hasAds?: boolean;
}

/** @param isDone what an earlier call has done for this build on this device */
export function planDrills(
  intent: Intent,
  device: Device,
  wanted: Wanted,
  isDone: (step: PlanStep) => boolean,
): Plan {
  const plan: Plan = { steps: [], left: [], done: 0 };
  const screens = intent.screens.filter(({ id }) => !wanted.screens || wanted.screens.includes(id));
  const add = (step: PlanStep) => {
    const words = sayStepOf(step).split(/[\s,]+/);
    if (wanted.only?.some((word) => !words.includes(word))) return;
    if (isDone(step)) plan.done += 1;
    else plan.steps.push(step);
  };
  if (wanted.drills.includes('capture-sweep'))
    for (const cell of bySettings(plannedCells(intent))) {
      const screen = screens.find(({ id }) => id === cell.screen);
      const why = whyNotCaptured(cell, intent, device);
      if (screen && why) plan.left.push({ what: sayCellOf(cell), why });
      else if (screen) add({ kind: 'capture', drill: 'capture-sweep', cell, screen });
    }
  if (wanted.drills.includes('cold-start')) add({ kind: 'cold-start', drill: 'cold-start' });
  for (const run of allScreenDrills) {
    if (!wanted.drills.includes(run.id)) continue;
    const why = run.notOn?.(device);
    if (why) plan.left.push({ what: run.id, why });
    else for (const screen of screens) add({ kind: 'screen', drill: run.id, run, screen });
  }
  const nothing = (drill: DrillId, what: string) =>
    plan.left.push({ what: drill, why: `fenlok.yaml names no ${what}` });
  if (wanted.drills.includes('fire-links') && intent.links.routes.length === 0)
    nothing('fire-links', 'routes');
  if (wanted.drills.includes('fire-links'))
    for (const { id, screen } of intent.links.routes)
      if (screens.some((one) => one.id === screen)) add({ kind: 'links', drill: 'fire-links', route: id });
  if (wanted.drills.includes('push-walk')) {
    if (intent.push.messages.length === 0) nothing('push-walk', 'messages');
    else if (device.info.sdk < SDK_OF_QUESTION)
      plan.left.push({ what: 'push-walk', why: 'the system asks for the permission from Android 13 on' });
    else if (wanted.hasGateway) add({ kind: 'push', drill: 'push-walk' });
    else plan.left.push({ what: 'push-walk', why: 'it needs a gateway to send from: --push FILE' });
  }
  if (wanted.drills.includes('buy-flows')) {
    if (intent.purchases.products.every(({ buy }) => buy.length === 0))
      nothing('buy-flows', 'products with the steps that buy them');
    else if (wanted.hasStore) add({ kind: 'store', drill: 'buy-flows' });
    else plan.left.push({ what: 'buy-flows', why: 'it needs a test store to buy from: --store FILE' });
  }
  if (wanted.drills.includes('load-ads')) {
    if (intent.ads.placements.every(({ load }) => load === undefined))
      nothing('load-ads', 'placements with the steps that load them');
    else if (wanted.hasAds) add({ kind: 'ads', drill: 'load-ads' });
    else plan.left.push({ what: 'load-ads', why: 'it needs ad networks that answer: --ads FILE' });
  }
  if (wanted.drills.includes('roam')) add({ kind: 'roam', drill: 'roam' });
  return plan;
}

/** Settings change as seldom as they can: each change makes the app anew. */
function bySettings(cells: readonly PlannedCell[]): PlannedCell[] {
  const groups = new Map<string, PlannedCell[]>();
  for (const cell of cells) {
    const key = settingsOf(cell);
    groups.set(key, [...(groups.get(key) ?? []), cell]);
  }
  return [...groups.values()].flat();
}

export const settingsOf = ({ locale, orientation, procedure, textScale, theme }: PlannedCell): string =>
  [procedure, orientation, textScale, locale, theme].join('|');

const SDK_OF_APP_LOCALES = 33;
const SDK_OF_QUESTION = 33;

function whyNotCaptured(
  { locale, procedure }: PlannedCell,
  intent: Intent,
  { info }: Device,
): string | undefined {
  if (!isKnownProcedure(procedure))
    return `no setting of the device stands for the procedure ${procedure}; capture it by hand`;
  return locale !== intent.sourceLocale && info.sdk < SDK_OF_APP_LOCALES
    ? 'languages of one app alone need Android 13'
    : undefined;
}

const sayCellOf = ({ locale, orientation, procedure, screen, textScale, theme }: PlannedCell): string =>
  [
    screen,
    theme,
    locale,
    ...(textScale === 1 ? [] : [`${Math.round(textScale * 100)} %`]),
    ...(orientation === 'portrait' ? [] : [orientation]),
    ...(procedure === 'as-is' ? [] : [procedure]),
  ].join(', ');

/** For people: `process-death on booking`, `capture of booking, dark, de`. */
export function sayStepOf(step: PlanStep): string {
  if (step.kind === 'capture') return `capture of ${sayCellOf(step.cell)}`;
  if (step.kind === 'links') return `${step.drill} of ${step.route}`;
  return step.kind === 'screen' ? `${step.drill} on ${step.screen.id}` : step.drill;
}
