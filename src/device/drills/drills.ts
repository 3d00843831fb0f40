import { ads } from './ads.ts';
import { captureSweep } from './capture-sweep.ts';
import { coldStart } from './cold-start.ts';
import type { Drill } from './drill.ts';
import { links } from './links.ts';
import { drillOnScreens } from './on-screen/drill-on-screens.ts';
import { allScreenDrills } from './on-screen/screen-drills.ts';
import { purchases } from './purchases.ts';
import { push } from './push.ts';
import { ratings } from './ratings.ts';
import { roam } from './roam.ts';

/** Every drill, in the order in which they are run. */
export const allDrills: readonly Drill[] = [
  captureSweep,
  coldStart,
  ...allScreenDrills.map(drillOnScreens),
  links,
  push,
  purchases,
  ads,
  ratings,
  roam,
];
