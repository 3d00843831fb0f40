/** Screens of an app as a phone would show them, one by one and without running the app: for pictures and for tests. */
import type { OpenedPackage } from '../../core/formats/package.ts';
import type { Cell } from '../../core/model/cell.ts';
import type { UiNode } from '../../core/model/ui-tree.ts';
import type { PhoneApp } from './app-model.ts';
import { installTexts } from './ios-resources.ts';
import { type InstalledResources, installResources } from './resources.ts';
import { contextOf, type DisplaySettings, showScreen } from './screen/display.ts';
import { dumpTree } from './screen/dump-tree.ts';
import type { Placed } from './screen/layout.ts';
import type { PhoneShape } from './shapes.ts';

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
 * Installs an app: resources come from the package, screens from the app's model, in the state that they open with.
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
      const model = app.screens[screen];
      if (!model)
        throw new Error(
          `${app.appId} has no screen ${screen}; it has ${Object.keys(app.screens).join(', ')}`,
        );
      const boldText = procedure === 'bold-text' && app.followsBoldText === true;
      const display: DisplaySettings = { shape, platform, locale, theme, textScale, orientation, boldText };
      const element = model.view(contextOf(resources, platform, display), model.first);
      const shown = await showScreen(element, resources, display);
      return {
        png: await shown.png(),
        hierarchyXml: shown.hierarchyXml(app.appId),
        tree: dumpTree(shown.placed),
        placed: shown.placed,
      };
    },
  };
}

function resourcesOf(installed: OpenedPackage, drawings: OpenedPackage | undefined): InstalledResources {
  const drawn = installed.android?.table ? installed : drawings;
  if (!drawn?.android?.table) throw new Error('no package with a resource table was given');
  const ofTable = installResources(drawn.android.table, drawn.zip);
  return drawn === installed ? ofTable : installTexts(installed.app, ofTable);
}
