import {
  type AppContext,
  box,
  type Element,
  picture,
  row,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';
import { loadAd, showAd } from './ads.ts';
import { tabScreen, tabTaps } from './bars.ts';
import { card, dialogBox, divider, iconButton, scrolling, shortDate } from './parts.ts';

export const tickets: ScreenModel = {
  activity: 'TicketsActivity',
  view: (app, state) => view(app, state),
  dialog: {
    value: 'details',
    view: (app, { details }) =>
      typeof details === 'number'
        ? dialogBox(
            app,
            'details',
            app.string('ticket_code', CODES[details]!),
            [app.string('ticket_deck'), app.string('sailing_bikes')],
            app.string('action_back'),
          )
        : undefined,
    // planted: nobody takes it down with the screen
    shownIn: ['b.b.a(SourceFile:5)', 'example.kelpline.TicketsActivity.onClick(SourceFile:58)'],
  },
  first: { scroll: 0, details: undefined },
  // planted: the dialog that is open is written nowhere
  saves: ['scroll'],
  created: (host) => {
    // planted: the tickets are read from the disk by the thread that draws
    host.readDisk(38, ['b.a.a(SourceFile:14)', 'example.kelpline.TicketsActivity.onCreate(SourceFile:31)']);
    loadAd(host, 'ticket-interstitial');
  },
  taps: {
    ...tabTaps('tickets'),
    ticket_show: (host) => host.open(host.storage.has('session') ? 'gangway' : 'signIn'),
    // what has loaded meanwhile comes first
    ticket_info: (host, index) => {
      if (!showAd(host, 'ticket-interstitial')) host.set({ details: index });
    },
    details_done: (host) => host.set({ details: undefined }),
  },
};

const CODES = ['KL-4821', 'KL-4907'];

const view = (app: AppContext, state: ScreenState): Element =>
  tabScreen(
    app,
    'title_tickets',
    'nav_tickets',
    scrolling(
      'list',
      14,
      state,
      ticket(app, CODES[0]!, '2026-11-23', '18:30'),
      ticket(app, CODES[1]!, '2026-11-28', '23:10'),
      text(app.string('tickets_past'), { id: 'past_heading', sizeSp: 15, weight: 600, padding: [2, 4] }),
      card(
        { padding: [6, 16], gap: 0 },
        pastTrip(app, '2026-11-02', 'on_time'),
        divider(),
        pastTrip(app, '2026-10-19', 'late'),
      ),
    ),
  );

const ticket = (app: AppContext, code: string, date: string, until: string): Element =>
  card(
    { gap: 8 },
    // planted: the row stays from left to right in Arabic too
    row(
      { gap: 10, leftToRight: true },
      picture('ic_ticket', { width: 24, height: 24, tint: 'primary' }),
      text(app.string('ticket_code', code), { id: 'ticket_code', sizeSp: 17, weight: 600, grow: 1 }),
      iconButton('ticket_info', 'ic_info', app.string('ticket_info'), 48, { tint: 'ink_soft' }),
    ),
    text(app.string('sailing_route', app.string('harbour_skerrin'), app.string('harbour_aldwick')), {
      id: 'ticket_route',
      sizeSp: 20,
      weight: 700,
    }),
    // planted: the day is written as in America, in every language
    text(app.string('ticket_valid', americanDate(date), until), { id: 'ticket_valid', sizeSp: 15 }),
    // planted: one line of this width is enough for English, not for German
    row(
      {},
      text(app.string('ticket_deck'), {
        id: 'ticket_deck',
        sizeSp: 14,
        colour: 'ink_faint',
        width: 150,
        maxLines: 1,
      }),
    ),
    box(
      {
        id: 'ticket_show',
        className: 'android.widget.Button',
        clickable: true,
        traits: ['button'],
        background: 'primary_soft',
        radius: 12,
        minHeight: 48,
        align: 'center',
        justify: 'center',
      },
      text(app.string('ticket_show'), { sizeSp: 15, weight: 600, colour: 'on_primary_soft' }),
    ),
  );

const americanDate = (isoDate: string): string => {
  const [year, month, day] = isoDate.split('-');
  return `${month}/${day}/${year}`;
};

const pastTrip = (app: AppContext, date: string, tint: string): Element =>
  row(
    { id: 'past_trip', padding: [12, 0], gap: 14 },
    text(shortDate(app, date), {
      id: 'past_date',
      sizeSp: 14,
      colour: 'ink_soft',
      width: 64 * app.textScale,
    }),
    text(app.string('sailing_route', app.string('harbour_fennholm'), app.string('harbour_skerrin')), {
      id: 'past_route',
      sizeSp: 15,
      grow: 1,
    }),
    // planted: green where it was on time, red where it was late, and nothing else to tell
    picture('ic_check', { id: 'past_mark', width: 20, height: 20, tint }),
  );
