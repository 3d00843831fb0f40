/** A walk that nobody scripted: see `roam/run-roam.ts`. */
import { listMaps } from '../../node/roam-map.ts';
import { runRoam } from '../roam/run-roam.ts';
import type { Drill } from './drill.ts';

export const roam: Drill = {
  id: 'roam',
  *plan() {
    yield {
      drill: 'roam',
      says: 'roam',
      key: '',
      estimateS: 600,
      run: async (context) => ({ facts: [], trouble: await runRoam(context.subject, context) }),
    };
  },
  // a walk may have more to try: its map tells
  doneIn: async ({ folder }, { info }) =>
    (await listMaps(folder)).flatMap(({ deviceId, finished }) =>
      finished && deviceId === info.id ? [''] : [],
    ),
  onlyNamed: true,
};
