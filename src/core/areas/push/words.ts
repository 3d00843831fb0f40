import { type AreaWords, cut, isFilled, quote, textsOf } from '../words.ts';

export const pushWords: AreaWords = {
  'push-environment': ({ environment }) => ({
    what: 'The app is signed for the development push environment',
    measured: `aps-environment ${quote(String(environment))}`,
    required: '“production”',
    why: 'Its tokens are good for the development gateway only: the production gateway refuses them, and nobody gets a message.',
    remedy: 'Export the archive for distribution, with a profile whose aps-environment is production.',
  }),

  'push-setup': ({ lack }) => {
    const { measured, remedy, required, what, why } = SETUP[String(lack)]!;
    return { what, measured, required, why, remedy };
  },

  'push-permission': ({ answer, exception, fault, frame }) => {
    const said: Record<string, [what: string, measured: string, remedy: string]> = {
      'not-asked': [
        'The app does not ask whether it may send messages',
        'no question of the system after the steps of push.ask',
        'Ask with requestPermission where the user sees what for; or mend the steps of push.ask in fenlok.yaml.',
      ],
      crash: [
        `The app crashes when the permission is ${answer === 'refuse' ? 'refused' : 'given'}`,
        `${exception}${frame ? `, in ${frame}` : ''}`,
        'Handle both answers.',
      ],
      'not-taken': [
        'The answer to the question for the permission has no effect',
        `the device reads it otherwise after ${quote(String(answer))}`,
        'Declare android.permission.POST_NOTIFICATIONS, and ask for this very permission.',
      ],
      'shown-anyway': [
        'Messages are shown although the user refused them',
        'one in the shade after “refuse”',
        'Do not show messages by another way.',
      ],
    };
    const [what, measured, remedy] = said[String(fault)]!;
    return {
      what,
      measured,
      required: 'the question, and both answers stood',
      why: 'Who refuses must be able to go on, and who allows must get messages.',
      remedy,
    };
  },

  'push-token': ({ answers, fault, service }) => {
    const { measured, remedy, what, why } = TOKENS[String(fault)]!;
    return {
      what,
      measured: isFilled(answers) ? `${measured} (${textsOf(answers).join(', ')})` : measured,
      required:
        service === 'messages'
          ? "a token that the release's project can send to, renewed after an installation"
          : 'a token of hex digits that production takes, renewed after an installation',
      why,
      remedy,
    };
  },

  'push-shown': ({ exception, frame, message, state, told }) => ({
    what: `The message ${message} is not shown ${STATES[String(state)]}`,
    measured: exception
      ? `the app crashed: ${exception}${frame ? `, in ${frame}` : ''}`
      : `it was taken, and nothing is in the shade${told ? '; the app told its log that it got it' : ''}`,
    required: 'a message in the shade',
    why:
      state === 'front'
        ? 'While the app is in front the system hands the message to it and shows nothing by itself.'
        : 'The user never learns of it.',
    remedy:
      state === 'front'
        ? 'Show it in the code that gets messages, also while the app is in front (or say so to the user in the app).'
        : 'Look at the channel, at the priority of the message, and at what the code does that gets it.',
  }),

  'push-tap': ({ landed, message, state, wanted }) => ({
    what: `A tap on the message ${message} lands elsewhere, sent ${STATES[String(state)]}`,
    measured: `in front afterwards: ${landed || 'nothing of the app'}`,
    required: String(wanted),
    why: 'The user wanted to see what the message is about.',
    remedy:
      state === 'not-running'
        ? 'Read where it leads from the intent that starts the app, and wait for what the screen needs to be loaded.'
        : 'Start the screen itself from the message, with its arguments.',
  }),

  'push-action': ({ action, actions, fault, landed, message, wanted }) => ({
    what:
      fault === 'missing'
        ? `The message ${message} has no button ${quote(String(action))}`
        : `The button ${quote(String(action))} of the message ${message} ${fault === 'no-effect' ? 'does nothing' : 'leads elsewhere'}`,
    measured:
      fault === 'missing'
        ? `its buttons: ${textsOf(actions).join(', ') || 'none'}`
        : `in front afterwards: ${landed || 'nothing of the app'}`,
    required: String(wanted),
    why: 'Who touches a button believes that it is done.',
    remedy:
      fault === 'missing'
        ? 'Add the action to the message (on iOS: to its category), or take it out of fenlok.yaml.'
        : 'Give the action an intent of its own, and handle it also when the app is not running.',
  }),

  'push-silent': ({ exception, fault, message, state }) => ({
    what: `The silent message ${message} ${SILENT[String(fault)]} ${STATES[String(state)]}`,
    measured:
      fault === 'crash'
        ? String(exception)
        : fault === 'shown'
          ? 'a message in the shade'
          : 'no word of it in the log of the app',
    required: 'the app wakes, tells its log {"kind":"push.received"}, and shows nothing',
    why: 'What it should fetch is missing, or the user is disturbed for nothing.',
    remedy:
      'Send it with data alone (on iOS: content-available, priority 5, type background), and handle it without a screen.',
  }),

  'push-badge': ({ left, message }) => ({
    what: `The message ${message} stays after it was opened`,
    measured: `${left} of the app left in the shade`,
    required: 'none',
    why: 'The mark on the icon stays too, and the user looks for something that was read.',
    remedy: 'Cancel the message when it is opened (setAutoCancel), and the badge with it.',
  }),

  'payload-rules': ({ at, code, expected, found, level, name }) => ({
    what: `${name}: ${at || 'the message'} is ${level === 'error' ? 'refused' : 'read otherwise than it was meant'}`,
    measured: cut(String(found)),
    required: String(expected),
    why: `${RULES[String(code)] ?? 'The rules of the platform say otherwise.'}`,
    remedy: `Mend ${at || 'it'}; try it out with fenlok try payload ${name}.`,
  }),

  'payload-texts': ({ given, key, kind, linesNeeded, linesShown, name, needed, part }, { occurrences }) => {
    const locales = [...new Set(occurrences.map(({ data }) => String(data.locale)))].join(', ');
    const said: Record<
      string,
      [what: string, measured: string, required: string, why: string, remedy: string]
    > = {
      'no-key': [
        `${name}: the app has no text ${quote(String(key))}`,
        `none in ${locales}`,
        'the key in the catalogue of every language',
        'The key itself is shown, or nothing at all.',
        `Add the text, or mend the key of the ${part}.`,
      ],
      arguments: [
        `${name}: the ${part} gives ${given} arguments to ${quote(String(key))}`,
        `in ${locales} the text takes ${needed}`,
        'as many as the text takes',
        'Places in the text stay empty, or the message is not shown.',
        'Give as many arguments as the text has placeholders.',
      ],
      cut: [
        `${name}: the ${part} is cut until it is unfolded`,
        `about ${linesNeeded} lines in ${locales}`,
        `${linesShown} ${linesShown === 1 ? 'line' : 'lines'}`,
        'What matters may stand in the part that is not seen; how wide the letters of the device are is not known here.',
        'Put what matters first, or shorten the text; or rule that it may be cut.',
      ],
    };
    const [what, measured, required, why, remedy] = said[String(kind)]!;
    return { what, measured, required, why, remedy };
  },

  'payload-target': ({ kind, known, name, named, nearest }) => ({
    what: `${name} names a ${kind} that the app does not have: ${quote(String(named))}`,
    measured: `the app has ${textsOf(known).join(', ') || 'none'}`,
    required: `a ${kind} of push.${kind === 'channel' ? 'channels' : 'categories'} in fenlok.yaml`,
    why:
      kind === 'channel'
        ? 'The message goes to a channel of the library, with a name and a sound that nobody chose, or is dropped.'
        : 'The message comes without its buttons.',
    remedy: nearest
      ? `Did you mean ${quote(String(nearest))}?`
      : `Make the ${kind} in the app, or name another.`,
  }),
};

const STATES: Record<string, string> = {
  front: 'while the app is in front',
  background: 'while the app is in background',
  'not-running': 'while the app is not running',
};

const SILENT: Record<string, string> = {
  crash: 'ends the app',
  shown: 'is shown',
  'not-woken': 'does not wake the app',
};

const SETUP: Record<
  string,
  { what: string; measured: string; required: string; why: string; remedy: string }
> = {
  permission: {
    what: 'The permission for messages is not declared',
    measured: 'no android.permission.POST_NOTIFICATIONS, and target SDK 33 or higher',
    required: 'the permission in the manifest',
    why: 'Without it the question is never shown, and since Android 13 no message either.',
    remedy: 'Declare android.permission.POST_NOTIFICATIONS.',
  },
  service: {
    what: 'No service takes messages',
    measured: 'no service with a filter for messages',
    required: 'a service for the messaging event',
    why: 'Messages that reach the app while it is in front, and those with data alone, are handed to nobody.',
    remedy: 'Declare the service that your code extends, not exported.',
  },
  icon: {
    what: 'No small icon for messages is named',
    measured: 'no meta-data …default_notification_icon',
    required: 'a white icon on transparent ground',
    why: 'The launcher icon is used in its place, and comes out as a grey square; whether the code names an icon for each message cannot be seen here.',
    remedy: 'Name one in a meta-data element of the application; or rule that the code does.',
  },
  entitlement: {
    what: 'The app is not signed for push messages',
    measured: 'no entitlement aps-environment',
    required: 'aps-environment production',
    why: 'Registering for messages fails, and there is never a token.',
    remedy: 'Add the capability, make the profile anew, and sign with it.',
  },
  'background-mode': {
    what: 'Silent messages cannot wake the app',
    measured: 'no remote-notification in UIBackgroundModes',
    required: 'the background mode remote-notification',
    why: 'The system keeps back messages with content-available from apps that do not declare it.',
    remedy: 'Add the background mode for remote notifications.',
  },
};

const TOKENS: Record<string, { what: string; measured: string; why: string; remedy: string }> = {
  none: {
    what: 'The app tells of no token',
    measured: 'no line {"kind":"push.registered","token":"…"} in its log after the permission was given',
    why: 'Without a token nothing can be sent to it; or it keeps it to itself, and nobody can try.',
    remedy:
      'Register after the permission was given, and print the token under the tag Fenlok in builds that are tested.',
  },
  form: {
    what: 'The token is not in the form that servers take',
    measured: 'refused as no token',
    why: 'A description of the token, or a part of it, reaches no device.',
    remedy: 'On iOS turn the bytes into two hex digits each; on Android hand the token on as it is.',
  },
  environment: {
    what: 'The token is one of the development gateway',
    measured: 'the production gateway refuses it, the development gateway takes it',
    why: 'Servers send to production, and nobody gets a message.',
    remedy:
      'Register the release with production: sign it for distribution, or choose the environment by the build.',
  },
  sender: {
    what: 'The token is one of another project',
    measured: 'the project of the release may not send to it',
    why: 'The app was built with the configuration of another project, so that no message of the release arrives.',
    remedy: 'Build the release with the configuration file of the project that sends (google-services.json).',
  },
  refused: {
    what: 'Nobody can send to the token',
    measured: 'refused',
    why: 'Nobody gets a message.',
    remedy: 'Look whether the key or account that sends belongs to this app.',
  },
  'none-again': {
    what: 'After it was installed anew the app tells of no token',
    measured: 'none',
    why: 'The server goes on with a token that is no longer good.',
    remedy: 'Register at each start, and send the token to the server when it changes.',
  },
  'not-renewed': {
    what: 'After it was installed anew the app tells of its old token',
    measured: 'the same token',
    why: 'It was kept where an installation does not reach (a backup, the key chain), and is refused.',
    remedy: 'Ask the system for the token at each start, and keep none.',
  },
  'old-accepted': {
    what: 'The token of an app that was removed is still taken',
    measured: 'status 200',
    why: 'Messages go to nobody, and the list of tokens grows.',
    remedy: 'Delete a token when the answer is 410 (iOS) or 404 UNREGISTERED (Android).',
  },
};

const RULES: Record<string, string> = {
  'too-large': 'The gateway refuses what is larger, whatever is in it.',
  'wrong-type': 'A field of another type is refused, or left out without a word.',
  'unknown-key': 'A key that nobody knows is left out without a word.',
  'args-without-key': 'Arguments without a key are shown nowhere.',
  'reserved-key': 'The name is kept for the service itself.',
  'nothing-to-do': 'Neither is anything shown nor the app woken.',
  target: 'The service must know whom it is for.',
};
