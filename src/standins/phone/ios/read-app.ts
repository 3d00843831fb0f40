/** An app as it is installed: its package, its texts by the platform's own rules, and its life from a model of this project. */
import { readPackage } from '../../../core/formats/package.ts';
import { bytesSource, type Ports, sha256Hex } from '../../../core/model/ports.ts';
import { unwrap } from '../../../core/model/problem.ts';
import type { PhoneApp } from '../app-model.ts';
import { installTexts } from '../ios-resources.ts';
import { installResources } from '../resources.ts';
import type { InstalledIosApp } from './running-app.ts';

/**
 * @param apk of the same app: colours and drawings, since compiled asset catalogues are not read for painting
 * @throws Error where no model is of this app
 */
export async function readApp(
  ipa: Uint8Array,
  apk: Uint8Array,
  models: readonly PhoneApp[],
  ports: Ports,
): Promise<InstalledIosApp> {
  const open = async (name: string, bytes: Uint8Array) =>
    unwrap(await readPackage(name, bytesSource(bytes), await sha256Hex(ports, bytes), ports));
  const [opened, drawings] = [await open('app.ipa', ipa), await open('app.apk', apk)];
  const { app } = opened;
  const model = models.find(({ appId }) => appId === app.build.appId);
  if (!app.ios || !model || !drawings.android?.table)
    throw new Error(`${app.build.appId} has no life on this phone`);
  const region = app.ios.info.CFBundleDevelopmentRegion;
  const developers = typeof region === 'string' ? region : 'en';
  const locales = [...new Set(app.texts.map(({ locale }) => locale))].filter((tag) => tag !== 'default');
  const name = app.ios.info.CFBundleDisplayName ?? app.ios.info.CFBundleName;
  return {
    appId: app.build.appId,
    label: typeof name === 'string' ? name : app.build.appId,
    opened,
    resources: installTexts(app, installResources(drawings.android.table, drawings.zip)),
    model,
    localizations: [developers, ...locales.filter((tag) => tag !== developers)],
    storage: new Map(),
    granted: new Set(),
    answered: new Set(),
  };
}
