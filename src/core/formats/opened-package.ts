import type { AppPackage } from '../model/app-package.ts';
import type { OpenedAndroid } from './android/apk.ts';
import type { Zip } from './zip.ts';

export interface OpenedPackage {
  app: AppPackage;
  /** For those who need more than the model says. */
  zip: Zip;
  android?: OpenedAndroid;
}
