import type { AppPackage } from '../../../model/app-package.ts';
import type { PushSetupFact } from '../../../model/facts/push.ts';
import type { PackageObserver } from '../../observer.ts';

const MESSAGING_EVENT = /\.MESSAGING_EVENT$/;
const DEFAULT_ICON = /\.default_notification_icon$/;

/** What a package declares for push messages. */
export const observePushSetup = {
  id: 'push-setup',
  reads: 'package',
  *observe({ app, digest }) {
    yield {
      kind: 'push-setup',
      platform: app.platform,
      evidence: digest,
      ...(app.ios ? ofIos(app.ios) : ofAndroid(app)),
    } satisfies PushSetupFact;
  },
} satisfies PackageObserver;

type Setup = Pick<PushSetupFact, 'hasIcon' | 'isDeclared' | 'services' | 'wakesInBackground'>;

const ofIos = ({ backgroundModes, entitlements }: NonNullable<AppPackage['ios']>): Setup => ({
  isDeclared: entitlements['aps-environment'] !== undefined,
  services: [],
  hasIcon: true,
  wakesInBackground: backgroundModes.includes('remote-notification'),
});

function ofAndroid({ android }: AppPackage): Setup {
  const { components = [], metaData = [], permissions = [] } = android?.manifest ?? {};
  return {
    isDeclared: permissions.some(({ name }) => name === 'android.permission.POST_NOTIFICATIONS'),
    services: components
      .filter(
        ({ filters, type }) =>
          type === 'service' &&
          filters.some(({ actions }) => actions.some((action) => MESSAGING_EVENT.test(action))),
      )
      .map(({ name }) => name),
    hasIcon: metaData.some(({ name }) => DEFAULT_ICON.test(name)),
    wakesInBackground: true,
  };
}
