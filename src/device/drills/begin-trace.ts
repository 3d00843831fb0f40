import type { DrillLine } from '../../core/model/trace.ts';
import type { DrillSubject } from './drill-subject.ts';
import type { Act } from './on-screen/screen-drill.ts';

/** The first line of a run: which drill, on which screen of which build, on which device. */
export function beginTrace(
  {
    app,
    build,
    cell,
    device: { info, platform },
    isBuildTold = true,
  }: Pick<DrillSubject, 'app' | 'build' | 'cell' | 'device' | 'isBuildTold'>,
  drill: string,
  screen: string,
  step = '',
): { lines: DrillLine[]; write: Act['write'] } {
  const lines: DrillLine[] = [];
  const write: Act['write'] = (kind, line) => {
    lines.push({ at: new Date().toISOString(), kind, ...line } as DrillLine);
  };
  write('drill.began', {
    drill,
    cell: { ...cell, screen, procedure: drill, step },
    appId: app.appId,
    ...(isBuildTold && { build }),
    ...(platform !== 'android' && { platform }),
    deviceId: info.id,
    sdk: info.sdk,
    densityDpi: info.densityDpi,
  });
  return { lines, write };
}
