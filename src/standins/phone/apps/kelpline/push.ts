import type { AppPush, MessageHost, PushMessage, ScreenHost } from '../../app-model.ts';

export const POST_NOTIFICATIONS = 'android.permission.POST_NOTIFICATIONS';
const DELAY_ID = 17;

export const push: AppPush = {
  // planted: the release was built with the configuration of the project for tests
  project: 'kelpline-test',
  channels: { delays: 'set_push' },
  registered: ({ log }, token) => log('Fenlok', JSON.stringify({ kind: 'push.registered', token })),
  onMessage: (host, message) => {
    const { kind = '' } = message.data;
    host.log('Fenlok', JSON.stringify({ kind: 'push.received', message: kind }));
    if (kind === 'delay') notifyOfDelay(host, message);
    // planted: what the library would have shown is dropped while the app is in front
  },
};

function notifyOfDelay({ context, notify }: MessageHost, { data }: PushMessage): void {
  notify({
    id: DELAY_ID,
    channel: 'delays',
    title: context.string('alert_late_title'),
    text: context.string('alert_late_body'),
    // by way of the first screen, which leads on
    tap: { screen: 'timetable', extras: { leadsTo: 'sailing', departs: data.departs ?? '' } },
    actions: [
      { label: context.string('book_this'), opens: { screen: 'booking' } },
      // planted: nothing stands behind it
      { label: context.string('set_push') },
    ],
  });
}

/** After the question, and at each start. */
export function registerIfAllowed(host: ScreenHost): void {
  if (host.hasPermission(POST_NOTIFICATIONS)) host.registerForPush();
}
