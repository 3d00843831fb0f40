import type { Component, Manifest, Shortcut } from '../app-package.ts';
import type { OfPackage } from './base.ts';

/** What the manifest of an Android app says of the app as a whole. */
export interface ManifestFact extends OfPackage, Pick<Manifest, 'features' | 'libraries' | 'screens'> {
  kind: 'manifest';
  appId: string;
  supportsRtl: boolean;
  /** Activities and their aliases. */
  activities: ActivityLook[];
}

export interface ActivityLook extends Pick<Component, 'name' | 'enabled' | 'launchMode' | 'targetActivity'> {
  /** The launcher shows an icon for it. */
  isLauncher: boolean;
}

/** What the launcher offers on a long press of the icon. */
export interface ShortcutFact extends OfPackage, Omit<Shortcut, 'label'> {
  kind: 'shortcut';
}
