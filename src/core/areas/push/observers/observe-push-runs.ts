/** Messages that a drill sent to a device, from its trace: permission, token, and each message in each state. */

import type {
  PushChannelsFact,
  PushPermissionFact,
  PushRunFact,
  PushTokenFact,
} from '../../../model/facts/push.ts';
import { LOG_TAG } from '../../../model/log-tag.ts';
import type { DrillLine, DrillLineOf, SeenLine, TraceLine } from '../../../model/trace.ts';
import { placeNodes } from '../../../model/ui-tree.ts';
import { crashInLog, ENDED } from '../../lifecycle/runs/crash-in-log.ts';
import { screenOutline, similarity } from '../../lifecycle/state/screen-state.ts';
import type { TraceEvidence, TraceObserver } from '../../observer.ts';

export const observePushRuns = {
  id: 'push-runs',
  reads: 'trace',
  *observe(trace) {
    const lines = trace.lines as (TraceLine | DrillLine)[];
    const began = lines.find(isKind('drill.began'));
    if (began?.drill !== 'push') return;
    const reading: Reading = { trace, began, lines };
    for (const asked of lines.filter(isKind('permission.asked')))
      if (!asked.step.startsWith(REINSTALLED)) yield permissionOf(asked, reading);
    // a walk that did not get so far says nothing of tokens
    const isAllowed = lines.filter(isKind('permission.asked')).some(({ step }) => step === 'allowed');
    if (isAllowed || lines.some(isKind('token.registered'))) yield tokenOf(reading);
    for (const { at, channels, locale, step } of lines.filter(isKind('channels.seen')))
      yield {
        kind: 'push-channels',
        ...common(reading, step),
        at,
        locale,
        channels: channels.map(({ id, name }) => ({ id, name })),
      } satisfies PushChannelsFact;
    for (const sent of lines.filter(isKind('message.sent')))
      if (sent.step.startsWith('message-')) yield runOf(sent, reading);
  },
} satisfies TraceObserver;

/** Steps after the app was removed and installed again. */
const REINSTALLED = 'reinstalled';
/** Steps that look at a screen to which messages lead. */
const GOAL = 'goal-';

interface Reading {
  trace: TraceEvidence;
  began: DrillLineOf<'drill.began'>;
  lines: readonly (TraceLine | DrillLine)[];
}

const isKind =
  <K extends DrillLine['kind']>(kind: K) =>
  (line: TraceLine | DrillLine): line is DrillLineOf<K> =>
    line.kind === kind;

const common = ({ began, trace }: Reading, step: string) => ({
  platform: trace.platform,
  evidence: trace.digest,
  cell: { ...began.cell, step },
  deviceId: began.deviceId,
});

/** What was written under a step, up to the next one like it. */
const under = <K extends DrillLine['kind']>({ lines }: Reading, kind: K, step: string): DrillLineOf<K>[] =>
  lines.filter(isKind(kind)).filter((line) => (line as unknown as { step: string }).step === step);

/** The log from a line on, until the next message or question. */
function logFrom({ began, lines }: Reading, from: TraceLine | DrillLine) {
  const at = lines.indexOf(from);
  const next = lines.findIndex(
    ({ kind }, i) => i > at && (kind === 'message.sent' || kind === 'permission.asked'),
  );
  const log = lines.slice(at, next < 0 ? undefined : next).filter(isKind('log.line'));
  const crash = crashInLog(log, began.appId);
  return { log, ...(crash && { crash }) };
}

function permissionOf(asked: DrillLineOf<'permission.asked'>, reading: Reading): PushPermissionFact {
  const [now] = under(reading, 'app-state.seen', asked.step);
  const crash = logFrom(reading, asked).crash ?? (now?.state === 'not-running' ? ENDED : undefined);
  return {
    kind: 'push-permission',
    ...common(reading, asked.step),
    at: asked.at,
    asked: asked.asked,
    answer: asked.answer,
    ...(asked.granted !== undefined && { granted: asked.granted }),
    shown: under(reading, 'notifications.seen', asked.step).flatMap(({ posted }) => posted).length,
    ...(crash && { crash }),
  };
}

function tokenOf(reading: Reading): PushTokenFact {
  const { began, lines } = reading;
  const tokens = lines.filter(isKind('token.registered'));
  const first = tokens.find(({ step }) => !step.startsWith(REINSTALLED));
  const second = tokens.find(({ step }) => step.startsWith(REINSTALLED));
  const sent = lines.filter(isKind('message.sent'));
  const old = sent.find(({ step }) => step === `${REINSTALLED}-old`);
  return {
    kind: 'push-token',
    ...common(reading, 'token'),
    at: began.at,
    ...(first && { token: { bytes: first.bytes, isHex: first.isHex, digest: first.digest } }),
    service: sent[0]?.service ?? 'gateway',
    answers: sent
      .filter(({ step }) => step.startsWith('environment-'))
      .map(({ environment, reason, status }) => ({ environment, status, ...(reason && { reason }) })),
    ...(old && {
      reinstalled: {
        isToken: second !== undefined,
        isRenewed: second !== undefined && second.digest !== first?.digest,
        oldStatus: old.status,
      },
    }),
  };
}

function runOf(sent: DrillLineOf<'message.sent'>, reading: Reading): PushRunFact {
  const { began } = reading;
  const { step } = sent;
  const { crash, log } = logFrom(reading, sent);
  const tap = under(reading, 'message.tapped', step)[0];
  // traces of before tell it of a touch alone
  const action = sent.action ?? tap?.action;
  const seen = under(reading, 'notifications.seen', step);
  const last = under(reading, 'screen.seen', step).at(-1) as SeenLine | undefined;
  const landed = last?.activity ?? '';
  // a number that is never there may be one that nobody can read
  const isRead = reading.lines.filter(isKind('badge.seen')).some(({ badge }) => badge > 0);
  const badge = isRead ? under(reading, 'badge.seen', step)[0]?.badge : undefined;
  const ended = crash ?? (wasEnded(sent, tap !== undefined, reading) ? ENDED : undefined);
  const [posted] = seen[0]?.posted ?? [];
  return {
    kind: 'push-run',
    ...common(reading, step),
    at: sent.at,
    message: sent.message,
    state: sent.state,
    status: sent.status,
    ...(sent.reason && { reason: sent.reason }),
    ...(posted && {
      shown: {
        channel: posted.channel,
        title: posted.title,
        text: posted.text,
        actions: posted.actions ?? [],
      },
    }),
    told: log.some(({ message, tag }) => tag === LOG_TAG && message.includes('"push.received"')),
    tapped: tap !== undefined,
    ...(action !== undefined && { action }),
    landed,
    inApp: landed.startsWith(`${began.appId}/`),
    ...similarityToGoals(last, reading),
    ...(sent.counts && { counts: true as const }),
    ...(badge !== undefined && { badge }),
    left: seen.length > 1 ? seen.at(-1)!.posted.length : 0,
    ...(ended && { crash: ended }),
  };
}

/** Of iOS no log tells it: the app was in front, or was opened by a touch, and is not there. */
function wasEnded(
  { state, step }: DrillLineOf<'message.sent'>,
  isTapped: boolean,
  reading: Reading,
): boolean {
  const now = under(reading, 'app-state.seen', step).at(-1)?.state;
  return now === 'not-running' && (isTapped || state === 'front');
}

/** To the screens that were looked at before. */
function similarityToGoals(
  last: SeenLine | undefined,
  { lines }: Reading,
): Pick<PushRunFact, 'like' | 'title'> {
  const goals = lines.filter(isKind('screen.seen')).filter(({ step }) => step.startsWith(GOAL));
  if (!last?.tree || goals.length === 0) return {};
  const outline = screenOutline(last.tree);
  const like = goals.flatMap((goal) => {
    const { tree } = goal as SeenLine;
    return tree ? [[goal.step.slice(GOAL.length), similarity(screenOutline(tree), outline)] as const] : [];
  });
  const title = placeNodes(last.tree).find(({ node }) => node.text)?.node.text ?? '';
  return { like: Object.fromEntries(like), title };
}
