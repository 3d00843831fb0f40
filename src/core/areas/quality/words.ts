import { type AreaWords, quote, round, textsOf } from '../words.ts';

export const qualityWords: AreaWords = {
  crash: ({ drill, exception, frame, message, step }) => {
    const when = drill === 'roam' ? 'on a walk of its own' : `in the drill ${drill}`;
    return {
      what: exception ? `The app crashes ${when}` : `The app does not answer ${when}`,
      measured: exception ? `${exception}: ${message}` : 'the system offered to close it',
      required: 'no exception that nobody catches, and an answer within 5 seconds',
      why: `${frame ? `Thrown in ${frame}. ` : ''}${step ? `The way there: ${step}. ` : ''}Whatever the user was doing is lost.`,
      remedy: 'The whole stack is in the trace of this run, among its log lines.',
    };
  },

  'slow-start': ({ count, medianMs, requiredMs, slowestMs }) => ({
    what: 'The first screen is late after a cold start',
    measured: `${medianMs} ms, the median of ${count} starts; the slowest ${slowestMs} ms`,
    required: `${requiredMs} ms`,
    why: 'Nothing on the screen for so long looks as if the app had not started.',
    remedy: 'Do less before the first frame, or show a screen that says that it loads.',
  }),

  'cleartext-traffic': ({ flaw, host, local, platform, saidBy }) =>
    flaw === 'user-certificates'
      ? {
          what: `Certificates that the user added are trusted ${host === '*' ? 'everywhere' : `for ${host}`}`,
          measured: '<certificates src="user" /> outside <debug-overrides>',
          required: 'the certificates of the system, in a release',
          why: 'Whoever gets a certificate onto the device can read and change what the app sends.',
          remedy: 'Move it into <debug-overrides>, which a release build ignores.',
        }
      : {
          what: `Traffic without TLS is allowed ${host === '*' ? 'to every host' : `to ${host}`}`,
          measured: saidBy === 'default' ? 'not said, and the target SDK is below 28' : `${saidBy} allows it`,
          required: 'https alone',
          why: local
            ? 'The address is one of development machines: in a release it is left over, or does no harm.'
            : 'Whoever is on the same network can read and change what the app sends and receives.',
          remedy:
            platform === 'ios'
              ? 'Take the exception out of NSAppTransportSecurity, and serve the host over https.'
              : 'Take the permission out of the network security configuration, and serve the host over https.',
        },

  'needless-export': ({ actions, component, componentType }) => ({
    what: `${lastName(component)} can be started by every app, for no reason that the package shows`,
    measured: `exported ${componentType}, no permission, ${textsOf(actions).length > 0 ? `only actions of its own: ${textsOf(actions).join(', ')}` : 'no intent filter'}`,
    required: 'not exported, or a permission, or an action that the system sends',
    why: 'Other apps can call it with arguments of their choice. Whether a partner does so on purpose cannot be seen from here.',
    remedy: 'Set android:exported="false", or guard it with a permission.',
  }),

  'usage-description': ({ flaw, importedClasses, key, lacking, text }) => {
    const classes = textsOf(importedClasses).join(', ');
    switch (flaw) {
      case 'missing':
        return {
          what: `${key} is missing`,
          measured: `the executable names ${classes}`,
          required: `a text under ${key} in Info.plist`,
          why: 'The system ends the app when it asks for this without a text. Naming a class does not prove that it is called, so a person must look.',
          remedy: `Say in ${key} what the data is for, or leave the class out of the build.`,
        };
      case 'untold-tracking':
        return {
          what: 'The privacy manifest says that the app tracks, and nothing asks the user',
          measured: `NSPrivacyTracking is true, and Info.plist has no ${key}`,
          required: `a text under ${key}`,
          why: 'Without the text the system cannot ask, so tracking stays forbidden; the store refuses apps that declare it and do not ask.',
          remedy: `Say in ${key} what the tracking is for, or set NSPrivacyTracking to false if the app does not track.`,
        };
      case 'empty':
        return {
          what: `${key} is empty`,
          measured: 'no text',
          required: 'a sentence that says what the data is for',
          why: 'The user is asked without being told why, and the store refuses it.',
          remedy: `Write the sentence under ${key}.`,
        };
      default:
        return {
          what: `${key} is not translated into ${textsOf(lacking).join(', ')}`,
          measured: `the user reads ${quote(String(text))}`,
          required: 'a text in every language that ships',
          why: 'The system shows it at the moment when the user decides; in a foreign language the answer is no.',
          remedy: `Add ${key} to InfoPlist.strings of these languages.`,
        };
    }
  },

  'required-reason': ({ category, does, flaw, given, known, part, symbols }) => ({
    what:
      flaw === 'unknown'
        ? `${part || 'The app'} gives a reason that Apple's list does not have`
        : `${part || 'The app'} ${does}, and no privacy manifest says why`,
    measured:
      flaw === 'unknown'
        ? `${textsOf(given).join(', ')} for NSPrivacyAccessedAPICategory${category}`
        : `its code calls ${textsOf(symbols).join(', ')}`,
    required: `NSPrivacyAccessedAPICategory${category} with one of ${textsOf(known).join(', ')}`,
    why: 'The store takes no upload whose code calls these without a reason.',
    remedy: part
      ? `Take a version of ${part} that brings its own privacy manifest, or ask its makers for one.`
      : 'Add the category and the reason that is true to PrivacyInfo.xcprivacy; where a library calls it, take a version that brings its own.',
  }),

  'native-library': ({ abi, alignBytes, file, flaw, wide }) =>
    flaw === 'no-64-bit'
      ? {
          what: `${lastName(String(file).replace(/\.so$/, ''))} is there for 32 bits only`,
          measured: `${abi} without ${wide}`,
          required: `the same library for ${wide}`,
          why: 'Devices without 32-bit code cannot install the app, and stores refuse it.',
          remedy: `Build it for ${wide} too.`,
        }
      : {
          what: `${String(file).replace(/^.*\//, '')} (${abi}) cannot be loaded on devices with pages of 16 KB`,
          measured: `${flaw === 'segments' ? 'segments' : 'its place in the package'} aligned to ${alignBytes} bytes`,
          required: 'aligned to 16384 bytes',
          why: 'The system maps whole pages of the file: what does not begin on one ends the app when it starts.',
          remedy:
            flaw === 'segments'
              ? 'Link with -Wl,-z,max-page-size=16384, or with a current native development kit.'
              : 'Align the package with pages of 16 KB, or let the library be compressed.',
        },

  'service-type': ({ component, lacking, serviceTypes, targetSdk }) => ({
    what: `${lastName(component)} cannot be started in the foreground`,
    measured: `type ${textsOf(serviceTypes).join(', ')}, without ${textsOf(lacking).join(', ')}`,
    required: `the permission of each type, for target SDK ${targetSdk}`,
    why: 'Android 14 and later end the app with a SecurityException when it starts the service.',
    remedy: `Add ${textsOf(lacking)
      .map((permission) => `<uses-permission android:name="${permission}" />`)
      .join(' and ')}, or take the type away if the service no longer needs it.`,
  }),

  'unused-resource': ({ bytes, count, names, type }) => {
    const shown = textsOf(names);
    return {
      what: `${count} ${type} ${Number(count) === 1 ? 'resource that nothing leads to' : 'resources that nothing leads to'}`,
      measured: `${shown.map(withoutType).join(', ')}${shown.length < Number(count) ? ` and ${Number(count) - shown.length} more` : ''}${Number(bytes) > 0 ? `, ${round(Number(bytes) / 1024)} KiB in the package` : ''}`,
      required: 'a way to it from code, manifest or another resource',
      why: 'Code may still look it up in a way that cannot be seen in the package, so this is an estimate.',
      remedy: 'Remove what is not needed, or let the build shrink resources.',
    };
  },
};

const withoutType = (name: unknown): string => String(name).replace(/^.*\//, '');
const lastName = (name: unknown): string => String(name).replace(/^.*[./]/, '');
