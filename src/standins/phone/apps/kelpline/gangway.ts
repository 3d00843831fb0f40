import { type AppContext, column, type Element, picture, type ScreenModel, text } from '../../app-model.ts';
import { backTap, innerScreen } from './bars.ts';
import { button, card } from './parts.ts';

/** What the crew looks at; only who is signed in gets here. */
export const gangway: ScreenModel = {
  activity: 'GangwayActivity',
  view: (app) => view(app),
  first: {},
  taps: {
    ...backTap,
    // planted: nobody has loaded the plan of the seats
    seats: (host) => {
      const seats = host.memory.get('seats') as string[];
      host.log('Kelpline', `showing ${seats.length} seats`);
    },
  },
};

const view = (app: AppContext): Element =>
  innerScreen(
    app,
    'gangway_title',
    column(
      { padding: 16, gap: 14, grow: 1 },
      card(
        { align: 'center' },
        picture('ic_ticket', { width: 96, height: 96, tint: 'primary' }),
        text(app.string('ticket_code', 'KL-4821'), { id: 'gangway_code', sizeSp: 22, weight: 700 }),
        text(app.string('gangway_words'), { id: 'gangway_words', sizeSp: 16 }),
      ),
      button('seats', app.string('gangway_seats'), 'soft'),
    ),
  );
