import {
  type AppContext,
  box,
  column,
  type Element,
  picture,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';
import { tabScreen, tabTaps } from './bars.ts';
import { button, card, iconButton, scrolling } from './parts.ts';

const ALERTS = [
  { icon: 'ic_wind', title: 'alert_late_title', body: 'alert_late_body' },
  { icon: 'ic_clock', title: 'alert_winter_title', body: 'alert_winter_body' },
  { icon: 'ic_cup', title: 'alert_cafe_title', body: 'alert_cafe_body' },
] as const;

export const alerts: ScreenModel = {
  activity: 'AlertsActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, read: '' },
  saves: ['scroll', 'read'],
  created: (host, restored) => {
    if (!restored)
      host.memory.set(
        'feed',
        ALERTS.map(({ title }) => title),
      );
    // planted: another process has never loaded the feed
    const feed = host.memory.get('feed') as string[];
    host.log('Kelpline', `showing ${feed.length} alerts`);
  },
  taps: {
    ...tabTaps('alerts'),
    alert_dismiss: (host, index) => {
      const shown = unread(host.state);
      host.set({ read: `${host.state.read} ${shown[index]!.title}` });
    },
  },
};

const unread = ({ read = '' }: ScreenState): readonly (typeof ALERTS)[number][] =>
  ALERTS.filter(({ title }) => !String(read).split(' ').includes(title));

const view = (app: AppContext, state: ScreenState): Element =>
  tabScreen(
    app,
    'title_alerts',
    'nav_alerts',
    scrolling(
      'list',
      12,
      state,
      ...unread(state).map(({ icon, title, body }) =>
        card(
          {
            id: 'alert_row',
            // planted: on iOS it speaks for all that is inside, also for the cross
            isElement: true,
            direction: 'row',
            align: 'start',
            gap: 12,
            padding: { top: 14, bottom: 14, start: 16, end: 4 },
          },
          picture(icon, { width: 24, height: 24, tint: 'primary' }),
          column(
            { grow: 1, gap: 3 },
            text(app.string(title), { id: 'alert_title', sizeSp: 16, weight: 600 }),
            text(app.string(body), { id: 'alert_body', sizeSp: 14, colour: 'ink_soft' }),
          ),
          // planted: nothing says what the cross does, or to which alert
          iconButton('alert_dismiss', 'ic_close', undefined, 48, { tint: 'ink_soft' }),
        ),
      ),
      button('alerts_choose', app.string('alerts_choose'), 'soft'),
    ),
    // planted: on iOS a reader stops at a hint that is folded away
    box({ id: 'alerts_hint', isElement: true, width: 0, height: 0 }),
  );
