/** What fingers and keys do to the phone. */

import { isRightToLeft } from '../../../core/model/locale.ts';
import { contains, hitAt, indexOf, isScroller, pathTo } from '../screen/hit.ts';
import { frontWindow } from './front-window.ts';
import { type FocusMove, focusablesOf, nextFocus } from './key-focus.ts';
import type { RunningPhone } from './running-phone.ts';

export type Key =
  | 'home'
  | 'back'
  | 'recents'
  | 'power'
  | 'sleep'
  | 'wakeup'
  | 'menu'
  | 'delete'
  | 'notification';

export class PhoneInput {
  readonly #os: RunningPhone;

  constructor(os: RunningPhone) {
    this.#os = os;
  }

  async tap(x: number, y: number): Promise<void> {
    const window = this.#os.isScreenOn ? await frontWindow(this.#os) : undefined;
    if (!window) return;
    const { placed } = window.screen;
    const hit = hitAt(placed, x, y);
    if (this.#os.isLocked || this.#os.cover)
      return this.#tapSystem(hit?.element.id, hit ? indexOf(placed, hit) : 0);
    const task = this.#os.activities.front;
    const record = this.#os.activities.shown;
    if (!record?.state) return;
    const model = task.app.model.screens[record.screen]!;
    if (model.dialog && record.state[model.dialog.value] !== undefined && !contains(placed.boundsPx, x, y))
      record.state = { ...record.state, [model.dialog.value]: undefined };
    if (!hit || hit.element.enabled === false) return;
    const { edits, id } = hit.element;
    if (edits) record.focused = edits;
    // fingers end what a keyboard has brought into focus
    record.keyFocus = undefined;
    const handler = id && model.taps?.[id];
    if (handler)
      this.#os.activities.run(task, record, 'onClick', (host) => handler(host, indexOf(placed, hit)));
  }

  #tapSystem(id: string | undefined, index: number): void {
    if (this.#os.isLocked) return;
    const cover = this.#os.cover;
    if (cover === 'recents' && id === 'recent_app') {
      const app = this.#os.recentApps()[index];
      const task = this.#os.activities.tasks.find((one) => one.app === app);
      this.#os.cover = undefined;
      if (task) void this.#os.activities.switchTo(task);
    } else if (cover === 'shade' && id === 'notification') this.#os.messages.tap(index);
    else if (cover === 'shade' && id === 'action0') this.#os.messages.tapAction(index);
    else if (typeof cover === 'object' && 'asks' in cover) {
      if (id === 'permission_allow_button') this.#os.messages.answer(cover.app, cover.asks, true);
      else if (id === 'permission_deny_button') this.#os.messages.answer(cover.app, cover.asks, false);
    } else if (typeof cover === 'object' && 'ad' in cover) {
      if (id === 'ad_close') this.#os.ads.closed(cover.app, cover.ad);
    } else if (typeof cover === 'object' && 'rating' in cover) {
      if (id === 'rating_submit' || id === 'rating_later') this.#os.ratings.closed(cover.app);
    } else if (typeof cover === 'object' && 'sheet' in cover) {
      const isAnswer = id === 'store_buy_button' || id === 'store_cancel_button';
      if (isAnswer) void this.#os.store.answer(cover.app, cover.sheet, id === 'store_buy_button');
    } else if (typeof cover === 'object' && 'trouble' in cover && id === 'aerr_close') {
      this.#os.cover = undefined;
      this.#os.activities.forceStop(cover.app.appId);
    }
  }

  /** Scrolls what lies under the finger; on the lock screen, upwards, it unlocks. */
  async swipe(fromX: number, fromY: number, _toX: number, toY: number): Promise<void> {
    if (!this.#os.isScreenOn) return;
    if (this.#os.isLocked) {
      if (toY < fromY) this.#os.unlock();
      return;
    }
    const window = await frontWindow(this.#os);
    const record = this.#os.activities.shown;
    const scroller =
      window && !this.#os.cover && pathTo(window.screen.placed, fromX, fromY).findLast(isScroller);
    if (!scroller || !record?.state) return;
    const { scrolledDp = 0, scrolls } = scroller.element;
    const { densityDpi } = this.#os.display(this.#os.activities.front.app).shape;
    const wanted = scrolledDp + (fromY - toY) / (densityDpi / 160);
    const scrolled = Math.round(Math.min(scroller.scrollRangeDp ?? 0, Math.max(0, wanted)));
    record.state = { ...record.state, [scrolls!]: scrolled };
    this.#os.activities.movesUntil = Date.now() + this.#os.shape.animationMs;
  }

  /** Tab, or an arrow of a hardware keyboard. */
  async moveFocus(move: FocusMove): Promise<void> {
    const record = this.#isOpen() ? this.#os.activities.shown : undefined;
    const window = record?.state && (await frontWindow(this.#os));
    if (!record?.state || !window) return;
    const { app } = this.#os.activities.front;
    const { densityDpi } = this.#os.display(app).shape;
    const all = focusablesOf(window.screen.placed, isRightToLeft(this.#os.display(app).locale));
    const next = nextFocus(all, record.keyFocus, move);
    if (!next) return;
    record.keyFocus = next.path;
    record.focused = next.placed.element.edits;
    const { scroller } = next;
    if (!scroller) return;
    const [inner, outer] = [next.placed.boundsPx, scroller.boundsPx];
    const above = Math.min(0, inner.y - outer.y);
    const below = Math.max(0, inner.y + inner.height - outer.y - outer.height);
    const { scrolledDp = 0, scrolls } = scroller.element;
    const wanted = scrolledDp + (above || below) / (densityDpi / 160);
    const scrolled = Math.round(Math.min(scroller.scrollRangeDp ?? 0, Math.max(0, wanted)));
    record.state = { ...record.state, [scrolls!]: scrolled };
  }

  /** Enter, or the middle of the arrows: as a tap on what is in focus. */
  async enter(): Promise<void> {
    const record = this.#isOpen() ? this.#os.activities.shown : undefined;
    const window = record?.keyFocus === undefined ? undefined : await frontWindow(this.#os);
    if (!record || !window) return;
    const { keyFocus } = record;
    const inFocus = focusablesOf(window.screen.placed, false).find(({ path }) => path === keyFocus);
    if (!inFocus) return;
    const { height, width, x, y } = inFocus.placed.boundsPx;
    await this.tap(x + width / 2, y + height / 2);
    record.keyFocus = keyFocus;
  }

  /** The app has the keys. */
  #isOpen(): boolean {
    return this.#os.isScreenOn && !this.#os.isLocked && !this.#os.cover;
  }

  type(text: string): void {
    const record = this.#os.cover || this.#os.isLocked ? undefined : this.#os.activities.shown;
    if (!record?.state || !record.focused) return;
    const before = String(record.state[record.focused] ?? '');
    record.state = { ...record.state, [record.focused]: before + text };
  }

  #erase(): void {
    const record = this.#os.activities.shown;
    if (!record?.state || !record.focused) return;
    const before = String(record.state[record.focused] ?? '');
    record.state = { ...record.state, [record.focused]: before.slice(0, -1) };
  }

  key(name: Key): void {
    const always: Partial<Record<Key, () => void>> = {
      power: () => (this.#os.isScreenOn ? this.#os.sleep() : this.#os.wake()),
      sleep: () => this.#os.sleep(),
      wakeup: () => this.#os.wake(),
    };
    const unlocked: Partial<Record<Key, () => void>> = {
      home: () => this.#os.home(),
      back: () => this.#os.back(),
      recents: () => this.#os.recents(),
      delete: () => this.#erase(),
      notification: () => this.#os.expandShade(),
    };
    if (always[name]) always[name]();
    else if (this.#os.isScreenOn && this.#os.isLocked && name === 'menu') this.#os.unlock();
    else if (this.#os.isScreenOn && !this.#os.isLocked) unlocked[name]?.();
  }
}
