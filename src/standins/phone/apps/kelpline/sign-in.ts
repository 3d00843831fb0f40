import {
  type AppContext,
  column,
  type Element,
  type ScreenModel,
  type ScreenState,
  text,
} from '../../app-model.ts';
import { backTap, innerScreen } from './bars.ts';
import { field } from './booking.ts';
import { button, scrolling } from './parts.ts';

const CODE = '4711';

/** Who is not signed in comes by here on the way to the gangway. */
export const signIn: ScreenModel = {
  activity: 'SignInActivity',
  view: (app, state) => view(app, state),
  first: { scroll: 0, account: '', code: '', wrong: false },
  saves: ['scroll', 'account', 'code', 'wrong'],
  taps: {
    ...backTap,
    sign_in: (host) => {
      const isKnown = String(host.state.account).includes('@') && host.state.code === CODE;
      host.set({ wrong: !isKnown });
      if (!isKnown) return;
      host.storage.set('session', String(host.state.account));
      host.open('gangway', { instead: true });
    },
  },
};

const view = (app: AppContext, state: ScreenState): Element =>
  innerScreen(
    app,
    'signin_title',
    scrolling(
      'page',
      14,
      state,
      field(app.string('field_email'), 'account', state),
      field(app.string('signin_code'), 'code', state),
      state.wrong === true
        ? text(app.string('signin_wrong'), { id: 'signin_wrong', sizeSp: 15, colour: 'danger' })
        : undefined,
    ),
    column({ padding: [12, 16] }, button('sign_in', app.string('signin_go'))),
  );
