/** What stands on the phone's display: an element tree, laid out, dumped and painted. */

import type { Platform } from '../../../core/model/candidate.ts';
import type { Orientation, Theme } from '../../../core/model/cell.ts';
import { isRightToLeft } from '../../../core/model/locale.ts';
import type { AppContext, Element } from '../app-model.ts';
import type { DeviceConfig, InstalledResources, Vector } from '../resources.ts';
import type { PhoneShape } from '../shapes.ts';
import { dumpHierarchy } from './dump.ts';
import { type LayoutSettings, layOut, type Placed, type Window } from './layout.ts';
import { paintScreen } from './paint.ts';
import { typefaceFor } from './typeface.ts';

/** The display as the user has set it. */
export interface DisplaySettings {
  shape: PhoneShape;
  locale: string;
  theme: Theme;
  textScale: number;
  orientation: Orientation;
  boldText: boolean;
  /** Of iOS, whose texts grow by their styles. */
  sizeOf?: (sizeSp: number) => number;
  /** Which system draws it (default: android). */
  platform?: Platform;
  /** From right to left, whatever the language. */
  isForcedRtl?: boolean;
}

/** Where colours, drawings and texts come from: an installed app's package, or the system itself. */
type ScreenResources = InstalledResources;

export interface ShownScreen {
  placed: Placed;
  /** Laid out from right to left. */
  isRtl: boolean;
  hierarchyXml(appId: string): string;
  png(): Promise<Uint8Array>;
}

/** The shape as it is held: width and height change places in landscape. */
const heldShape = ({ orientation, shape }: DisplaySettings): PhoneShape =>
  (orientation === 'landscape') === shape.heightPx > shape.widthPx
    ? { ...shape, widthPx: shape.heightPx, heightPx: shape.widthPx }
    : shape;

function configOf(display: DisplaySettings): DeviceConfig {
  const held = heldShape(display);
  const scale = held.densityDpi / 160;
  return {
    locale: display.locale,
    night: display.theme === 'dark',
    densityDpi: held.densityDpi,
    widthDp: held.widthPx / scale,
    heightDp: held.heightPx / scale,
  };
}

/** What an app may ask of the phone while it builds a screen. */
export function contextOf(
  resources: ScreenResources,
  platform: AppContext['platform'],
  display: DisplaySettings,
): AppContext {
  const config = configOf(display);
  const { locale, orientation, textScale } = display;
  return {
    locale,
    orientation,
    textScale,
    platform,
    string: (key, ...args) => resources.string(key, config, args),
    plural: (key, count, ...args) => resources.plural(key, count, config, args),
  };
}

/** Lays a screen out for the display; `above` is a window on top of it, which takes the place of the screen in the dump. */
export async function showScreen(
  root: Element,
  resources: ScreenResources,
  display: DisplaySettings,
  above?: Element,
  aboveIs: Window = 'dialog',
): Promise<ShownScreen> {
  const config = configOf(display);
  const settings: LayoutSettings = {
    shape: heldShape(display),
    typeface: typefaceFor(display.locale, display.platform),
    rtl: display.isForcedRtl || isRightToLeft(display.locale),
    textScale: display.textScale,
    sizeOf: display.sizeOf,
    extraWeight: display.boldText ? 300 : 0,
  };
  const screen = await layOut(root, settings);
  const dialog = above && (await layOut(above, settings, aboveIs));
  return {
    placed: dialog ?? screen,
    isRtl: settings.rtl,
    hierarchyXml: (appId) => dumpHierarchy(dialog ?? screen, appId, display.orientation),
    png: () =>
      paintScreen(dialog ? [screen, dialog] : [screen], settings, {
        colour: (name) => resources.colour(name, config),
        vector: (name) => resources.vector(name, config),
        statusInk: resources.colour('ink', config),
        background: resources.colour('surface', config),
      }),
  };
}

const noVector = async (name: string): Promise<Vector> => {
  throw new Error(`the system has no drawing ${name}`);
};

const SYSTEM_COLOURS: Record<string, [light: string, dark: string]> = {
  surface: ['#f2f3f5', '#15181b'],
  card: ['#ffffff', '#22272c'],
  ink: ['#1b1e22', '#eceff1'],
  ink_soft: ['#4d545b', '#b4bcc3'],
  primary: ['#2c5d8a', '#9cc7ee'],
  primary_soft: ['#dbe7f2', '#27445e'],
  on_primary: ['#ffffff', '#0d2236'],
  on_primary_soft: ['#1d4163', '#dbe7f2'],
  field: ['#dfe2e6', '#343a40'],
  outline: ['#c3c8cd', '#495159'],
  alarm: ['#d3222e', '#d3222e'],
};

/** For the phone's own screens: home, recent apps, settings, what the system says over an app. */
export const systemResources: ScreenResources = {
  string: (key) => key,
  plural: (key) => key,
  colour: (name, { night }) => SYSTEM_COLOURS[name]?.[night ? 1 : 0] ?? '#808080',
  vector: noVector,
};
