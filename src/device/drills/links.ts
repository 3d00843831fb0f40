/** The links of every route, as another app would hand them over: see `walks/fire-links.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { fireLinks } from './walks/fire-links.ts';

export const links: Drill = {
  id: 'links',
  *plan({ intent, screens }) {
    if (intent.links.routes.length === 0) yield { what: 'links', why: 'fenlok.yaml names no routes' };
    for (const { id, screen } of intent.links.routes)
      if (screens.some((one) => one.id === screen))
        yield {
          drill: 'links',
          says: `links of ${id}`,
          key: id,
          estimateS: 90,
          run: async ({ dossier, intent: current, signal, subject }) =>
            keepTrace(dossier, await fireLinks(subject, current, id, signal)),
        };
  },
  doneBy: (fact) => (fact.kind === 'link-run' ? fact.route : undefined),
};
