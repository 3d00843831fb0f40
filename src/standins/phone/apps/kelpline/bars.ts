/** The bars of Kelpline's screens in the manner of each platform, and where they lead. */
import {
  type AppContext,
  box,
  column,
  type Element,
  picture,
  row,
  type ScreenHost,
  type ScreenModel,
  text,
} from '../../app-model.ts';
import { divider, iconButton } from './parts.ts';

const TABS = [
  { id: 'nav_timetable', icon: 'ic_ferry', label: 'nav_timetable' },
  { id: 'nav_tickets', icon: 'ic_ticket', label: 'nav_tickets' },
  { id: 'nav_alerts', icon: 'ic_bell', label: 'nav_alerts' },
  { id: 'nav_settings', icon: 'ic_gear', label: 'nav_settings' },
] as const;

const TAB_SCREENS = {
  timetable: 'nav_timetable',
  tickets: 'nav_tickets',
  alerts: 'nav_alerts',
  settings: 'nav_settings',
};

/** Where the tabs lead: to the timetable by going back to it, to the others on top of it. */
export const tabTaps = (current: keyof typeof TAB_SCREENS): ScreenModel['taps'] =>
  Object.fromEntries(
    Object.entries(TAB_SCREENS).map(([screen, tab]) => [
      tab,
      (host: ScreenHost) => {
        if (screen === current) return;
        if (screen === 'timetable') host.finish();
        else host.open(screen, { instead: current !== 'timetable' });
      },
    ]),
  );

/** The arrow of an inner screen. */
export const backTap: ScreenModel['taps'] = { back: (host) => host.finish() };

type Tab = (typeof TABS)[number];

/** A top-level screen: title, content, tab bar. */
export const tabScreen = (
  app: AppContext,
  title: string,
  current: Tab['id'],
  ...content: (Element | undefined)[]
): Element =>
  column(
    { id: 'screen_root', background: 'surface' },
    row(
      { id: 'title_bar', bar: 'navigation', padding: app.platform === 'ios' ? [4, 16] : [10, 20] },
      text(app.string(title), {
        id: 'title',
        sizeSp: app.platform === 'ios' ? 34 : 26,
        weight: 700,
        colour: 'ink',
        grow: 1,
        // planted: the longest of these screens has no heading
        heading: current !== 'nav_timetable',
      }),
    ),
    ...content,
    TAB_BARS[app.platform](app, current),
  );

const TAB_BARS: Readonly<Record<AppContext['platform'], (app: AppContext, current: string) => Element>> = {
  // large text needs two rows of tabs
  android: (app, current) => {
    const perRow = app.textScale > 1.5 ? 2 : 4;
    const rows = Array.from({ length: TABS.length / perRow }, (_, i) =>
      TABS.slice(i * perRow, (i + 1) * perRow),
    );
    return column(
      { id: 'tab_bar', bar: 'tabs', background: 'card', padding: [4, 8] },
      ...rows.map((tabs) => row({}, ...tabs.map((tab) => androidTab(app, tab, tab.id === current)))),
    );
  },
  // its texts keep their size, as in any bar of the system
  ios: (app, current) =>
    column(
      { id: 'tab_bar', bar: 'tabs', background: 'card', toEdge: true },
      divider(),
      row({}, ...TABS.map((tab) => iosTab(app, tab, tab.id === current))),
    ),
};

const androidTab = (app: AppContext, { id, icon, label }: Tab, selected: boolean): Element =>
  column(
    {
      id,
      clickable: true,
      selected,
      traits: ['tab'],
      grow: 1,
      minHeight: 60,
      align: 'center',
      justify: 'center',
      gap: 3,
    },
    box(
      { background: selected ? 'primary_soft' : undefined, radius: 14, padding: [3, 16] },
      picture(icon, { width: 22, height: 22, tint: selected ? 'on_primary_soft' : 'ink_soft' }),
    ),
    text(app.string(label), {
      sizeSp: 12,
      weight: selected ? 600 : 500,
      colour: selected ? 'ink' : 'ink_soft',
      align: 'center',
    }),
  );

const iosTab = (app: AppContext, { id, icon, label }: Tab, selected: boolean): Element =>
  column(
    {
      id,
      clickable: true,
      selected,
      traits: ['tab'],
      grow: 1,
      minHeight: 49,
      align: 'center',
      justify: 'center',
    },
    picture(icon, { width: 26, height: 26, tint: selected ? 'primary' : 'ink_soft' }),
    text(app.string(label), {
      sizeSp: 10,
      fixedSize: true,
      weight: 500,
      colour: selected ? 'primary' : 'ink_soft',
      align: 'center',
    }),
  );

/** A screen that was opened from another: back, title, content. */
export const innerScreen = (app: AppContext, title: string, ...content: (Element | undefined)[]): Element =>
  column({ id: 'screen_root', background: 'surface' }, TITLE_BARS[app.platform](app, title), ...content);

const TITLE_BARS: Readonly<Record<AppContext['platform'], (app: AppContext, title: string) => Element>> = {
  android: (app, title) =>
    row(
      { id: 'title_bar', bar: 'navigation', padding: [6, 8], gap: 4 },
      iconButton('back', 'ic_back', app.string('action_back'), 48),
      text(app.string(title), { id: 'title', sizeSp: 20, weight: 600, heading: true, grow: 1 }),
    ),
  ios: (app, title) =>
    row(
      { id: 'title_bar', bar: 'navigation', padding: [0, 8] },
      row(
        { grow: 1 },
        row(
          { id: 'back', clickable: true, traits: ['button'], minHeight: 44, gap: 4, padding: [0, 6] },
          picture('ic_back', { width: 22, height: 22, tint: 'primary' }),
          text(app.string('action_back'), { sizeSp: 17, fixedSize: true, colour: 'primary' }),
        ),
      ),
      text(app.string(title), { id: 'title', sizeSp: 17, fixedSize: true, weight: 600, heading: true }),
      box({ grow: 1 }),
    ),
};
