/** A drill on every screen: each is left and come back to, and what is there afterwards held against what was there before. */
import { classOfRun } from '../../../core/areas/lifecycle/runs/class-of-run.ts';
import { formatInvalid } from '../../../core/areas/lifecycle/runs/invalid-words.ts';
import { addPicture } from '../../../node/dossier.ts';
import type { Drill } from '../drill.ts';
import { keepTrace } from '../keep-trace.ts';
import { runScreenDrill } from './run-screen-drill.ts';
import type { ScreenDrill } from './screen-drill.ts';

export const drillOnScreens = (screenDrill: ScreenDrill): Drill => ({
  id: screenDrill.id,
  needs: screenDrill.needs ?? [],
  *plan({ screens }) {
    for (const screen of screens)
      yield {
        drill: screenDrill.id,
        says: `${screenDrill.id} on ${screen.id}`,
        key: screen.id,
        screen: screen.id,
        estimateS: screenDrill.estimateS ?? 20,
        run: async ({ dossier, intent, subject }) => {
          const lines = await runScreenDrill(screenDrill, subject, screen, (name, png) =>
            addPicture(dossier, name, png),
          );
          const { facts } = await keepTrace(dossier, lines);
          const run = facts.find((fact) => fact.kind === 'drill-run');
          const came = run && classOfRun(run, intent.drills.ignore);
          return {
            facts,
            came,
            ...(run && came?.kind === 'invalid' && { trouble: formatInvalid(came.why, run) }),
          };
        },
      };
  },
  // what was invalid is run again
  doneBy: (fact, intent) =>
    fact.kind === 'drill-run' &&
    fact.drill === screenDrill.id &&
    classOfRun(fact, intent.drills.ignore).kind !== 'invalid'
      ? fact.cell.screen
      : undefined,
});
