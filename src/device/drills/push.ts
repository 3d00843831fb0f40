/** Permission, token and every message, in each state of the app: see `walks/walk-messages.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { walkMessages } from './walks/walk-messages.ts';

const SDK_OF_QUESTION = 33;

export const push: Drill = {
  id: 'push',
  needs: ['messages'],
  *plan({ device, intent, kits }) {
    const kit = kits.push;
    if (intent.push.messages.length === 0) yield { what: 'push', why: 'fenlok.yaml names no messages' };
    else if (device.info.sdk < SDK_OF_QUESTION)
      yield { what: 'push', why: 'the system asks for the permission from Android 13 on' };
    else if (!kit) yield { what: 'push', why: 'it needs a service to send from: --push FILE' };
    else
      yield {
        drill: 'push',
        says: 'push',
        key: '',
        estimateS: 240,
        run: async ({ dossier, intent: current, signal, subject }) =>
          keepTrace(dossier, await walkMessages(subject, current, { ...kit, signal })),
      };
  },
  doneBy: (fact) => (fact.kind === 'push-token' ? '' : undefined),
};
