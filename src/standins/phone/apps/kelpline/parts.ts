/** What Kelpline's screens share: scrollers, cards, buttons, switches. */
import {
  type AppContext,
  type BoxElement,
  box,
  column,
  type Element,
  picture,
  row,
  type ScreenHost,
  type ScreenState,
  text,
} from '../../app-model.ts';

export const flip =
  (value: string) =>
  (host: ScreenHost): void =>
    host.set({ [value]: !host.state[value] });

/** What scrolls between the bars: a list of rows, or one page. */
export const scrolling = (
  kind: 'list' | 'page',
  gap: number,
  { scroll = 0 }: ScreenState,
  ...children: (Element | undefined)[]
): BoxElement =>
  column(
    {
      id: 'content',
      scrolls: 'scroll',
      scrolledDp: Number(scroll),
      className: kind === 'list' ? 'androidx.recyclerview.widget.RecyclerView' : 'android.widget.ScrollView',
      scrollable: true,
      grow: 1,
      padding: [0, 16],
      gap,
    },
    ...children,
  );

/** An icon that can be tapped; without a description where its author gave none. */
export const iconButton = (
  id: string,
  icon: string,
  contentDescription: string | undefined,
  sizeDp: number,
  options: { tint?: string; background?: string } = {},
): Element =>
  box(
    {
      id,
      className: 'android.widget.ImageButton',
      contentDescription,
      clickable: true,
      traits: ['button'],
      width: sizeDp,
      height: sizeDp,
      align: 'center',
      justify: 'center',
      radius: sizeDp / 2,
      background: options.background,
    },
    picture(icon, {
      width: Math.min(24, sizeDp - 8),
      height: Math.min(24, sizeDp - 8),
      tint: options.tint ?? 'ink',
    }),
  );

export const card = (
  options: Parameters<typeof box>[0],
  ...children: (Element | false | undefined)[]
): BoxElement => box({ background: 'card', radius: 16, padding: 16, gap: 10, ...options }, ...children);

export const button = (
  id: string,
  label: string,
  kind: 'filled' | 'soft' | 'plain' = 'filled',
  contentDescription?: string,
): Element =>
  box(
    {
      id,
      className: 'android.widget.Button',
      contentDescription,
      clickable: true,
      traits: ['button'],
      minHeight: 52,
      radius: 26,
      align: 'center',
      justify: 'center',
      padding: [0, 20],
      background: { filled: 'primary', soft: 'primary_soft', plain: undefined }[kind],
    },
    text(label, {
      sizeSp: 16,
      weight: 600,
      colour: { filled: 'on_primary', soft: 'on_primary_soft', plain: 'primary' }[kind],
      align: 'center',
    }),
  );

/** What stands in a dialog, or on a sheet of iOS: title, words, and one button that ends it. */
export function dialogBox(
  { platform }: AppContext,
  id: string,
  title: string,
  words: readonly string[],
  done: string,
): Element {
  const isSheet = platform === 'ios';
  return column(
    { id, background: 'card', radius: isSheet ? 32 : 24, padding: 24, gap: 14 },
    isSheet && column({ align: 'center' }, box({ width: 36, height: 5, radius: 2.5, background: 'outline' })),
    text(title, { id: `${id}_title`, sizeSp: 20, weight: 600, heading: true }),
    ...words.map((line, i) => text(line, { id: `${id}_line${i + 1}`, sizeSp: 15, colour: 'ink_soft' })),
    button(`${id}_done`, done, isSheet ? 'soft' : 'plain'),
  );
}

/** @param tellsState whether it says that it is on or off */
export const toggleRow = (
  app: AppContext,
  label: string,
  id: string,
  on: boolean,
  tellsState = true,
): Element =>
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
    SWITCHES[app.platform](on),
  );

const SWITCHES: Readonly<Record<AppContext['platform'], (on: boolean) => Element>> = {
  android: (on) =>
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
  ios: (on) =>
    box(
      {
        width: 51,
        height: 31,
        radius: 15.5,
        background: on ? 'primary' : 'ink_soft',
        align: on ? 'end' : 'start',
        justify: 'center',
        padding: 2,
      },
      box({ width: 27, height: 27, radius: 13.5, background: 'card' }),
    ),
};

export const divider = (): Element => box({ height: 1, background: 'outline' });

/** An amount of money as the platform writes it in the app's language. */
export const euros = (app: AppContext, amount: number): string =>
  new Intl.NumberFormat(app.locale, { style: 'currency', currency: 'EUR' }).format(amount);

/** A date as the platform writes it, short. */
export const shortDate = (app: AppContext, isoDate: string): string =>
  new Intl.DateTimeFormat(app.locale, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(isoDate),
  );
