import type { NativeLibraryFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Native libraries: for which processors, and how they are aligned. */
export const observeNativeLibraries = {
  id: 'native-libraries',
  reads: 'package',
  *observe({ app, digest }) {
    for (const library of app.android?.nativeLibraries ?? [])
      yield {
        kind: 'native-library',
        platform: app.platform,
        evidence: digest,
        ...library,
      } satisfies NativeLibraryFact;
  },
} satisfies PackageObserver;
