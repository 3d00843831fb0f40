import type { AndroidPart, Component, Manifest, Shortcut } from '../app-package.ts';
import type { OfPackage } from './base.ts';

/** What the manifest of an Android app says of the app as a whole. */
export interface ManifestFact
  extends OfPackage,
    Pick<Manifest, 'features' | 'libraries' | 'screens'>,
    Pick<AndroidPart, 'modules' | 'splitsByLanguage'> {
  kind: 'manifest';
  appId: string;
  supportsRtl: boolean;
  /** Activities and their aliases. */
  activities: ActivityLook[];
}

interface ActivityLook
  extends Pick<Component, 'name' | 'enabled' | 'launchMode' | 'module' | 'targetActivity'> {
  /** Links open it, from outside of the app. */
  takesLinks: boolean;
  /** The launcher shows an icon for it. */
  isLauncher: boolean;
}

/** What the launcher offers on a long press of the icon. */
export interface ShortcutFact extends OfPackage, Omit<Shortcut, 'label'> {
  kind: 'shortcut';
}
