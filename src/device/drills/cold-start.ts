/** Ended by force and opened again, a few times: what the system says of the time to the first frame. */
import type { DrillLine } from '../../core/model/trace.ts';
import { beginTrace } from './begin-trace.ts';
import type { Drill } from './drill.ts';
import type { DrillSubject } from './drill-subject.ts';
import { keepTrace } from './keep-trace.ts';

const STARTS = 5;

export const coldStart: Drill = {
  id: 'cold-start',
  needs: ['start-times'],
  *plan() {
    yield {
      drill: 'cold-start',
      says: 'cold-start',
      key: '',
      estimateS: 20,
      run: async ({ dossier, subject }) => keepTrace(dossier, await startCold(subject)),
    };
  },
  doneBy: (fact) => (fact.kind === 'drill-run' && fact.drill === 'cold-start' ? '' : undefined),
};

export async function startCold(subject: DrillSubject): Promise<DrillLine[]> {
  const { app, device } = subject;
  const { lines, write } = beginTrace(subject, 'cold-start', 'first');
  for (let n = 0; n < STARTS; n++) {
    await device.stop(app);
    const timed = await device.launch(app);
    if (Number.isFinite(timed.totalMs)) write('start.timed', timed);
    await device.snapshot();
  }
  write('drill.ended', {});
  return lines;
}
