/** The app's messages, and how each fares: as a payload, shown in each state of the app, tapped, and its buttons. */

import { landingOf } from '../../areas/push/landing.ts';
import { lastPushRuns } from '../../areas/push/last-push-runs.ts';
import { isNamed } from '../../areas/push/payloads-of.ts';
import type { Platform } from '../../model/candidate.ts';
import type { PushRunFact } from '../../model/facts/push.ts';
import { type IntentPushMessage, payloadFileOf } from '../../model/intent-parts.ts';
import type { TableCell } from '../../model/judgement.ts';
import type { Outcome } from '../../model/outcome.ts';
import { inapplicableCell, type Matrix, type MatrixContext } from './matrix.ts';

const STATES = ['front', 'background', 'not-running'] as const;
const COLUMNS = [
  'payload',
  'in front',
  'background',
  'not running',
  'tap in front',
  'tap in background',
  'tap, not running',
  'buttons',
];

export const messagesMatrix: Matrix = {
  id: 'messages',
  drill: 'push',
  table: (context) => {
    const runs = lastPushRuns(context.facts);
    return {
      columns: COLUMNS,
      rows: context.intent.push.messages.filter(isSentHere(context)).map((message) => ({
        name: message.id,
        note: message.screen === undefined ? 'silent' : `→ ${message.screen}`,
        cells: cellsOf(
          message,
          runs.filter((run) => run.message === message.id),
          context,
        ),
      })),
    };
  },
};

const platformOf = ({ facts }: MatrixContext): Platform => facts.of('package')[0]?.platform ?? 'android';

const isSentHere =
  (context: MatrixContext) =>
  (message: IntentPushMessage): boolean =>
    payloadFileOf(message, platformOf(context)) !== undefined;

function cellsOf(
  message: IntentPushMessage,
  runs: readonly PushRunFact[],
  context: MatrixContext,
): TableCell[] {
  const { actions, id, screen } = message;
  const tried = (wanted: (run: PushRunFact) => boolean): Outcome =>
    runs.some(wanted) ? 'passed' : 'untested';
  const isKnown = (run: PushRunFact, wanted: string) => landingOf(run, wanted, context.intent) !== 'unknown';
  const shown = STATES.map((state) =>
    context.cell(
      context.about({ kind: 'message', id, part: state }, 'push-shown', 'push-silent'),
      // on iOS silence shows nothing
      tried((run) => run.state === state && run.status === 200 && (run.platform !== 'ios' || isSeen(run))),
    ),
  );
  const taps = STATES.map((state) =>
    screen === undefined
      ? inapplicableCell
      : context.cell(
          context.about({ kind: 'message', id, part: state }, 'push-tap'),
          tried(
            (run) => run.state === state && run.tapped && run.action === undefined && isKnown(run, screen),
          ),
        ),
  );
  const pressed = actions.map((action) =>
    tried((run) => run.action === action.label && (!run.tapped || isKnown(run, action.screen))),
  );
  const buttons =
    actions.length === 0
      ? inapplicableCell
      : context.cell(
          context.about({ kind: 'message', id }, 'push-action'),
          pressed.includes('untested') ? 'untested' : 'passed',
        );
  return [payloadCell(message, context), ...shown, ...taps, buttons];
}

const isSeen = ({ shown, told }: PushRunFact): boolean => shown !== undefined || told;

function payloadCell(message: IntentPushMessage, context: MatrixContext): TableCell {
  const file = payloadFileOf(message, platformOf(context))!;
  const names = context.facts.of('payload').flatMap(({ name }) => (isNamed(file, name) ? [name] : []));
  const found = names.flatMap((id) =>
    context.about({ kind: 'payload', id }, 'payload-rules', 'payload-target', 'payload-texts'),
  );
  return context.cell(found, names.length > 0 ? 'passed' : 'untested');
}
