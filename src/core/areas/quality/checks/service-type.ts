/**
 * A foreground service with a type needs that type's permission (Android developers, *Foreground service types are
 * required*): without it, starting the service ends in an exception, on Android 14 and later.
 */

import { z } from 'zod';
import { permissionOfType } from '../../../platform/android/service-types.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastName } from '../words.ts';

// From these targets on the platform asks for the permissions.
const GENERAL_SINCE = 28;
const BY_TYPE_SINCE = 34;
const GENERAL = 'android.permission.FOREGROUND_SERVICE';

const dataSchema = z.strictObject({
  component: z.string(),
  serviceTypes: z.array(z.string()),
  missing: z.array(z.string()),
  targetSdk: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const serviceType = defineCheck({
  id: 'service-type',
  area: 'quality',
  priority: 'app-ends',
  standard: 'Android developers, Foreground service types are required',
  basis: 'measured',
  needs: 'package',
  reads: ['component'],
  data: dataSchema,
  words: ({ component, missing, serviceTypes, targetSdk }) => ({
    what: `${lastName(component)} cannot be started in the foreground`,
    measured: `type ${serviceTypes.join(', ')}, without ${missing.join(', ')}`,
    required: `the permission of each type, for target SDK ${targetSdk}`,
    why: 'Android 14 and later end the app with a SecurityException when it starts the service.',
    remedy: `Add ${missing
      .map((permission) => `<uses-permission android:name="${permission}" />`)
      .join(' and ')}, or take the type away if the service no longer needs it.`,
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    const { permissions = [], targetSdk = 1 } = app ?? {};
    for (const { component, enabled, evidence, serviceTypes = [] } of facts.of('component')) {
      if (serviceTypes.length === 0 || !enabled || targetSdk < GENERAL_SINCE) continue;
      const wanted = [
        GENERAL,
        ...(targetSdk >= BY_TYPE_SINCE ? serviceTypes.flatMap((type) => permissionOfType(type) ?? []) : []),
      ];
      const missing = wanted.filter((permission) => !permissions.includes(permission));
      if (missing.length === 0) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: component },
            basis: 'measured',
            severity: missing.length,
            digest: missing.join(' '),
            occurrence: {
              evidence,
              shown: component,
              data: { component, serviceTypes, missing, targetSdk },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'The types of foreground services, and the permissions asked for',
    against: 'The permission of each type',
    matters: 'Android 14 and later end the app with a SecurityException when it starts the service.',
    measured: 'The types of foreground services, against the permissions that are asked for.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<uses-permission android:name="android.permission.FOREGROUND_SERVICE_LOCATION" />',
      },
    ],
  },
});
