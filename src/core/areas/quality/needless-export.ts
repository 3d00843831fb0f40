/**
 * A component that is exported can be started by every app on the device (Android developers, *<activity>*,
 * `android:exported`). What the system or other apps have no action for needs no export. Whether some partner's app
 * starts it by name cannot be seen in the package, so this is an estimate.
 */
import type { ComponentFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';

// Actions of the platform and its services: these are sent from outside.
const SYSTEM_ACTION = /^(android|com\.android|com\.google\.android|com\.google\.firebase)\./;
// Since this target a component with a filter must say whether it is exported; before, a filter meant yes.
const EXPORTED_MUST_BE_SAID = 31;

export const needlessExport = {
  id: 'needless-export',
  area: 'quality',
  needs: ['package', 'component'],
  *run(facts): Iterable<Assertion> {
    const targetSdk = facts.of('package')[0]?.targetSdk ?? 1;
    for (const fact of facts.of('component')) yield judgeComponent(fact, targetSdk);
  },
} satisfies Check;

function judgeComponent(fact: ComponentFact, targetSdk: number): Assertion {
  const { actions, component, componentType, evidence, filterCount, permission } = fact;
  const exported =
    fact.exported === 'unset' ? filterCount > 0 && targetSdk < EXPORTED_MUST_BE_SAID : fact.exported;
  if (!exported || !fact.enabled) return { outcome: 'inapplicable' };
  if (permission || actions.some((action) => SYSTEM_ACTION.test(action))) return { outcome: 'passed' };
  return {
    outcome: 'cantTell',
    draft: {
      identity: { subject: component },
      basis: 'estimated',
      // data and background work are worse to hand out than a screen
      severity: componentType === 'provider' ? 3 : componentType === 'service' ? 2 : 1,
      digest: `${componentType} ${actions.join(' ')}`,
      occurrence: { evidence, shown: component, data: { component, componentType, actions } },
    },
  };
}
