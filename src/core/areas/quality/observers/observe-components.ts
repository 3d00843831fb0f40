import type { ComponentFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Every component of the app, and who may address it. */
export const observeComponents = {
  id: 'components',
  reads: 'package',
  *observe({ app, digest }) {
    for (const component of app.android?.manifest.components ?? [])
      yield {
        kind: 'component',
        platform: app.platform,
        evidence: digest,
        component: component.name,
        componentType: component.type,
        exported: component.exported,
        enabled: component.enabled,
        permission: component.permission,
        actions: [...new Set(component.filters.flatMap(({ actions }) => actions))],
        filterCount: component.filters.length,
        ...(component.serviceTypes && { serviceTypes: component.serviceTypes }),
      } satisfies ComponentFact;
  },
} satisfies PackageObserver;
