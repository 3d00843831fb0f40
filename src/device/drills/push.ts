/** Permission, token and every message, in each state of the app: see `walks/walk-messages.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { walkMessages } from './walks/walk-messages.ts';

export const push: Drill = {
  id: 'push',
  needs: ['messages', 'message-permission'],
  *plan({ device, intent, kits }) {
    const kit = kits.push;
    if (intent.push.messages.length === 0) yield { what: 'push', why: 'fenlok.yaml names no messages' };
    else if (kit?.messages.size === 0)
      yield { what: 'push', why: 'none of the messages of fenlok.yaml is for this platform' };
    else if (!kit) yield { what: 'push', why: 'it needs a service to send from: --push FILE' };
    else {
      const why = device.whyNot('fresh-install');
      if (why) yield { what: 'push, the question for the permission and a new token', why };
      yield {
        drill: 'push',
        says: 'push',
        key: '',
        estimateS: 240,
        run: async ({ dossier, intent: current, signal, subject }) =>
          keepTrace(dossier, await walkMessages(subject, current, { ...kit, signal })),
      };
    }
  },
  doneBy: (fact) => (fact.kind === 'push-token' ? '' : undefined),
};
