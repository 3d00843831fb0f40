/** The app's messages, and how each fares: as a payload, shown in each state of the app, tapped, and its buttons. */

import { lastPushRuns } from '../../areas/push/last-push-runs.ts';
import { isNamed } from '../../areas/push/payloads-of.ts';
import type { PushRunFact } from '../../model/facts/push.ts';
import type { IntentPushMessage } from '../../model/intent-parts.ts';
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
      rows: context.intent.push.messages.map((message) => ({
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

function cellsOf(
  message: IntentPushMessage,
  runs: readonly PushRunFact[],
  context: MatrixContext,
): TableCell[] {
  const { actions, id, screen } = message;
  const tried = (wanted: (run: PushRunFact) => boolean): Outcome =>
    runs.some(wanted) ? 'passed' : 'untested';
  const shown = STATES.map((state) =>
    context.cell(
      context.about({ kind: 'message', id, part: state }, 'push-shown', 'push-silent'),
      tried((run) => run.state === state && run.status === 200),
    ),
  );
  const taps = STATES.map((state) =>
    screen === undefined
      ? inapplicableCell
      : context.cell(
          context.about({ kind: 'message', id, part: state }, 'push-tap'),
          tried((run) => run.state === state && run.tapped && run.action === undefined),
        ),
  );
  const pressed = actions.map(({ label }) => tried((run) => run.action === label));
  const buttons =
    actions.length === 0
      ? inapplicableCell
      : context.cell(
          context.about({ kind: 'message', id }, 'push-action'),
          pressed.includes('untested') ? 'untested' : 'passed',
        );
  return [payloadCell(message, context), ...shown, ...taps, buttons];
}

function payloadCell({ payload }: IntentPushMessage, context: MatrixContext): TableCell {
  const names = context.facts.of('payload').flatMap(({ name }) => (isNamed(payload, name) ? [name] : []));
  const found = names.flatMap((id) =>
    context.about({ kind: 'payload', id }, 'payload-rules', 'payload-target', 'payload-texts'),
  );
  return context.cell(found, names.length > 0 ? 'passed' : 'untested');
}
