/** What Kelpline's screens share: bars, cards, buttons. */
import {
  type AppContext,
  type BoxElement,
  box,
  column,
  type Element,
  picture,
  row,
  type ScreenHost,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';

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

export const flip =
  (value: string) =>
  (host: ScreenHost): void =>
    host.set({ [value]: !host.state[value] });

/** A top-level screen: title, content, tab bar. */
export const tabScreen = (
  app: AppContext,
  title: string,
  current: (typeof TABS)[number]['id'],
  ...content: (Element | undefined)[]
): Element =>
  column(
    { id: 'screen_root', background: 'surface' },
    row(
      { id: 'title_bar', bar: 'navigation', padding: [10, 20] },
      text(app.string(title), {
        id: 'title',
        sizeSp: 26,
        weight: 700,
        colour: 'ink',
        grow: 1,
        // planted: the longest of these screens has no heading
        heading: current !== 'nav_timetable',
      }),
    ),
    ...content,
    tabBar(app, current),
  );

/** Large text needs two rows of tabs. */
const tabBar = (app: AppContext, current: string): Element => {
  const perRow = app.textScale > 1.5 ? 2 : 4;
  const rows = Array.from({ length: TABS.length / perRow }, (_, i) =>
    TABS.slice(i * perRow, (i + 1) * perRow),
  );
  return column(
    { id: 'tab_bar', bar: 'tabs', background: 'card', padding: [4, 8] },
    ...rows.map((tabs) => row({}, ...tabs.map((tab) => tabItem(app, tab, tab.id === current)))),
  );
};

const tabItem = (app: AppContext, { id, icon, label }: (typeof TABS)[number], selected: boolean): Element =>
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

/** A screen that was opened from another: back, title, content. */
export const innerScreen = (app: AppContext, title: string, ...content: (Element | undefined)[]): Element =>
  column(
    { id: 'screen_root', background: 'surface' },
    row(
      { id: 'title_bar', bar: 'navigation', padding: [6, 8], gap: 4 },
      iconButton('back', 'ic_back', app.string('action_back'), 48),
      text(app.string(title), { id: 'title', sizeSp: 20, weight: 600, heading: true, grow: 1 }),
    ),
    ...content,
  );

/** What scrolls between the bars: a list of rows, or one page. */
export const scrolling = (
  kind: 'list' | 'page',
  gap: number,
  { scroll = 0 }: ScreenState,
  ...children: (Element | undefined)[]
): BoxElement =>
  column(
    {
      id: 'content',
      scrolls: 'scroll',
      scrolledDp: Number(scroll),
      className: kind === 'list' ? 'androidx.recyclerview.widget.RecyclerView' : 'android.widget.ScrollView',
      scrollable: true,
      grow: 1,
      padding: [0, 16],
      gap,
    },
    ...children,
  );

/** An icon that can be tapped; without a description where its author gave none. */
export const iconButton = (
  id: string,
  icon: string,
  contentDescription: string | undefined,
  sizeDp: number,
  options: { tint?: string; background?: string } = {},
): Element =>
  box(
    {
      id,
      className: 'android.widget.ImageButton',
      contentDescription,
      clickable: true,
      traits: ['button'],
      width: sizeDp,
      height: sizeDp,
      align: 'center',
      justify: 'center',
      radius: sizeDp / 2,
      background: options.background,
    },
    picture(icon, {
      width: Math.min(24, sizeDp - 8),
      height: Math.min(24, sizeDp - 8),
      tint: options.tint ?? 'ink',
    }),
  );

export const card = (
  options: Parameters<typeof box>[0],
  ...children: (Element | false | undefined)[]
): BoxElement => box({ background: 'card', radius: 16, padding: 16, gap: 10, ...options }, ...children);

export const button = (
  id: string,
  label: string,
  kind: 'filled' | 'soft' | 'plain' = 'filled',
  contentDescription?: string,
): Element =>
  box(
    {
      id,
      className: 'android.widget.Button',
      contentDescription,
      clickable: true,
      traits: ['button'],
      minHeight: 52,
      radius: 26,
      align: 'center',
      justify: 'center',
      padding: [0, 20],
      background: { filled: 'primary', soft: 'primary_soft', plain: undefined }[kind],
    },
    text(label, {
      sizeSp: 16,
      weight: 600,
      colour: { filled: 'on_primary', soft: 'on_primary_soft', plain: 'primary' }[kind],
      align: 'center',
    }),
  );

/** What stands in a dialog: title, words, and one button that ends it. */
export const dialogBox = (id: string, title: string, words: readonly string[], done: string): Element =>
  column(
    { id, background: 'card', radius: 24, padding: 24, gap: 14 },
    text(title, { id: `${id}_title`, sizeSp: 20, weight: 600, heading: true }),
    ...words.map((line, i) => text(line, { id: `${id}_line${i + 1}`, sizeSp: 15, colour: 'ink_soft' })),
    button(`${id}_done`, done, 'plain'),
  );

export const divider = (): Element => box({ height: 1, background: 'outline' });

/** An amount of money as the platform writes it in the app's language. */
export const euros = (app: AppContext, amount: number): string =>
  new Intl.NumberFormat(app.locale, { style: 'currency', currency: 'EUR' }).format(amount);

/** A date as the platform writes it, short. */
export const shortDate = (app: AppContext, isoDate: string): string =>
  new Intl.DateTimeFormat(app.locale, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(isoDate),
  );
