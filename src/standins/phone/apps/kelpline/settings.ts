import {
  type AppContext,
  box,
  column,
  type Element,
  picture,
  row,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';
import { tabScreen, tabTaps } from './bars.ts';
import { button, card, divider, flip, scrolling, toggleRow } from './parts.ts';
import { POST_NOTIFICATIONS } from './push.ts';

export const settings: ScreenModel = {
  activity: 'SettingsActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, offline: false },
  saves: ['scroll', 'offline'],
  taps: {
    ...tabTaps('settings'),
    offline_toggle: flip('offline'),
    setting_ads: (host) => host.open('pass'),
    setting_push: (host) => host.requestPermission(POST_NOTIFICATIONS),
  },
};

const view = (app: AppContext, state: ScreenState): Element =>
  tabScreen(
    app,
    'title_settings',
    'nav_settings',
    scrolling(
      'page',
      14,
      state,
      card(
        { padding: [4, 16], gap: 0 },
        link('language', 'ic_globe', app.string('set_language'), app.string('language_name')),
        divider(),
        link('theme', 'ic_moon', app.string('set_theme'), app.string('set_theme_value')),
        divider(),
        link('push', 'ic_bell', app.string('set_push'), app.string('set_push_value')),
      ),
      card(
        { padding: [4, 16], gap: 0 },
        // planted: it does not tell that it is on or off
        toggleRow(app, app.string('set_offline'), 'offline', state.offline === true, false),
      ),
      card(
        { padding: [4, 16], gap: 0 },
        link('ads', 'ic_gear', app.string('set_ads')),
        // planted: a sentence that no catalogue has, a row that lies over the one above, two roles at once
        link('about', 'ic_info', app.string('set_about'), 'All boats between the islands, on time', {
          margin: { top: -10, end: 0, bottom: 0, start: 0 },
          traits: ['link', 'button'],
        }),
      ),
      box(
        {
          id: 'sign_out',
          className: 'android.widget.Button',
          clickable: true,
          traits: ['button'],
          minHeight: 52,
          radius: 16,
          background: 'card',
          align: 'center',
          justify: 'center',
        },
        text(app.string('set_sign_out'), { id: 'sign_out_label', sizeSp: 16, weight: 600, colour: 'danger' }),
      ),
      // planted: nobody can say its name
      button('help', '?', 'plain'),
    ),
  );

const link = (
  id: string,
  icon: string,
  title: string,
  value?: string,
  options: Parameters<typeof row>[0] = {},
): Element =>
  row(
    { id: `setting_${id}`, clickable: true, traits: ['button'], padding: [14, 0], gap: 14, ...options },
    picture(icon, { width: 22, height: 22, tint: 'primary' }),
    column(
      { grow: 1, gap: 1 },
      text(title, { sizeSp: 16 }),
      value === undefined ? undefined : text(value, { id: `value_${id}`, sizeSp: 14, colour: 'ink_soft' }),
    ),
    picture('ic_chevron', { width: 18, height: 18, tint: 'ink_soft' }),
  );
