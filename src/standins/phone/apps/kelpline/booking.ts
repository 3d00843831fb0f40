import {
  type AppContext,
  column,
  type Element,
  row,
  type ScreenHost,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';
import { backTap, innerScreen } from './bars.ts';
import { button, card, divider, euros, flip, iconButton, scrolling, toggleRow } from './parts.ts';
import { askForRating } from './rating.ts';

export const booking: ScreenModel = {
  activity: 'BookingActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, name: 'Ada Fjelde', email: 'ada@isle.example', note: '', passengers: 2, bike: true },
  // planted: name and note are only where the process keeps them
  saves: ['scroll', 'email', 'passengers', 'bike'],
  retains: ['name', 'note'],
  taps: {
    ...backTap,
    passengers_minus: (host) => addPassengers(host, -1),
    passengers_plus: (host) => addPassengers(host, 1),
    bike_toggle: flip('bike'),
    pay: askForRating,
  },
};

const addPassengers = (host: ScreenHost, more: number): void =>
  host.set({ passengers: Math.min(9, Math.max(1, Number(host.state.passengers) + more)) });

const FARE = 8.9;

const view = (app: AppContext, state: ScreenState): Element =>
  innerScreen(
    app,
    'title_booking',
    scrolling(
      'page',
      14,
      state,
      field(app.string('field_name'), 'name', state),
      field(app.string('field_email'), 'email', state),
      // planted: its text does not say that it is the field's label
      field(app.string('field_note'), 'note', state, app.string('hint_note')),
      card(
        { gap: 12 },
        row(
          { gap: 10 },
          column(
            { grow: 1 },
            text(app.string('passengers'), { sizeSp: 16, weight: 600 }),
            text(app.plural('passengers_count', Number(state.passengers)), {
              id: 'passengers_count',
              sizeSp: 14,
              colour: 'ink_soft',
              // planted: no room to grow
              height: 20,
            }),
          ),
          // planted: 20 dp are too small to hit safely, and they nearly touch
          row(
            { gap: 1 },
            iconButton('passengers_minus', 'ic_minus', app.string('passengers_fewer'), 20, {
              background: 'primary_soft',
              tint: 'on_primary_soft',
            }),
            iconButton('passengers_plus', 'ic_plus', app.string('passengers_more'), 20, {
              background: 'primary_soft',
              tint: 'on_primary_soft',
            }),
          ),
        ),
        divider(),
        toggleRow(app, app.string('bring_bike'), 'bike', state.bike === true),
      ),
      row(
        { padding: [4, 4], justify: 'between' },
        text(app.string('total'), { sizeSp: 18 }),
        text(euros(app, FARE * Number(state.passengers)), { id: 'total', sizeSp: 22, weight: 700 }),
      ),
    ),
    column(
      { padding: [12, 16] },
      // planted: its name is not what is written on it
      button(
        'pay',
        app.string('pay_now', euros(app, FARE * Number(state.passengers))),
        'filled',
        app.string('book_this'),
      ),
    ),
  );

/** A label and its field; one with a hint shows that as long as it is empty. */
export const field = (label: string, id: string, state: ScreenState, hint?: string): Element =>
  column(
    { gap: 5 },
    text(label, {
      id: `${id}_label`,
      labelFor: hint === undefined ? `${id}_field` : undefined,
      sizeSp: 14,
      weight: 500,
      colour: 'ink_soft',
      padding: [0, 4],
    }),
    text(String(state[id] || hint || ''), {
      id: `${id}_field`,
      className: 'android.widget.EditText',
      edits: id,
      clickable: true,
      traits: ['field'],
      sizeSp: 16,
      colour: state[id] || hint === undefined ? 'ink' : 'hint',
      background: 'field',
      border: 'outline',
      radius: 12,
      // planted: the note keeps its height, so that its second line is lost in larger text
      ...(hint !== undefined
        ? { height: 52, padding: [15, 14] as [number, number] }
        : { padding: [15.2, 14] as [number, number] }),
      hint: hint ?? '',
    }),
  );
