import type { LayoutViewFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Texts, fields, pictures and buttons of layouts and interface files. */
export const observeLayoutViews = {
  id: 'layout-views',
  reads: 'package',
  *observe({ app, digest }) {
    const supportsRtl = app.android?.manifest.application.supportsRtl ?? true;
    for (const view of app.layoutViews ?? [])
      yield {
        kind: 'layout-view',
        platform: app.platform,
        evidence: digest,
        supportsRtl,
        ...view,
      } satisfies LayoutViewFact;
  },
} satisfies PackageObserver;
