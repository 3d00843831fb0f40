/** The stand-in phone, first stage: an app is installed from its package, and its screens are shown. */
import type { OpenedPackage } from '../../core/formats/package.ts';
import type { Cell } from '../../core/model/cell.ts';
import { isRightToLeft } from '../../core/model/locale.ts';
import type { UiNode } from '../../core/model/ui-tree.ts';
import type { AppContext, PhoneApp } from './app-model.ts';
import { dumpHierarchy } from './dump.ts';
import { dumpTree } from './dump-tree.ts';
import { installTexts } from './ios-resources.ts';
import { layOut, type Placed } from './layout.ts';
import { paintScreen } from './paint.ts';
import { type DeviceConfig, type InstalledResources, installResources } from './resources.ts';
import type { PhoneShape } from './shapes.ts';
import { typefaceFor } from './typeface.ts';

export interface Phone {
  shape: PhoneShape;
  screens: string[];
  /** What the display shows, what Android's dump of it says, and what a UI test on iOS would write, for one screen. */
  show(
    settings: ShowSettings,
  ): Promise<{ png: Uint8Array; hierarchyXml: string; tree: UiNode; placed: Placed }>;
}

export type ShowSettings = Pick<Cell, 'screen' | 'locale' | 'theme' | 'textScale'> &
  Partial<Pick<Cell, 'procedure' | 'orientation'>>;

/**
 * Installs an app: resources come from the package, screens from the app's model.
 *
 * @param drawings on iOS, whose compiled asset catalogues are not read: the Android package of the same app, for its
 *   colours and drawings
 */
export function startPhone(
  shape: PhoneShape,
  installed: OpenedPackage,
  app: PhoneApp,
  drawings?: OpenedPackage,
): Phone {
  const { appId } = installed.app.build;
  if (appId !== app.appId) throw new Error(`the package is ${appId}, the app model ${app.appId}`);
  const { platform } = installed.app;
  const resources = resourcesOf(installed, drawings);
  return {
    shape,
    screens: Object.keys(app.screens),
    show: async ({ screen, locale, orientation = 'portrait', procedure, theme, textScale }) => {
      const build = app.screens[screen];
      if (!build)
        throw new Error(
          `${app.appId} has no screen ${screen}; it has ${Object.keys(app.screens).join(', ')}`,
        );
      const held =
        orientation === 'landscape' ? { ...shape, widthPx: shape.heightPx, heightPx: shape.widthPx } : shape;
      const scale = held.densityDpi / 160;
      const config: DeviceConfig = {
        locale,
        night: theme === 'dark',
        densityDpi: shape.densityDpi,
        widthDp: held.widthPx / scale,
        heightDp: held.heightPx / scale,
      };
      const settings = {
        shape: held,
        typeface: typefaceFor(locale),
        rtl: isRightToLeft(locale),
        textScale,
        extraWeight: procedure === 'bold-text' && app.followsBoldText ? 300 : 0,
      };
      const context = contextOf(resources, config, platform, { orientation, textScale });
      const placed = await layOut(build(context), settings);
      const png = await paintScreen(placed, settings, {
        colour: (name) => resources.colour(name, config),
        vector: (name) => resources.vector(name, config),
        statusInk: resources.colour('ink', config),
        background: resources.colour('surface', config),
      });
      return { png, hierarchyXml: dumpHierarchy(placed, app.appId), tree: dumpTree(placed), placed };
    },
  };
}

function resourcesOf(installed: OpenedPackage, drawings: OpenedPackage | undefined): InstalledResources {
  const drawn = installed.android?.table ? installed : drawings;
  if (!drawn?.android?.table) throw new Error('no package with a resource table was given');
  const ofTable = installResources(drawn.android.table, drawn.zip);
  return drawn === installed ? ofTable : installTexts(installed.app, ofTable);
}

function contextOf(
  resources: InstalledResources,
  config: DeviceConfig,
  platform: AppContext['platform'],
  display: Pick<AppContext, 'orientation' | 'textScale'>,
): AppContext {
  return {
    ...display,
    locale: config.locale,
    platform,
    string: (key, ...args) => resources.string(key, config, args),
    plural: (key, count, ...args) => resources.plural(key, count, config, args),
  };
}
