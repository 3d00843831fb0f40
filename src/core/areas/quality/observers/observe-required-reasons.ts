import type { RequiredReasonFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Calls that need a reason, of the app's own code and of each part of it, and the reasons that are given. */
export const observeRequiredReasons = {
  id: 'required-reasons',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    const { parts, reasons } = app.ios;
    for (const part of [{ path: '', reasons }, ...parts])
      for (const reason of part.reasons)
        yield {
          kind: 'required-reason',
          platform: app.platform,
          evidence: digest,
          part: part.path,
          ...reason,
        } satisfies RequiredReasonFact;
  },
} satisfies PackageObserver;
