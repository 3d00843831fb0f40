import type { BuildKey, Platform } from './candidate.ts';

/** What a package declares, in one shape for the checks. Read by `formats`, observed by `areas`. */
export interface AppPackage {
  platform: Platform;
  /** SHA-256 of the file. */
  digest: string;
  build: BuildKey;
  /** The app's name in the source language. */
  name: string;
  manifest: Manifest;
  texts: CatalogueText[];
  /** BCP 47 tags of every locale that the package holds texts for; `default` values are not among them. */
  locales: string[];
  files: { name: string; sizeBytes: number; compressedBytes: number }[];
}

export interface Manifest {
  minSdk?: number;
  targetSdk?: number;
  debuggable: boolean;
  permissions: string[];
  components: Component[];
}

export interface Component {
  type: 'activity' | 'activity-alias' | 'service' | 'receiver' | 'provider';
  /** Full class name. */
  name: string;
  exported: boolean | 'unset';
  enabled: boolean;
  permission?: string;
  filters: IntentFilter[];
}

/** An intent filter as written: several `<data>` elements combine as schemes × hosts × paths. */
export interface IntentFilter {
  actions: string[];
  categories: string[];
  schemes: string[];
  hosts: string[];
  /** Attribute and value: `pathPrefix=/sailings`. */
  paths: string[];
  mimeTypes: string[];
  autoVerify: boolean;
}

export interface CatalogueText {
  /** A string's name; plurals and lists bear their type before it: `plurals/days`. */
  key: string;
  /** BCP 47, or `default` for values without a language. */
  locale: string;
  /** Plural category, or position in a list. */
  form?: string;
  text: string;
}
