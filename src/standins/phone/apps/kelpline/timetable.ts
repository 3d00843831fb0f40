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
import { loadAd, startAds } from './ads.ts';
import { tabScreen, tabTaps } from './bars.ts';
import { card, divider, flip, iconButton, scrolling, shortDate } from './parts.ts';
import { registerIfAllowed } from './push.ts';
import { askStore } from './store.ts';

export const SAILINGS = [
  { departs: '16:10', arrives: '16:52', boat: 'Heron', lateMin: 0, seats: 31 },
  { departs: '17:40', arrives: '18:22', boat: 'Heron', lateMin: 15, seats: 12 },
  { departs: '18:30', arrives: '19:05', boat: 'Tern', lateMin: 0, seats: 2 },
  { departs: '20:15', arrives: '20:57', boat: 'Heron', lateMin: 0, seats: 0 },
] as const;

/** From Aldwick, more boats go: the list is longer than the display. */
const SAILINGS_BACK = [
  { departs: '15:20', arrives: '16:02', boat: 'Heron', lateMin: 0, seats: 18 },
  { departs: '16:45', arrives: '17:20', boat: 'Tern', lateMin: 0, seats: 9 },
  { departs: '18:10', arrives: '18:52', boat: 'Heron', lateMin: 5, seats: 40 },
  { departs: '19:00', arrives: '19:35', boat: 'Tern', lateMin: 0, seats: 22 },
  { departs: '20:30', arrives: '21:12', boat: 'Heron', lateMin: 0, seats: 7 },
  { departs: '21:50', arrives: '22:25', boat: 'Tern', lateMin: 0, seats: 33 },
  { departs: '23:05', arrives: '23:47', boat: 'Heron', lateMin: 0, seats: 51 },
] as const;

export const timetable: ScreenModel = {
  activity: 'TimetableActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, back: false },
  // planted: how far the list is scrolled is only where the process keeps it
  saves: ['back'],
  retains: ['scroll'],
  created: (host) => {
    const isLoaded = host.memory.has('timetable');
    host.memory.set('timetable', true);
    registerIfAllowed(host);
    // planted: never taken back
    host.registerReceiver('b.c', [
      'b.c.a(SourceFile:3)',
      'example.kelpline.TimetableActivity.onCreate(SourceFile:44)',
    ]);
    if (!isLoaded) askStore(host);
    if (!isLoaded) startAds(host);
    loadAd(host, 'timetable-banner');
    const { departs, leadsTo } = host.state;
    // planted: with nothing loaded yet, a tapped message stays here
    if (leadsTo === 'sailing' && isLoaded) host.open('sailing', { extras: { departs }, instead: true });
  },
  taps: {
    ...tabTaps('timetable'),
    swap_direction: flip('back'),
    sailing_row: (host, index) =>
      host.open('sailing', { extras: { departs: sailingsOf(host.state)[index]!.departs } }),
  },
};

const view = (app: AppContext, state: ScreenState): Element =>
  tabScreen(
    app,
    'title_timetable',
    'nav_timetable',
    scrolling(
      'list',
      12,
      state,
      card(
        { direction: 'row', align: 'center', gap: 8 },
        column(
          { grow: 1, gap: 8 },
          harbour(app, 'from_label', state.back ? 'harbour_aldwick' : 'harbour_skerrin', 'from'),
          divider(),
          harbour(app, 'to_label', state.back ? 'harbour_skerrin' : 'harbour_aldwick', 'to'),
        ),
        // planted: the button has no description
        iconButton('swap_direction', 'ic_swap', undefined, 48, {
          background: 'primary_soft',
          tint: 'on_primary_soft',
        }),
      ),
      row(
        { id: 'notice', background: 'notice', radius: 12, padding: [10, 14], gap: 10 },
        // planted: named by its file
        picture('ic_wind', { width: 22, height: 22, tint: 'notice_ink', contentDescription: 'ic_wind' }),
        text(app.string('notice_wind'), {
          id: 'notice_text',
          sizeSp: 14,
          weight: 500,
          colour: 'notice_ink',
          grow: 1,
        }),
      ),
      text(app.string('today_date', shortDate(app, '2026-11-23')), {
        id: 'day',
        sizeSp: 14,
        weight: 600,
        colour: 'ink_soft',
        padding: [2, 4],
      }),
      ...sailingsOf(state).map((sailing) => sailingRow(app, sailing)),
    ),
  );

const sailingsOf = ({ back }: Readonly<ScreenState>) => (back ? SAILINGS_BACK : SAILINGS);

const harbour = (app: AppContext, label: string, name: string, id: string): Element =>
  column(
    { id: `${id}_harbour`, clickable: true, traits: ['button'], padding: [3, 0] },
    text(app.string(label), { sizeSp: 13, colour: 'ink_soft' }),
    text(app.string(name), { sizeSp: 19, weight: 600 }),
  );

function sailingRow(
  app: AppContext,
  { departs, arrives, boat, lateMin, seats }: ReturnType<typeof sailingsOf>[number],
): Element {
  const full = seats === 0;
  // times, boat and status stand one above the other where large text leaves no room beside them
  const isLarge = app.textScale > 1.5;
  return card(
    {
      id: 'sailing_row',
      clickable: true,
      // planted: what a long press does is not among its actions
      longClickable: true,
      traits: ['button'],
      direction: isLarge ? 'column' : 'row',
      align: isLarge ? 'start' : 'center',
      gap: isLarge ? 2 : 14,
      padding: [12, 16],
    },
    column(
      { width: isLarge ? undefined : 60 },
      text(departs, { id: 'departs', sizeSp: 20, weight: 700 }),
      text(arrives, { id: 'arrives', sizeSp: 14, colour: 'ink_soft' }),
    ),
    column(
      { grow: isLarge ? undefined : 1, gap: 2 },
      text(boat, { id: 'boat', sizeSp: 15, weight: 500 }),
      text(full ? app.string('status_full') : app.plural('seats_left', seats), {
        id: 'seats',
        sizeSp: 13,
        colour: 'ink_soft',
      }),
    ),
    column(
      { align: isLarge ? 'start' : 'end' },
      lateMin > 0
        ? text(app.string('status_late', lateMin), { id: 'status', sizeSp: 13, weight: 600, colour: 'late' })
        : text(app.string('status_on_time'), { id: 'status', sizeSp: 13, weight: 600, colour: 'on_time' }),
    ),
    box({}, picture('ic_chevron', { width: 18, height: 18, tint: 'ink_soft' })),
  );
}
