/** The stand-in phone, first stage: an app is installed from its package, and its screens are shown. */
import type { OpenedPackage } from '../../core/formats/package.ts';
import type { Cell } from '../../core/model/cell.ts';
import { isRightToLeft } from '../../core/model/locale.ts';
import type { AppContext, PhoneApp } from './app-model.ts';
import { dumpHierarchy } from './dump.ts';
import { layOut, type Placed } from './layout.ts';
import { paintScreen } from './paint.ts';
import { type DeviceConfig, type InstalledResources, installResources } from './resources.ts';
import type { PhoneShape } from './shapes.ts';
import { typefaceFor } from './typeface.ts';

export interface Phone {
  shape: PhoneShape;
  screens: string[];
  /** What the display shows and what the OS's dump of it says, for one screen under the given settings. */
  show(settings: ShowSettings): Promise<{ png: Uint8Array; hierarchyXml: string; placed: Placed }>;
}

export type ShowSettings = Pick<Cell, 'screen' | 'locale' | 'theme' | 'textScale'>;

/** Installs an app: resources come from the package, screens from the app's model. */
export function startPhone(shape: PhoneShape, installed: OpenedPackage, app: PhoneApp): Phone {
  const { appId } = installed.app.build;
  if (appId !== app.appId) throw new Error(`the package is ${appId}, the app model ${app.appId}`);
  if (!installed.android?.table) throw new Error('the package has no resource table');
  const resources = installResources(installed.android.table, installed.zip);
  return {
    shape,
    screens: Object.keys(app.screens),
    show: async ({ screen, locale, theme, textScale }) => {
      const build = app.screens[screen];
      if (!build)
        throw new Error(
          `${app.appId} has no screen ${screen}; it has ${Object.keys(app.screens).join(', ')}`,
        );
      const scale = shape.densityDpi / 160;
      const config: DeviceConfig = {
        locale,
        night: theme === 'dark',
        densityDpi: shape.densityDpi,
        widthDp: shape.widthPx / scale,
        heightDp: shape.heightPx / scale,
      };
      const settings = { shape, typeface: typefaceFor(locale), rtl: isRightToLeft(locale), textScale };
      const placed = await layOut(build(contextOf(resources, config)), settings);
      const png = await paintScreen(placed, settings, {
        colour: (name) => resources.colour(name, config),
        vector: (name) => resources.vector(name, config),
        statusInk: resources.colour('ink', config),
        background: resources.colour('surface', config),
      });
      return { png, hierarchyXml: dumpHierarchy(placed, app.appId), placed };
    },
  };
}

function contextOf(resources: InstalledResources, config: DeviceConfig): AppContext {
  return {
    locale: config.locale,
    string: (key, ...args) => resources.string(key, config, args),
    plural: (key, count, ...args) => resources.plural(key, count, config, args),
  };
}
