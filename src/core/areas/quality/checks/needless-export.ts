/**
 * A component that is exported can be started by every app on the device (Android developers, *<activity>*,
 * `android:exported`). What the system or other apps have no action for needs no export. Whether some partner's app
 * starts it by name cannot be seen in the package, so this is an estimate.
 */

import { z } from 'zod';
import type { ComponentFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastName } from '../words.ts';

// Actions of the platform and its services: these are sent from outside.
const SYSTEM_ACTION = /^(android|com\.android|com\.google\.android|com\.google\.firebase)\./;
// Since this target a component with a filter must say whether it is exported; before, a filter meant yes.
const EXPORTED_MUST_BE_SAID = 31;

const dataSchema = z.strictObject({
  component: z.string(),
  componentType: z.enum(['activity', 'service', 'activity-alias', 'receiver', 'provider']),
  actions: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const needlessExport = defineCheck({
  id: 'needless-export',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, <activity>, android:exported; OWASP MASVS, MASVS-PLATFORM-1',
  basis: 'estimated',
  needs: 'package',
  reads: ['component'],
  data: dataSchema,
  words: ({ actions, component, componentType }) => ({
    what: `${lastName(component)} can be started by every app, for no reason that the package shows`,
    measured: `exported ${componentType}, no permission, ${actions.length > 0 ? `only actions of its own: ${actions.join(', ')}` : 'no intent filter'}`,
    required: 'not exported, or a permission, or an action that the system sends',
    why: 'Other apps can call it with arguments of their choice. Whether a partner does so on purpose cannot be seen from here.',
    remedy: 'Set android:exported="false", or guard it with a permission.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const targetSdk = facts.of('package')[0]?.targetSdk ?? 1;
    for (const fact of facts.of('component')) yield judgeComponent(fact, targetSdk);
  },

  doc: {
    looksAt: 'Exported components without a permission',
    against: 'An action that the system or its services send. Always estimated',
    matters: 'Other apps can call the component with arguments of their choice.',
    measured: 'Exported components without a permission, and whether the system sends one of their actions.',
    errs: 'A partner may call it on purpose; always estimated.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<receiver android:name=".SyncReceiver" android:exported="false" />',
      },
    ],
  },
});

function judgeComponent(fact: ComponentFact, targetSdk: number): Assertion<Data> {
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
