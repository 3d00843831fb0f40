/** The app's messages, and how each fares: as a payload, shown in each state of the app, tapped, and its buttons. */
import type { FactIndex } from '../areas/check.ts';
import { lastPushRuns } from '../areas/push/last-push-runs.ts';
import type { PushRunFact } from '../model/facts/push.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent, IntentPushMessage } from '../model/intent.ts';
import type { OutcomeTable, TableCell } from '../model/judgement.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';

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

export function coverPush(
  facts: FactIndex,
  findings: readonly Finding[],
  intent: Intent,
  strict: boolean,
): OutcomeTable {
  const runs = lastPushRuns(facts);
  const payloads = new Set(facts.of('payload').map(({ name }) => name));
  const cell = (told: readonly Finding[], otherwise: Outcome): TableCell => ({
    outcome: worstOf([...told.map((finding) => outcomeOf(finding, strict)), otherwise]) ?? otherwise,
    findings: told.map(({ id }) => id),
  });
  const rowOf = (message: IntentPushMessage): OutcomeTable['rows'][number] => {
    const isSilent = message.screen === undefined;
    const file = message.payload.split('/').at(-1)!;
    const ofMessage = runs.filter((run) => run.message === message.id);
    const told = (checks: readonly string[], aspect: (of: string) => boolean) =>
      findings.filter(
        ({ check, identity }) =>
          checks.includes(check) &&
          identity.subject === `message ${message.id}` &&
          aspect(identity.aspect ?? ''),
      );
    const wasRun = (wanted: (run: PushRunFact) => boolean) => ofMessage.some(wanted);
    const shown = STATES.map((state) =>
      cell(
        told(['push-shown', 'push-silent'], (aspect) => aspect.endsWith(state)),
        wasRun((run) => run.state === state && run.status === 200) ? 'passed' : 'untested',
      ),
    );
    const taps = STATES.map((state): TableCell => {
      if (isSilent) return { outcome: 'inapplicable', findings: [] };
      const isTapped = wasRun((run) => run.state === state && run.tapped && run.action === undefined);
      return cell(
        told(['push-tap'], (aspect) => aspect === state),
        isTapped ? 'passed' : 'untested',
      );
    });
    const buttons: TableCell =
      message.actions.length === 0
        ? { outcome: 'inapplicable', findings: [] }
        : cell(
            told(['push-action'], () => true),
            message.actions.every(({ label }) => wasRun((run) => run.action === label))
              ? 'passed'
              : 'untested',
          );
    const ofPayload = findings.filter(
      ({ check, identity }) =>
        ['payload-rules', 'payload-target', 'payload-texts'].includes(check) &&
        identity.subject.split(' ')[0] === file,
    );
    return {
      name: message.id,
      note: isSilent ? 'silent' : `→ ${message.screen}`,
      cells: [cell(ofPayload, payloads.has(file) ? 'passed' : 'untested'), ...shown, ...taps, buttons],
    };
  };
  return { columns: COLUMNS, rows: intent.push.messages.map(rowOf) };
}
