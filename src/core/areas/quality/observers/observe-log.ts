import type { DeviceLogFact, TroubleFact } from '../../../model/facts/quality.ts';
import type { Trouble } from '../../../model/trouble.ts';
import type { LogObserver } from '../../observer.ts';
import { formatFrame, ownFrame } from '../own-frame.ts';

const MAX_FRAMES = 15;

/** Crashes, warnings and what was left behind, in a log or a crash report. */
export const observeLog = {
  id: 'log',
  reads: 'log',
  *observe({ appId, digest, log, name, platform }) {
    const of = { platform, evidence: digest, file: name };
    const { ended, lines, made, program, sawApp, troubles, version, withoutCrashes } = log;
    yield {
      kind: 'device-log',
      ...of,
      lines,
      sawApp,
      made,
      ended,
      version,
      ...(withoutCrashes && { withoutCrashes }),
    } satisfies DeviceLogFact;
    const isOwn = program ? (image: string) => image === program : ownClasses(appId, troubles);
    for (const { about, at, count, frames, sort, thread, thrown } of troubles) {
      const cause = thrown.at(-1);
      const first = ownFrame(thrown, isOwn);
      yield {
        kind: 'trouble',
        ...of,
        sort,
        at,
        thread,
        exception: cause?.exception ?? '',
        message: cause?.message ?? '',
        frame: first ? formatFrame(first.frame) : '',
        isOwn: first?.isOwn ?? false,
        or: first?.frame.or ?? [],
        frames: (cause?.frames ?? []).slice(0, MAX_FRAMES).map(formatFrame),
        about,
        framesSkipped: frames,
        count,
      } satisfies TroubleFact;
    }
  },
} satisfies LogObserver;

function ownClasses(appId: string, troubles: readonly Trouble[]): (className: string) => boolean {
  // an id such as `example.kelpline.beta` is of an app whose classes are in `example.kelpline`
  const names = troubles.flatMap(({ thrown }) =>
    thrown.flatMap(({ frames }) => frames.map((of) => of.className)),
  );
  const parts = appId.split('.');
  for (let count = parts.length; count >= 2; count -= 1) {
    const prefix = `${parts.slice(0, count).join('.')}.`;
    if (names.some((name) => name.startsWith(prefix))) return (name) => name.startsWith(prefix);
  }
  return (name) => name.startsWith(`${appId}.`);
}
