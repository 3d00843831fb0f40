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
import { button, card, euros, scrolling } from './parts.ts';
import { logRestoring, offerIn } from './store.ts';

/** What is bought for what is chosen. */
const PRODUCTS = {
  year: 'pass.year',
  month: 'pass.month',
  ads: 'no-ads',
  crossings: 'crossings.10',
} as const;

export const pass: ScreenModel = {
  activity: 'PassActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, plan: 'year' },
  saves: ['scroll', 'plan'],
  // planted: without the offer that the store once gave to this process it begins again at the front
  created: (host, restored) => {
    if (!restored) host.memory.set('offer', ['pass.month', 'pass.year']);
    else if (!host.memory.has('offer')) host.open('timetable', { alone: true });
    for (const product of Object.values(PRODUCTS)) host.set(offerIn(host.storage, product));
  },
  // planted: back forgets where the user came from
  back: (host) => host.open('timetable', { alone: true }),
  taps: {
    ...backTap,
    plan_year: (host) => host.set({ plan: 'year' }),
    plan_month: (host) => host.set({ plan: 'month' }),
    plan_ads: (host) => host.set({ plan: 'ads' }),
    plan_crossings: (host) => host.set({ plan: 'crossings' }),
    continue: (host) => host.store.buy(PRODUCTS[host.state.plan as keyof typeof PRODUCTS]),
    restore: (host) => {
      logRestoring(host);
      host.store.restore();
    },
  },
};

const view = (app: AppContext, state: ScreenState): Element =>
  innerScreen(
    app,
    'title_pass',
    scrolling(
      'page',
      16,
      state,
      row(
        { gap: 14, padding: [6, 2] },
        box(
          { width: 56, height: 56, radius: 28, background: 'primary', align: 'center', justify: 'center' },
          picture('ic_anchor', { width: 30, height: 30, tint: 'on_primary' }),
        ),
        text(app.string('pass_lead'), { id: 'lead', sizeSp: 22, weight: 700, grow: 1 }),
      ),
      column(
        { gap: 10, padding: [0, 4] },
        ...['pass_bullet_all', 'pass_bullet_guest', 'pass_bullet_ads'].map((key) =>
          bullet(app.string(key), key),
        ),
      ),
      plan(
        app,
        'year',
        app.string('pass_year'),
        app.string('pass_price_year', price(app, state, 'pass.year', 149)),
        state.plan === 'year',
      ),
      plan(
        app,
        'month',
        app.string('pass_month'),
        app.string('pass_price_month', price(app, state, 'pass.month', 16.9)),
        state.plan === 'month',
      ),
      text(app.string('pass_terms'), { id: 'terms', sizeSp: 13, colour: 'ink_soft', padding: [0, 4] }),
      // what else the store has, by its own names, once it has answered
      ...(['ads', 'crossings'] as const).map((id) => {
        const name = state[`name ${PRODUCTS[id]}`];
        return name === undefined
          ? undefined
          : plan(app, id, String(name), String(state[`price ${PRODUCTS[id]}`]), state.plan === id);
      }),
    ),
    column(
      { padding: [12, 16], gap: 8 },
      button('continue', app.string('pass_continue')),
      button('restore', app.string('pass_restore'), 'plain'),
    ),
  );

/** As the store says it; until it has, the list price at home. */
const price = (app: AppContext, state: ScreenState, product: string, euro: number): string =>
  String(state[`price ${product}`] ?? euros(app, euro));

const bullet = (words: string, id: string): Element =>
  row(
    { gap: 10 },
    picture('ic_check', { width: 20, height: 20, tint: 'on_time' }),
    text(words, { id, sizeSp: 15, grow: 1 }),
  );

const plan = (app: AppContext, id: string, name: string, price: string, chosen: boolean): Element =>
  card(
    {
      id: `plan_${id}`,
      className: 'android.widget.RadioButton',
      clickable: true,
      checkable: true,
      checked: chosen,
      traits: ['radio'],
      direction: 'row',
      align: 'center',
      gap: 12,
      border: chosen ? 'primary' : 'outline',
      background: chosen ? 'primary_soft' : 'card',
    },
    box(
      {
        width: 22,
        height: 22,
        radius: 11,
        border: chosen ? 'primary' : 'ink_soft',
        align: 'center',
        justify: 'center',
      },
      chosen && box({ width: 12, height: 12, radius: 6, background: 'primary' }),
    ),
    column(
      { grow: 1, gap: 2 },
      text(name, { sizeSp: 17, weight: 600 }),
      text(price, { id: `price_${id}`, sizeSp: 15, colour: chosen ? 'on_primary_soft' : 'ink_soft' }),
    ),
    // planted in light: white on the badge's orange
    id === 'year' &&
      box(
        { background: 'badge', radius: 10, padding: [4, 10] },
        text(app.string('pass_saving'), { id: 'badge', sizeSp: 13, weight: 600, colour: 'on_badge' }),
      ),
  );
