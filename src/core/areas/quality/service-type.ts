/**
 * A foreground service with a type needs that type's permission (Android developers, *Foreground service types are
 * required*): without it, starting the service ends in an exception, on Android 14 and later.
 */
import { permissionOfType } from '../../platform/android/service-types.ts';
import type { Assertion, Check } from '../check.ts';

// From these targets on the platform asks for the permissions.
const GENERAL_SINCE = 28;
const BY_TYPE_SINCE = 34;
const GENERAL = 'android.permission.FOREGROUND_SERVICE';

export const serviceType = {
  id: 'service-type',
  area: 'quality',
  needs: ['package', 'component'],
  *run(facts): Iterable<Assertion> {
    const [app] = facts.of('package');
    const { permissions = [], targetSdk = 1 } = app ?? {};
    for (const { component, enabled, evidence, serviceTypes = [] } of facts.of('component')) {
      if (serviceTypes.length === 0 || !enabled || targetSdk < GENERAL_SINCE) continue;
      const wanted = [
        GENERAL,
        ...(targetSdk >= BY_TYPE_SINCE ? serviceTypes.flatMap((type) => permissionOfType(type) ?? []) : []),
      ];
      const lacking = wanted.filter((permission) => !permissions.includes(permission));
      if (lacking.length === 0) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: component },
            basis: 'measured',
            severity: lacking.length,
            digest: lacking.join(' '),
            occurrence: {
              evidence,
              shown: component,
              data: { component, serviceTypes, lacking, targetSdk },
            },
          },
        };
    }
  },
} satisfies Check;
