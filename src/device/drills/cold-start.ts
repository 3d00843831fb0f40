/** Ended by force and opened again, a few times: what the system says of the time to the first frame. */
import type { DrillLine } from '../../core/model/trace.ts';
import { StepFailed } from '../phone/perform-step.ts';
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
      run: async ({ dossier, subject }) => {
        const lines = await startCold(subject);
        const isTimed = lines.some(({ kind }) => kind === 'start.timed');
        if (!isTimed && subject.device.platform === 'ios')
          throw new StepFailed(
            'first frame',
            'the app does not tell when it was drawn: a line app.drawn (docs/ios.md)',
          );
        return keepTrace(dossier, lines);
      },
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
