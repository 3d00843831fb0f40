/**
 * What phones in the field do, and a tidy stand-in does not: the phone imitates each on request. Each row says what is seen, and on
 * which phones.
 */
export const QUIRKS = {
  'two-displays': {
    does: 'screencap prints a warning before the picture',
    seenOn: 'foldables, and phones with a second display, since Android 10 (AOSP, screencap.cpp)',
  },
  'cut-dump': {
    does: 'every second dump of the screen is cut off',
    seenOn: 'large trees over a slow line, all levels',
  },
  'busy-dump': {
    does: 'two of three dumps find no idle moment',
    seenOn: 'screens with a clock, a carousel or a video, all levels',
  },
  'never-idle': {
    does: 'no dump ever finds an idle moment',
    seenOn: 'games, and screens with endless animation, all levels',
  },
  'task-brought': {
    does: 'starting an app that runs says that its task was brought to the front, and no times',
    seenOn: 'all levels, where the launcher activity is not the one in front',
  },
  'input-refused': {
    does: 'touches and keys of the bridge are refused, until a switch of the maker is on',
    seenOn: 'phones of some makers, until “USB debugging (Security settings)” is on',
  },
  'kills-at-once': {
    does: 'a battery saver ends the process of an app as soon as it is left',
    seenOn: 'phones of some makers, on low battery or by default',
  },
} as const satisfies Record<string, { does: string; seenOn: string }>;

export type Quirk = keyof typeof QUIRKS;
export const isQuirk = (name: string): name is Quirk => Object.hasOwn(QUIRKS, name);
