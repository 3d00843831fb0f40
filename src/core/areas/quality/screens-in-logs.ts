/** Which activities of the app the logs show at all: what no log shows has passed nothing. */
import type { Assertion, FactIndex } from '../check.ts';

/** @param what the logs must show of each: that it was made, or that it ended */
export function* screensInLogs(
  facts: FactIndex<'device-log' | 'component' | 'package'>,
  what: 'made' | 'ended',
): Iterable<Assertion<never>> {
  const logs = facts.of('device-log').filter(({ sawApp }) => sawApp);
  if (logs.length === 0) return;
  const shown = new Set(logs.flatMap((log) => log[what]));
  const own = facts.of('package').map(({ build }) => `${build.appId}.`);
  const activities = facts
    .of('component')
    .filter(
      ({ component, componentType, enabled }) =>
        componentType === 'activity' && enabled && own.some((prefix) => component.startsWith(prefix)),
    )
    .map(({ component }) => component);
  // an app whose classes are elsewhere
  const all = activities.length > 0 ? activities : [...shown];
  const unseen = all.filter((name) => !shown.has(name));
  const seen = all.length - unseen.length;
  if (seen > 0) yield { outcome: 'passed', count: seen };
  if (shown.size === 0)
    yield { outcome: 'untested', because: 'no log has the events of screens: adb logcat -d -b all' };
  else if (unseen.length > 0)
    yield {
      outcome: 'untested',
      because: `no log shows that ${short(unseen)} ${unseen.length === 1 ? 'was' : 'were'} ${what === 'made' ? 'opened' : 'left for good'}`,
    };
}

const short = (names: readonly string[]): string => {
  const plain = names.map((name) => name.split('.').at(-1)!);
  return plain.length > 4 ? `${plain.slice(0, 3).join(', ')} and ${plain.length - 3} more` : plain.join(', ');
};
