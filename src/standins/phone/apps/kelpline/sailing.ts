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
import { backTap, innerScreen } from './bars.ts';
import { button, card, divider, scrolling } from './parts.ts';
import { SAILINGS } from './timetable.ts';

const STOPS = [
  { afterMin: 0, harbour: 'harbour_skerrin' },
  { afterMin: 22, harbour: 'harbour_fennholm' },
  { afterMin: 42, harbour: 'harbour_aldwick' },
] as const;

export const sailing: ScreenModel = {
  activity: 'SailingActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, departs: '17:40', told: false },
  saves: ['scroll', 'told'],
  created: (host) => {
    // planted: it is started for each sailing looked at, and nobody ends it
    host.startService('TideSyncService');
    const asked = /^(?:kelpline:\/\/|https?:\/\/[^/]*\/)sailings\/([^/?#]*)/.exec(
      String(host.state.data ?? ''),
    )?.[1];
    // planted: with the timetable not loaded yet, what the link asks for is forgotten
    if (asked === undefined || !host.memory.has('timetable')) return;
    const sailing = decodeURIComponent(asked);
    // planted: nobody asks whether there is such a sailing
    const departs = SAILINGS[Number(sailing)]!.departs;
    host.log('Fenlok', JSON.stringify({ kind: 'link.opened', arguments: { sailing } }));
    host.set({ departs });
  },
  taps: {
    ...backTap,
    book: (host) => host.open('booking'),
    add_alert: (host) => host.set({ told: true }),
  },
};

const view = (app: AppContext, state: ScreenState): Element =>
  innerScreen(
    app,
    'title_sailing',
    scrolling(
      'page',
      12,
      state,
      box({ radius: 16, background: 'sky' }, picture('harbour', { width: 328, height: 140 })),
      column(
        { gap: 2, padding: [4, 2] },
        text(app.string('sailing_route', app.string('harbour_skerrin'), app.string('harbour_aldwick')), {
          id: 'route',
          sizeSp: 22,
          weight: 700,
        }),
        // planted: its size is given in dp
        text(app.string('sailing_boat'), { id: 'boat', sizeSp: 15, fixedSize: true, colour: 'ink_soft' }),
      ),
      card(
        {},
        fact('ic_clock', app.string('sailing_duration', 42), 'duration'),
        fact('ic_info', app.string('sailing_boarding', 10), 'boarding'),
        // planted: hardly to be seen
        fact('ic_check', app.string('sailing_bikes'), 'bikes', 'outline'),
      ),
      // planted: the words stand in the code, in English
      text('Stops on the way', { id: 'stops_heading', sizeSp: 15, weight: 600, padding: [2, 2] }),
      card(
        { padding: [6, 16], gap: 0 },
        ...STOPS.flatMap((stop, i) => [
          i > 0 ? divider() : undefined,
          row(
            { padding: [9, 0], gap: 16 },
            text(timeOf(state, stop.afterMin), { sizeSp: 15, weight: 600, width: 52 }),
            text(app.string(stop.harbour), { sizeSp: 15, grow: 1 }),
          ),
        ]),
      ),
    ),
    column(
      { padding: [12, 16], gap: 8 },
      button('book', app.string('book_this')),
      // planted: it is not there where the phone is held sideways
      app.orientation === 'portrait' &&
        button('add_alert', app.string(state.told ? 'set_push_value' : 'add_alert'), 'plain'),
    ),
  );

/** Of a stop: so many minutes after the sailing departs. */
function timeOf({ departs }: ScreenState, afterMin: number): string {
  const [hours = 0, minutes = 0] = String(departs).split(':').map(Number);
  const at = hours * 60 + minutes + afterMin;
  return `${Math.floor(at / 60)}:${String(at % 60).padStart(2, '0')}`;
}

const fact = (icon: string, words: string, id: string, tint = 'primary'): Element =>
  row(
    { gap: 12 },
    picture(icon, { id: `${id}_icon`, width: 20, height: 20, tint }),
    text(words, { id, sizeSp: 15, grow: 1 }),
  );
