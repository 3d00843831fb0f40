import type { PushRunFact } from '../../model/facts/push.ts';
import type { FactIndex } from '../check.ts';

/** Of facts of one kind the last of each device and whatever else tells them apart; earlier ones are history. */
export function lastOf<F extends { at: string; deviceId: string }>(
  all: readonly F[],
  keyOf: (fact: F) => string,
): F[] {
  const last = new Map<string, F>();
  for (const fact of all) {
    const key = `${fact.deviceId}|${keyOf(fact)}`;
    const before = last.get(key);
    if (!before || before.at < fact.at) last.set(key, fact);
  }
  return [...last.values()];
}

export const lastPushRuns = (facts: FactIndex<'push-run'>): PushRunFact[] =>
  lastOf(facts.of('push-run'), ({ action = '', message, state }) => `${message}|${state}|${action}`);
