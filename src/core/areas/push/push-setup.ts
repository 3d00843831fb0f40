/**
 * An app that gets messages declares so: on Android the permission (API level 33 on), a service, a small icon; on iOS the
 * entitlement, and the background mode for silent ones (Android developers, *Notification runtime permission*; Apple
 * developer documentation, *Registering your app with APNs*, *Pushing background updates to your App*).
 */
import type { PushSetupFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';

type Lack = 'permission' | 'service' | 'icon' | 'entitlement' | 'background-mode';

const PERMISSION_SINCE_SDK = 33;
/** The app may name an icon for each message, which cannot be seen in the package. */
const ESTIMATED: ReadonlySet<Lack> = new Set(['icon']);

export const pushSetup = {
  id: 'push-setup',
  area: 'push',
  needs: ['package', 'push-setup'],
  *run(facts, intent): Iterable<Assertion> {
    const [app] = facts.of('package');
    const [setup] = facts.of('push-setup');
    if (!app || !setup || intent.push.messages.length === 0) return;
    const silent = facts.of('payload').some(({ payload }) => payload.form === 'apple' && payload.silent);
    const lacks: [Lack, boolean][] =
      setup.platform === 'ios'
        ? [
            ['entitlement', !setup.isDeclared],
            ['background-mode', silent && !setup.wakesInBackground],
          ]
        : [
            ['permission', !setup.isDeclared && (app.targetSdk ?? 1) >= PERMISSION_SINCE_SDK],
            ['service', setup.services.length === 0],
            ['icon', setup.services.length > 0 && !setup.hasIcon],
          ];
    for (const [lack, isLacking] of lacks) yield isLacking ? departure(setup, lack) : { outcome: 'passed' };
  },
} satisfies Check;

function departure({ evidence }: PushSetupFact, lack: Lack): Assertion {
  const isEstimated = ESTIMATED.has(lack);
  return {
    outcome: isEstimated ? 'cantTell' : 'failed',
    draft: {
      identity: { subject: lack },
      basis: isEstimated ? 'estimated' : 'measured',
      severity: isEstimated ? 1 : 2,
      digest: lack,
      occurrence: { evidence, shown: lack, data: { lack } },
    },
  };
}
