import type { IntentFilter } from '../../model/app-package.ts';

/** The first link of a filter: `https://kelpline.example/sailings…`. */
export function formatFilter({ authorities, paths, schemes }: IntentFilter): string {
  const path = (paths[0] ?? '').replace(/^pathPrefix=(.*)$/, '$1…').replace(/^\w+=/, '');
  return `${schemes[0]}://${authorities[0]?.host ?? ''}${path}`;
}

/** How many more a filter asks for: its schemes, hosts and paths combine. */
export const moreLinks = ({ authorities, paths, schemes }: IntentFilter): number =>
  schemes.length * Math.max(1, authorities.length) * Math.max(1, paths.length) - 1;
