import { type AreaWords, cut, isFilled, lastPart, quote, textsOf } from '../words.ts';

export const linksWords: AreaWords = {
  'link-landing': ({ addressed, fault, found, how, landed, url, wanted }) => {
    const state = HOW[String(how)]!;
    const said: Record<string, [what: string, measured: string, why: string, remedy: string]> = {
      crashed: [
        `A link ends the app ${state}`,
        String(found),
        'Who follows the link sees the app vanish.',
        'Read the arguments of the link with care: what a screen loads before may not be there yet.',
      ],
      'not-opened': [
        `A link does not reach the app ${state}`,
        `in front afterwards: ${landed || 'nothing'}`,
        'The package asks for it, and yet this device gave it to somebody else.',
        'Ask the device what it verified: pm get-app-links. Install anew after a change of the site, and see that no other app has it.',
      ],
      'other-screen': [
        `A link lands on another screen ${state}`,
        `in front afterwards: ${landed}`,
        'The user asked for one thing and sees another.',
        `Lead it to ${wanted} in the activity that the filter names, also when the app is started by it.`,
      ],
      'argument-lost': [
        `An argument of a link is lost ${state}`,
        String(found),
        'The right screen opens, and shows something else than the link is about.',
        'Read the arguments from the intent that the activity is given (also from onNewIntent), and wait for what they need to be loaded.',
      ],
    };
    const [what, measured, why, remedy] = said[String(fault)]!;
    return {
      what: `${what}: ${cut(String(url))}${addressed ? ' (addressed to the app)' : ''}`,
      measured,
      required: String(wanted),
      why,
      remedy,
    };
  },

  'malformed-link': ({ exception, fault, frame, message, url, variant }) => ({
    what: `A ${VARIANTS[String(variant)] ?? 'malformed'} link ${FAULTS[String(fault)]}: ${cut(String(url))}`,
    measured:
      fault === 'crash'
        ? `${exception}${message ? `: ${cut(String(message))}` : ''}${frame ? `, in ${frame}` : ''}`
        : fault === 'blank'
          ? 'no text on the screen'
          : 'no answer to a touch',
    required: 'a screen that says what is wrong, or the first one',
    why: 'Links grow old, are cut by mail programs and are made up by strangers: anybody can send this one.',
    remedy:
      'Check the argument before it is used, and open the first screen with a word to the user where it is no good.',
  }),

  'link-back': ({ chain, fault, from, how, url }) => {
    const said: Record<string, string> = {
      trap: 'Back never leads out of the app from where a link lands',
      twice: 'The screen that a link opens is there twice',
      'lost-place': 'A link takes the place of what the user was at',
    };
    return {
      what: said[String(fault)]!,
      measured: `${cut(String(url))} ${HOW[String(how)]}, then back: ${textsOf(chain).join(' > ')}`,
      required:
        fault === 'lost-place'
          ? `back to ${lastPart(String(from))}`
          : 'each screen once, then out of the app',
      why: 'Who followed a link wants to go back to where it stood.',
      remedy:
        fault === 'twice'
          ? 'Give the activity the launch mode singleTop, and take the new link in onNewIntent.'
          : 'Start the screen on top of what is there, without clearing the task.',
    };
  },

  'undeclared-route': ({ found, more, nearest, position, route, test, url, variant, wanted }) => {
    const others = textsOf(more);
    const asked = textsOf(wanted).slice(0, 6).join(', ') || 'nothing';
    return {
      what: `The app does not ask for ${cut(String(url))}${others.length > 0 ? ` and ${others.length} more of route ${route}` : ''}`,
      measured: `${TESTS[String(test)] ?? test}: ${quote(String(found))}, and ${lastPart(String(nearest))} asks for ${asked}`,
      required: `route ${route}${variant === 'plain' ? '' : `, ${VARIANTS[String(variant)]}`}`,
      why:
        Number(position) > 0
          ? `What comes closest is filter ${position} of ${nearest}; there the ${TESTS[String(test)] ?? test} differs. The link opens in the browser, or nothing does.`
          : `Nothing that the app is signed or declared for takes it (${nearest}).`,
      remedy: UNDECLARED[String(test)] ?? 'Declare it, or take the route out of fenlok.yaml.',
    };
  },

  'ambiguous-link': ({ components, routes, url }) => ({
    what: `Several of the app's own take ${cut(String(url))}`,
    measured: isFilled(components)
      ? textsOf(components).map(lastPart).join(', ')
      : `routes ${textsOf(routes).join(', ')}`,
    required: 'one activity and one route',
    why: isFilled(components)
      ? 'The user is asked to choose between two entries with the same name and icon.'
      : 'Two routes in fenlok.yaml promise the same URL, so that one of them never opens.',
    remedy: 'Narrow one of the filters, or let one activity take the link and lead on from there.',
  }),

  'mixed-link-data': ({ component, position, strays }) => {
    const urls = textsOf(strays);
    return {
      what: `A link filter takes ${urls.length === 1 ? 'a link' : `${urls.length} links`} that nobody wrote: ${urls[0]}`,
      measured: `filter ${position} of ${lastPart(String(component))}: also ${urls.slice(0, 4).join(', ')}${urls.length > 4 ? ` and ${urls.length - 4} more` : ''}`,
      required: 'only the pairs that its elements name',
      why: 'All <data> elements of a filter combine: every scheme with every host with every path.',
      remedy: 'Write a filter of its own for each pair.',
    };
  },

  'late-module': ({ activity, delivery, isLauncher, module }) => ({
    what: `${lastPart(String(activity))} may be opened before its code is on the device`,
    measured: `${isLauncher ? 'the launcher starts it' : 'it takes links'}, and its module ${module} is delivered ${DELIVERIES[String(delivery)]}`,
    required: 'code that is there from the beginning',
    why: 'Whoever opens it before the module was fetched sees the app end, unless code asks for the module first.',
    remedy:
      'Let the links open an activity of the base module that fetches the module and goes on, or deliver the module at install time.',
  }),

  'dead-shortcut': ({ appId, flaw, found, id }) => ({
    what: `The shortcut ${quote(String(id))} opens nothing`,
    measured:
      flaw === 'other-package'
        ? `it asks for the package ${found}, and this one is ${appId}`
        : flaw === 'disabled'
          ? `${found} is switched off in the manifest`
          : `the manifest has no activity ${found}`,
    required: 'an enabled activity of this package',
    why: 'The launcher says that the app is not installed.',
    remedy:
      flaw === 'other-package'
        ? 'Let the build write the id of each variant into android:targetPackage.'
        : 'Name an activity that the manifest has in android:targetClass, or take the shortcut away.',
  }),

  'needless-link-filter': ({ component, link, position }) => ({
    what: `No route needs the filter for ${link}`,
    measured: `filter ${position} of ${component}`,
    required: 'a route in fenlok.yaml for each filter, or no filter',
    why: 'Anybody may open that screen with any arguments, and nobody tries it before a release.',
    remedy: 'Remove the filter, or write its route under links.routes in fenlok.yaml.',
  }),

  'broad-link-filter': ({ breadth, component, example, position }) => {
    const kind = BREADTHS[String(breadth)]!;
    return {
      what: `The app takes links that are not its own: ${cut(String(example))}`,
      measured: `filter ${position} of ${component}: ${kind.measured}`,
      required: 'links of the routes, and no others',
      why: kind.why,
      remedy: kind.remedy,
    };
  },

  'unverified-domain': ({ found, host, wanted, why }) => {
    const kind = UNVERIFIED[String(why)]!;
    return {
      what: `${host} ${kind.what}`,
      measured: kind.measured(String(found)),
      required: String(wanted) || 'the site agrees, and the app asks it to',
      why: kind.why,
      remedy: kind.remedy,
    };
  },

  'closed-link-filter': ({ component, exported, lacks, link, meantForBrowsers, more, position }) => {
    const parts = (lacks as string[]).map((lack) => LACKS[lack]!);
    return {
      what: `A browser cannot open ${link}${Number(more) > 0 ? ` and ${more} more` : ''}`,
      measured: parts.map((part) => part.measured(String(exported))).join(', '),
      required: 'action VIEW, categories DEFAULT and BROWSABLE, on an enabled, exported component',
      why: `Filter ${position} of ${component} ${meantForBrowsers ? 'is meant for browsers' : 'may be meant for browsers'}, but ${parts.map((part) => part.why).join(', and ')}.`,
      remedy: parts.map((part) => part.remedy).join(' '),
    };
  },
};

const DELIVERIES: Record<string, string> = {
  'on-demand': 'when code asks for it',
  'fast-follow': 'some time after the installation',
  conditional: 'to some devices alone',
};

const LACKS: Record<string, { measured: (exported: string) => string; why: string; remedy: string }> = {
  browsable: {
    measured: () => 'no category BROWSABLE',
    why: 'without BROWSABLE browsers and mail apps are not allowed to use it',
    remedy: 'Add <category android:name="android.intent.category.BROWSABLE" /> to the filter.',
  },
  default: {
    measured: () => 'no category DEFAULT',
    why: 'without DEFAULT no implicit intent is matched to it',
    remedy: 'Add <category android:name="android.intent.category.DEFAULT" /> to the filter.',
  },
  exported: {
    measured: (exported) =>
      exported === 'unset' ? 'android:exported is not set' : 'android:exported="false"',
    why: 'other apps may not start a component that is not exported',
    remedy:
      'Set android:exported="true" on the component, and check what it does with arguments from outside.',
  },
  enabled: {
    measured: () => 'android:enabled="false"',
    why: 'the component is switched off',
    remedy: 'Enable the component, or remove the filter.',
  },
};

const HOW: Record<string, string> = {
  cold: 'when the app is not running',
  warm: 'when the app was left',
  front: 'when the app is in front',
};

const VARIANTS: Record<string, string> = {
  plain: 'as promised',
  http: 'with http',
  host: 'on another host of the app',
  slash: 'with the slash at its end changed',
  encoded: 'with an argument that is encoded',
  query: 'with a query behind it',
  fragment: 'with a fragment behind it',
  'argument-missing': 'incomplete',
  'argument-malformed': 'malformed',
  'bad-escape': 'wrongly escaped',
  'too-long': 'very long',
};

const FAULTS: Record<string, string> = {
  crash: 'ends the app',
  'not-responding': 'makes the app hang',
  blank: 'leads to an empty screen',
};

const TESTS: Record<string, string> = {
  action: 'action',
  scheme: 'scheme',
  host: 'host',
  port: 'port',
  path: 'path',
  query: 'query',
  fragment: 'fragment',
  type: 'type',
  domain: 'domain',
  app: 'app id',
  excluded: 'exclusion',
};

const UNDECLARED: Record<string, string> = {
  scheme: 'Add a <data> element with the scheme to the filter; https and http are two.',
  host: 'Add a <data> element with the host to the filter; the bare host and www are two.',
  port: 'Leave the port out of the filter, or out of the links.',
  path: 'Widen the path of the filter; a path in full takes no slash at its end, so declare both.',
  type: 'Take the MIME type out of the filter: a link brings none.',
  action: 'Declare android.intent.action.VIEW.',
  domain: 'Add applinks:HOST to the associated domains, in the entitlements and the profile.',
  app: "Name the app in the site's association file, with team id and bundle id.",
  excluded: "Put the rule that lets it in before the one that excludes it in the site's association file.",
  query: "Loosen the rule of the site's association file, or of the relative group.",
  fragment: "Loosen the rule of the site's association file, or of the relative group.",
};

const BREADTHS: Record<string, { measured: string; why: string; remedy: string }> = {
  'every-host': {
    measured: 'every host',
    why: 'Each web link on the device is offered to the app, and the user is asked about it or never sees it.',
    remedy: 'Name the hosts of the app with android:host.',
  },
  'alike-hosts': {
    measured: 'every host that ends alike',
    why: 'A star without a dot also takes hosts that only end with the same letters.',
    remedy: 'Write *.kelpline.example with the dot, and the bare host beside it.',
  },
  'other-host': {
    measured: 'a host that fenlok.yaml does not name',
    why: 'Either the host is no site of the app, or links.hosts does not know of it.',
    remedy: 'Take the host out of the filter, or add it to links.hosts in fenlok.yaml.',
  },
  'browser-url': {
    measured: 'a URL that must stay in the browser',
    why: 'The page exists only on the web, so that the app opens and has nothing to show.',
    remedy: 'Narrow the path of the filter.',
  },
  'alike-path': {
    measured: 'a prefix that ends in the middle of a name',
    why: 'It also takes longer names that begin alike; whether the site has any cannot be seen from here.',
    remedy:
      'Let the prefix end with a slash, and declare the path without it besides; or rule that the site has no such pages.',
  },
};

const UNVERIFIED: Record<
  string,
  { what: string; measured: (found: string) => string; why: string; remedy: string }
> = {
  'not-asked': {
    what: 'is in a link filter, and nobody asks the site whether the app may have its links',
    measured: () =>
      'no android:autoVerify="true" on a filter with VIEW, DEFAULT, BROWSABLE and web schemes alone',
    why: 'Since Android 12 an unverified web link opens in the browser, without a question.',
    remedy: 'Set android:autoVerify="true" on the filter, and keep private schemes in a filter of their own.',
  },
  unreadable: {
    what: 'serves something else than the association file',
    measured: (found) => found,
    why: 'The platform cannot read it, and every link of the site opens in the browser.',
    remedy: 'Serve the file itself at /.well-known/, as JSON, with status 200.',
  },
  redirected: {
    what: 'redirects the association file',
    measured: (found) => `redirected to ${found}`,
    why: 'The platforms do not follow redirects here, and every link of the site opens in the browser.',
    remedy:
      'Serve the file at this very host, without a redirect; the bare host and www each need their own.',
  },
  'developer-mode': {
    what: 'is asked for in developer mode, which this build does not have',
    measured: (found) => `signed for ${found}`,
    why: 'The mode works in builds that are signed for development only: in this one every link of the site opens in the browser.',
    remedy: 'Take ?mode=developer out of the associated domains of the release configuration.',
  },
  'content-type': {
    what: 'serves the association file under another type',
    measured: (found) => `content-type ${found}`,
    why: 'The platform reads it only as application/json.',
    remedy: 'Set the content type application/json for the file.',
  },
  'other-app': {
    what: 'does not name this app in its association file',
    measured: (found) => `it names ${found || 'none'}`,
    why: 'The site lets other apps have its links, and this one not.',
    remedy: 'Add the app to the file, with the id that the release bears.',
  },
  'other-certificate': {
    what: 'names another certificate than the one that the app bears',
    measured: (found) => `it names ${found}`,
    why: 'The platform compares the certificate of the installed app. Where a store signs anew it is the store’s, not the one of the upload.',
    remedy:
      'Put the fingerprint of the certificate of the release into the file, or name it under links.certificates in fenlok.yaml where a store signs.',
  },
  fingerprint: {
    what: 'gives a fingerprint that is none',
    measured: (found) => found,
    why: 'The platform compares it letter by letter, so that it agrees to nothing.',
    remedy: 'Write the SHA-256 of the certificate: 32 bytes in capital hex digits, with colons between them.',
  },
};
