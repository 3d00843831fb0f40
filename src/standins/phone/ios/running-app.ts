/** One app on the stand-in iOS phone: its process, the screens of its scene, and what the system keeps of them. */
import type { OpenedPackage } from '../../../core/formats/package.ts';
import { ORDINARY } from '../../../core/platform/apple/content-size.ts';
import type { PhoneApp, ScreenState } from '../app-model.ts';
import type { InstalledResources } from '../resources.ts';

export interface SceneScreen {
  screen: string;
  state: ScreenState;
  /** Name of the value that the focused field edits. */
  focused?: string | undefined;
}

/** What an app gave the system to keep while it is away (UIKit, `stateRestorationActivity`). */
type KeptScene = readonly { screen: string; values: ScreenState }[];

export interface AppProcess {
  pid: number;
  /** ISO 8601. */
  startedAt: string;
  /** Defaults of this run, by their keys: `-AppleLanguages "(fr)"`. */
  defaults: ReadonlyMap<string, string>;
  memory: Map<string, unknown>;
  state: 'front' | 'background' | 'suspended';
  isDrawn?: boolean;
  /** The last one is on top. */
  screens: SceneScreen[];
}

export interface InstalledIosApp {
  appId: string;
  label: string;
  opened: OpenedPackage;
  resources: InstalledResources;
  model: PhoneApp;
  /** Of its bundle, the language of its developers first. */
  localizations: readonly string[];
  storage: Map<string, string>;
  granted: Set<string>;
  /** Questions that its user has answered; none is asked twice. */
  answered: Set<string>;
  process?: AppProcess | undefined;
  kept?: KeptScene | undefined;
}

/** `-key value` pairs (Foundation, *NSArgumentDomain*); what does not begin with a hyphen stands alone. */
export function defaultsOf(launchArguments: readonly string[]): Map<string, string> {
  const defaults = new Map<string, string>();
  for (const [i, argument] of launchArguments.entries())
    if (argument.startsWith('-') && launchArguments[i + 1] !== undefined)
      defaults.set(argument.slice(1), launchArguments[i + 1]!);
  return defaults;
}

/** Of `AppleLanguages`, an old-style property list: `(fr, "pt-BR")`. */
export const languagesIn = (value: string): string[] =>
  value
    .replace(/^\(|\)$/g, '')
    .split(',')
    .map((tag) => tag.trim().replace(/^"|"$/g, ''))
    .filter(Boolean);

export const contentSizeIn = (value: string | undefined): string =>
  value?.replace(/^UICTContentSizeCategory/, '') ?? ORDINARY;

/** What the app's screens write for the system. */
export const keptOf = ({ model }: InstalledIosApp, { screens }: AppProcess): KeptScene =>
  screens.map(({ screen, state }) => ({
    screen,
    values: Object.fromEntries((model.screens[screen]!.saves ?? []).map((name) => [name, state[name]])),
  }));
