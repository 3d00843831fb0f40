/** Permissions that are asked for are used by the code, explained to their user, and fit the age that the store names. */

import { z } from 'zod';
import {
  isLocationPermission,
  PERMISSION_USES,
  RUNTIME_PERMISSIONS,
  USED_BY_NATIVE_CODE,
} from '../../../platform/android/permission-calls.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  flaw: z.enum(['unused', 'unexplained', 'age']),
  permission: z.string(),
  others: z.array(z.string()),
  calls: z.array(z.string()),
  age: z.number(),
});
type Data = z.infer<typeof dataSchema>;

/** Below it a place of a user may not be asked for without their parents (COPPA, 16 CFR 312.2). */
const CHILD_AGE = 13;
const ASKED_SINCE = 23;
const BOOT = 'android.intent.action.BOOT_COMPLETED';
const RATIONALE = /\.shouldShowRequestPermissionRationale$/;

export const permissionUse = defineCheck({
  id: 'permission-use',
  area: 'quality',
  priority: 'harder',
  standard:
    'Android developers, Minimize your permission requests, and Request runtime permissions; COPPA, 16 CFR 312.2',
  basis: 'estimated',
  needs: 'platform-calls',
  reads: ['package', 'component', 'native-library', 'listing'],
  data: dataSchema,
  words: ({ age, calls, flaw, others, permission }) => {
    switch (flaw) {
      case 'unused':
        return {
          what: `Nothing in the code uses ${permission}`,
          measured: `the code names none of ${calls.slice(0, 4).join(', ')}${calls.length > 4 ? ' and the like' : ''}`,
          required: 'no permission that nothing uses',
          why: 'The store shows it beside the app, people ask what it is for, and a library that is added later gets it for nothing. Calls by name at run time are not seen, so a person must look.',
          remedy: `Take it out; where a library brings it in: <uses-permission android:name="${permission}" tools:node="remove" />.`,
        };
      case 'unexplained':
        return {
          what: 'Permissions are asked for without a word on what they are for',
          measured: `no call of shouldShowRequestPermissionRationale, and the app asks for ${[permission, ...others].join(', ')}`,
          required: 'an explanation before the second question at the latest',
          why: 'Who has refused once is asked again without being told why, and refuses for good. An explanation of another form is not seen, so a person must look.',
          remedy: 'Ask the platform whether to explain, and say in a sentence what the permission is for.',
        };
      default:
        return {
          what: `The listing is for ages from ${age}, and the app asks where its user is`,
          measured: permission,
          required: `no place of users under ${CHILD_AGE} without their parents`,
          why: 'Stores take down apps for children that ask for their place.',
          remedy: 'Take the permission out, or raise the age of the listing.',
        };
    }
  },

  *run(facts): Iterable<Assertion<Data>> {
    const [use] = facts.of('platform-calls');
    const [app] = facts.of('package');
    if (!use || !app) return;
    const { evidence } = app;
    const found = (
      flaw: Data['flaw'],
      permission: string,
      of: Partial<Pick<Data, 'others' | 'calls' | 'age'>> = {},
    ): Assertion<Data> => ({
      outcome: 'cantTell',
      draft: {
        identity: { subject: permission, aspect: flaw },
        basis: 'estimated',
        severity: flaw === 'age' ? 2 : 1,
        digest: flaw,
        occurrence: {
          evidence,
          shown: permission,
          data: { flaw, permission, others: [], calls: [], age: 0, ...of },
        },
      },
    });
    const said = new Set([...use.calls, ...use.texts]);
    const hasNative = facts.of('native-library').length > 0;
    const components = facts.of('component');
    const hasService = components.some(({ serviceTypes = [] }) => serviceTypes.length > 0);
    const wakes = components.some(({ actions }) => actions.includes(BOOT));
    const unknown: string[] = [];
    for (const permission of app.permissions) {
      const name = shortName(permission);
      const known = PERMISSION_USES[name];
      const ways = [...(known?.calls ?? []), ...(known?.texts ?? [])];
      if (permission.startsWith(`${app.build.appId}.`) || ways.some((way) => said.has(way)))
        yield { outcome: 'passed' };
      else if (/^FOREGROUND_SERVICE/.test(name) && hasService) yield { outcome: 'passed' };
      else if (name === 'RECEIVE_BOOT_COMPLETED')
        yield wakes ? { outcome: 'passed' } : found('unused', permission, { calls: [BOOT] });
      else if (!known) unknown.push(name);
      else if (hasNative && USED_BY_NATIVE_CODE.has(name))
        yield { outcome: 'untested', because: `native code may use ${name}, which is not looked into` };
      else yield found('unused', permission, { calls: ways });
    }
    if (unknown.length > 0)
      yield {
        outcome: 'untested',
        because: `no table here says what ${unknown.join(', ')} ${unknown.length === 1 ? 'is' : 'are'} for`,
      };
    const asked = app.permissions.filter((permission) => RUNTIME_PERMISSIONS.has(shortName(permission)));
    const [first, ...others] = asked;
    // before, the system asked for all of them when it installed the app
    if (first !== undefined && (app.targetSdk ?? 1) >= ASKED_SINCE)
      yield use.calls.some((call) => RATIONALE.test(call))
        ? { outcome: 'passed' }
        : found('unexplained', first, { others });
    const place = app.permissions.find(isLocationPermission);
    if (place === undefined) return;
    const ages = facts.of('listing').flatMap(({ age }) => age ?? []);
    if (ages.length === 0)
      yield { outcome: 'untested', because: 'no listing says from which age the app is (age)' };
    else if (Math.min(...ages) < CHILD_AGE) yield found('age', place, { age: Math.min(...ages) });
    else yield { outcome: 'passed' };
  },

  doc: {
    looksAt:
      'Permissions of the manifest; the calls, actions and addresses that the code names; `age` of the listings',
    against: 'A call that needs each permission; a question whether to explain; no place of children',
    matters: 'The store shows permissions beside the app, and people do not install what asks for too much.',
    measured: 'The methods that the dex files refer to, against a table of what each permission is for.',
    errs: 'Always estimated: calls by name at run time are not seen, and a library may refer to what nothing calls. Permissions that are not in the table are untested, as are those that native code may use.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<uses-permission android:name="android.permission.READ_PHONE_STATE" tools:node="remove" />',
      },
      {
        where: 'Android',
        language: 'kotlin',
        code: 'if (shouldShowRequestPermissionRationale(CAMERA)) explainCamera() else launcher.launch(CAMERA)',
      },
    ],
  },
});

const shortName = (permission: string): string => permission.replace(/^android\.permission\./, '');
