/**
 * An activity that the launcher starts and that may stand only once, at the bottom of its task, ends all that lies above it when
 * somebody comes back through the icon (Android developers, *Tasks and the back stack*, "Define launch modes").
 */
import type { Check } from '../check.ts';

const ENDS_OTHERS = new Set(['singleTask', 'singleInstance', 'singleInstancePerTask']);

export const launchMode = {
  id: 'launch-mode',
  area: 'lifecycle',
  needs: ['package', 'manifest'],
  *run(facts) {
    for (const { activities, evidence } of facts.of('manifest')) {
      const launchers = activities.filter(({ isLauncher }) => isLauncher);
      // an alias starts another activity, in that one's mode
      const started = launchers.map(
        (one) => activities.find(({ name }) => name === one.targetActivity) ?? one,
      );
      const own = started.map(({ name }) => beginningOf(name));
      const others = activities.filter(
        (one) => own.includes(beginningOf(one.name)) && !one.targetActivity && !started.includes(one),
      );
      const found = started.filter(({ launchMode: mode = '' }) => ENDS_OTHERS.has(mode));
      if (others.length === 0) yield { outcome: 'inapplicable' };
      else if (found.length === 0) yield { outcome: 'passed' };
      else
        for (const { launchMode: mode = '', name } of new Set(found))
          yield {
            outcome: 'cantTell',
            draft: {
              identity: { subject: name },
              basis: 'estimated',
              severity: 1,
              digest: mode,
              occurrence: { evidence, shown: name, data: { activity: name, mode, others: others.length } },
            },
          };
    }
  },
} satisfies Check;

/** What classes of one team begin with; activities of libraries come and go by themselves. */
const beginningOf = (className: string): string => className.split('.').slice(0, 2).join('.');
