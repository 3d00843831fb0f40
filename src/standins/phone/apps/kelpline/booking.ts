import { type AppContext, box, column, type Element, row, text } from '../../app-model.ts';
import { button, card, divider, euros, iconButton, innerScreen, scrolling } from './parts.ts';

export const booking = (app: AppContext): Element =>
  innerScreen(
    app,
    'title_booking',
    scrolling(
      'page',
      14,
      field(app.string('field_name'), 'Ada Fjelde', 'name'),
      field(app.string('field_email'), 'ada@isle.example', 'email'),
      // planted: its text does not say that it is the field's label
      field(app.string('field_note'), app.string('hint_note'), 'note', true),
      card(
        { gap: 12 },
        row(
          { gap: 10 },
          column(
            { grow: 1 },
            text(app.string('passengers'), { sizeSp: 16, weight: 600 }),
            text(app.plural('passengers_count', 2), {
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
        toggleRow(app.string('bring_bike'), 'bike', true),
      ),
      row(
        { padding: [4, 4], justify: 'between' },
        text(app.string('total'), { sizeSp: 18 }),
        text(euros(app, 17.8), { id: 'total', sizeSp: 22, weight: 700 }),
      ),
    ),
    column(
      { padding: [12, 16] },
      // planted: its name is not what is written on it
      button('pay', app.string('pay_now', euros(app, 17.8)), 'filled', app.string('book_this')),
    ),
  );

const field = (label: string, content: string, id: string, placeholder = false): Element =>
  column(
    { gap: 5 },
    text(label, {
      id: `${id}_label`,
      labelFor: placeholder ? undefined : `${id}_field`,
      sizeSp: 14,
      weight: 500,
      colour: 'ink_soft',
      padding: [0, 4],
    }),
    text(content, {
      id: `${id}_field`,
      className: 'android.widget.EditText',
      clickable: true,
      traits: ['field'],
      sizeSp: 16,
      colour: placeholder ? 'hint' : 'ink',
      background: 'field',
      border: 'outline',
      radius: 12,
      // planted: the note keeps its height, so that its second line is lost in larger text
      ...(placeholder
        ? { height: 52, padding: [15, 14] as [number, number] }
        : { padding: [15.2, 14] as [number, number] }),
      hint: placeholder ? content : '',
    }),
  );

export const toggleRow = (label: string, id: string, on: boolean, tellsState = true): Element =>
  row(
    {
      id: `${id}_toggle`,
      className: 'android.widget.Switch',
      clickable: true,
      checkable: tellsState,
      checked: on && tellsState,
      traits: ['switch'],
      minHeight: 48,
      gap: 10,
    },
    text(label, { sizeSp: 16, grow: 1 }),
    box(
      {
        width: 48,
        height: 28,
        radius: 14,
        background: on ? 'primary' : 'field',
        border: on ? undefined : 'outline',
        align: on ? 'end' : 'start',
        justify: 'center',
        padding: 4,
      },
      box({ width: 20, height: 20, radius: 10, background: on ? 'on_primary' : 'ink_soft' }),
    ),
  );
