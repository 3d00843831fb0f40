/** What the display shows now: the app in front, or what the system has laid over it. */
import type { Element } from '../app-model.ts';
import { type ShownScreen, showScreen, systemResources } from '../screen/display.ts';
import type { RunnableApp } from './activity-manager.ts';
import { withKeyFocus } from './key-focus.ts';
import type { RunningPhone } from './running-phone.ts';
import {
  adView,
  blankView,
  lockView,
  permissionView,
  ratingView,
  recentsView,
  shadeView,
  sheetView,
  troubleView,
} from './system-apps.ts';

interface FrontWindow {
  appId: string;
  /** Full class name of the activity, or the window's title. */
  title: string;
  screen: ShownScreen;
  /** Pictures of it are black. */
  isSecure?: boolean;
}

const SYSTEM_UI = 'com.android.systemui';
const STORE = 'com.android.vending';
const PERMISSION_CONTROLLER = 'com.android.permissioncontroller';

/** Undefined where the display is off. */
export async function frontWindow(os: RunningPhone): Promise<FrontWindow | undefined> {
  if (!os.isScreenOn) return undefined;
  const system = (title: string, view: Element) => show(os, SYSTEM_UI, title, view);
  if (os.isLocked) return system('NotificationShade', lockView());
  const { cover } = os;
  if (cover === 'shade') return system('NotificationShade', shadeView(os.messages.notifications.list()));
  if (cover === 'recents') return system('RecentsActivity', recentsView(os.recentApps().map(labelOf)));
  const { app } = os.activities.front;
  if (cover && 'asks' in cover) {
    const question = permissionView(labelOf(cover.app));
    return show(os, PERMISSION_CONTROLLER, 'GrantPermissionsActivity', blankView(), undefined, question);
  }
  if (cover && 'ad' in cover)
    return show(os, cover.app.appId, `com.${cover.ad.network}.ads.FullScreenActivity`, adView(cover.ad));
  if (cover && 'rating' in cover)
    return show(
      os,
      STORE,
      'RatingSheet',
      blankView(),
      undefined,
      ratingView(labelOf(cover.app), cover.rating),
    );
  if (cover && 'sheet' in cover)
    return show(os, STORE, 'PurchaseSheet', blankView(), undefined, sheetView(cover.sheet));
  if (cover)
    return show(
      os,
      'android',
      'Application Error',
      blankView(),
      undefined,
      troubleView(labelOf(app), cover.trouble),
    );
  const record = os.activities.shown;
  if (!record?.state) return show(os, app.appId, 'Splash Screen', blankView());
  const model = app.model.screens[record.screen]!;
  const context = os.contextOf(app);
  const view = withFocus(model.view(context, record.state), record.focused);
  const dialog = model.dialog?.view(context, record.state);
  // the window on top has it
  const root = dialog ? view : withKeyFocus(view, record.keyFocus);
  const above = dialog && withKeyFocus(dialog, record.keyFocus);
  const window = await show(os, app.appId, record.className, root, app, above);
  return { ...window, isSecure: model.secure ?? false };
}

async function show(
  os: RunningPhone,
  appId: string,
  title: string,
  root: Element,
  app?: RunnableApp,
  above?: Element,
): Promise<FrontWindow> {
  const resources = (app && os.packages.get(app.appId)?.resources) ?? systemResources;
  return { appId, title, screen: await showScreen(root, resources, os.display(app), above) };
}

const labelOf = ({ label }: RunnableApp): string => label;

const withFocus = (element: Element, focused: string | undefined): Element => {
  if (!focused) return element;
  if (element.kind === 'box')
    return { ...element, children: element.children.map((child) => withFocus(child, focused)) };
  return element.edits === focused ? { ...element, focused: true } : element;
};
