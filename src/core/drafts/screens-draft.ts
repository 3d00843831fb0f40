/** What a roam proposes for the `screens:` section of an intent file. Each activity once: a dialog is no screen of its own. */
import type { RoamMap, RoamScreen } from '../model/roam-map.ts';
import { commentedYaml } from './commented-yaml.ts';

/** YAML text. */
export function screensDraft(map: RoamMap): string {
  const screens = map.screens.filter(
    (screen, i) => map.screens.findIndex(({ activity }) => activity === screen.activity) === i,
  );
  return commentedYaml([
    {
      note: 'Proposed by a walk; names and ways are yours to correct, and `change:` is yours to add.',
    },
    {
      key: 'screens',
      value: screens.map((screen) => {
        const parent = parentOf(screen, map);
        return {
          id: screen.id,
          activity: screen.activity.split('.').at(-1),
          ...(parent && { parent: parent.id }),
          reach: screen.way,
        };
      }),
    },
  ]);
}

/** The screen that the last tap of its way was on. */
const parentOf = ({ id, way }: RoamScreen, { screens }: RoamMap): RoamScreen | undefined => {
  const last = way.findLast((step) => 'tap' in step);
  return screens.find(({ actions }) =>
    actions.some(({ name, to }) => to === id && last && 'tap' in last && name === last.tap),
  );
};
