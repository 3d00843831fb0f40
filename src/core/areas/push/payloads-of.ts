import type { PayloadFact } from '../../model/facts/push.ts';
import { payloadFileOf } from '../../model/intent-parts.ts';
import type { FactIndex, IntentWith } from '../check.ts';

/**
 * Messages that are for this platform: those that were added, and for each that the intent file names and nobody added
 * what is missingEvidence.
 */
export function* payloadsOf(
  facts: FactIndex<'package' | 'payload' | 'push-setup'>,
  { push }: IntentWith,
): Iterable<PayloadFact | { missingEvidence: string }> {
  const [app] = facts.of('package');
  const form = app?.platform === 'ios' ? 'apple' : 'android';
  const added = facts.of('payload');
  const setups = facts.of('push-setup');
  const dealsWithPush = setups.some(({ isDeclared, services }) => isDeclared || services.length > 0);
  if (added.length === 0 && push.messages.length === 0 && dealsWithPush)
    yield { missingEvidence: 'a push message, nor named one under push.messages in fenlok.yaml' };
  yield* added.filter(({ payload }) => payload.form === form);
  for (const message of push.messages) {
    const file = payloadFileOf(message, app?.platform ?? 'android');
    if (file !== undefined && !added.some(({ name }) => isNamed(file, name))) yield { missingEvidence: file };
  }
}

/** A message goes by as much of its path as tells it from the others. */
export const isNamed = (path: string, name: string): boolean => path === name || path.endsWith(`/${name}`);
