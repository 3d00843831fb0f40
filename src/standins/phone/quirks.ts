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
  'other-display': {
    does: 'screencap takes the display that is off, unless it is told which one',
    seenOn: 'foldables: folded and unfolded displays have ids of their own (AOSP, screencap.cpp)',
  },
  'slow-dump': {
    does: 'a dump of the screen takes five seconds',
    seenOn: 'slow phones, and screens of thousands of nodes, all levels',
  },
  'other-window': {
    does: 'every third dump is of a keyboard that lies above the app',
    seenOn: 'while a keyboard, a heads-up message or the shade comes or goes, all levels',
  },
  'old-shell': {
    does: 'no exit codes, and lines of the shell end in CR LF',
    seenOn: 'before Android 7 (adb: the second shell protocol)',
  },
  'old-ps': {
    does: 'ps knows no options, and lists everything',
    seenOn: 'Android 7 and before (toolbox)',
  },
  'own-size': {
    does: 'size and density of the display are overridden',
    seenOn: 'phones on which somebody chose a lower resolution, all levels',
  },
  'own-recents': {
    does: 'the key for recent apps, pressed twice, opens and closes them',
    seenOn: "launchers of makers' own",
  },
  'slow-animations': {
    does: 'each change of the screen moves for two and a half seconds',
    seenOn: 'where the developer options slow them down, all levels',
  },
  'locks-itself': {
    does: 'every third dump comes after the screen has gone off, unless it is kept on',
    seenOn: 'a short screen timeout, all levels',
  },
  'other-clock': {
    does: 'its clock is nine hours behind',
    seenOn: 'phones without a network, all levels',
  },
  'short-log': {
    does: 'the log keeps forty lines',
    seenOn: 'busy phones with small log buffers, all levels',
  },
  'slow-commands': {
    does: 'every thirtieth command takes three seconds',
    seenOn: 'phones that throttle, or are busy with updates, all levels',
  },
  'kills-at-once': {
    does: 'a battery saver ends the process of an app as soon as it is left',
    seenOn: 'phones of some makers, on low battery or by default',
  },
} as const satisfies Record<string, { does: string; seenOn: string }>;

export type Quirk = keyof typeof QUIRKS;
export const isQuirk = (name: string): name is Quirk => Object.hasOwn(QUIRKS, name);
