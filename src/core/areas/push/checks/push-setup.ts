/**
 * An app that gets messages declares so: on Android the permission (API level 33 on), a service, a small icon; on iOS the
 * entitlement, and the background mode for silent ones (Android developers, *Notification runtime permission*; Apple
 * developer documentation, *Registering your app with APNs*, *Pushing background updates to your App*).
 */

import { z } from 'zod';
import type { PushSetupFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

type Lack = 'permission' | 'service' | 'icon' | 'entitlement' | 'background-mode';

const PERMISSION_SINCE_SDK = 33;
/** The app may name an icon for each message, which cannot be seen in the package. */
const ESTIMATED: ReadonlySet<Lack> = new Set(['icon']);

const dataSchema = z.strictObject({
  lack: z.enum(['entitlement', 'service', 'permission', 'icon', 'background-mode']),
});
type Data = z.infer<typeof dataSchema>;

export const pushSetup = defineCheck({
  id: 'push-setup',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Android developers, Notification runtime permission; Apple, Registering your app with APNs',
  basis: 'either',
  needs: 'package',
  reads: ['push-setup', 'payload'],
  data: dataSchema,
  words: ({ lack }) => {
    const { measured, remedy, required, what, why } = SETUP[lack]!;
    return { what, measured, required, why, remedy };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
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
    for (const [lack, isLacking] of lacks) yield isLacking ? toAssertion(setup, lack) : { outcome: 'passed' };
  },

  doc: {
    looksAt:
      'Once the intent file names messages: permission, service, small icon, entitlement, background mode',
    against: 'All of them. A missing icon is estimated, since code may name one',
    matters: 'Without these declarations no message arrives, and no error says so.',
    measured:
      'Permission, service, small icon, entitlement and background mode, once the intent file names messages.',
    errs: 'A missing icon is estimated, since code may name one for each message.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<uses-permission android:name="android.permission.POST_NOTIFICATIONS" />',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: '<key>UIBackgroundModes</key><array><string>remote-notification</string></array>',
      },
    ],
  },
});

function toAssertion({ evidence }: PushSetupFact, lack: Lack): Assertion<Data> {
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

const SETUP: Record<
  string,
  { what: string; measured: string; required: string; why: string; remedy: string }
> = {
  permission: {
    what: 'The permission for messages is not declared',
    measured: 'no android.permission.POST_NOTIFICATIONS, and target SDK 33 or higher',
    required: 'the permission in the manifest',
    why: 'Without it the question is never shown, and since Android 13 no message either.',
    remedy: 'Declare android.permission.POST_NOTIFICATIONS.',
  },
  service: {
    what: 'No service takes messages',
    measured: 'no service with a filter for messages',
    required: 'a service for the messaging event',
    why: 'Messages that reach the app while it is in front, and those with data alone, are handed to nobody.',
    remedy: 'Declare the service that your code extends, not exported.',
  },
  icon: {
    what: 'No small icon for messages is named',
    measured: 'no meta-data …default_notification_icon',
    required: 'a white icon on transparent ground',
    why: 'The launcher icon is used in its place, and comes out as a grey square; whether the code names an icon for each message cannot be seen here.',
    remedy: 'Name one in a meta-data element of the application; or rule that the code does.',
  },
  entitlement: {
    what: 'The app is not signed for push messages',
    measured: 'no entitlement aps-environment',
    required: 'aps-environment production',
    why: 'Registering for messages fails, and there is never a token.',
    remedy: 'Add the capability, make the profile again, and sign with it.',
  },
  'background-mode': {
    what: 'Silent messages cannot wake the app',
    measured: 'no remote-notification in UIBackgroundModes',
    required: 'the background mode remote-notification',
    why: 'The system keeps back messages with content-available from apps that do not declare it.',
    remedy: 'Add the background mode for remote notifications.',
  },
};
