import { type AreaWords, quote, textsOf } from '../words.ts';

export const adsWords: AreaWords = {
  'ad-wiring': ({ found, name, network, part, placements, platform, wanted }) => {
    const { remedy, what } = PARTS[String(part)]!;
    const place = platform === 'ios' ? 'the app’s binary and Info.plist' : 'the package’s code and manifest';
    return {
      what: `${network}: ${what}`,
      measured: found === '' ? `no ${name} in ${place}` : `${name} is ${quote(String(found))}`,
      required: String(wanted),
      why: `Without it no ad of ${network} can be loaded: ${textsOf(placements).join(', ')} ${textsOf(placements).length === 1 ? 'goes' : 'go'} on to the next network, and nobody is told.`,
      remedy,
    };
  },

  'ad-parameter': ({ found, name, network, placement, wanted }) => ({
    what: `${placement}: ${network} is given ${found === '' ? 'no' : 'a wrong'} ${name}`,
    measured: found === '' ? `no ${name} in its waterfall` : quote(String(found)),
    required: String(wanted),
    why: 'The network refuses the request, and its error looks like one of the connection.',
    remedy: `Copy ${name} from the dashboard of ${network} for this platform, and into fenlok.yaml.`,
  }),

  'test-placement': ({ found, network, placement }) => ({
    what: `${placement}: ${network} is asked for test ads in the release`,
    measured: quote(String(found)),
    required: 'the placement that earns money',
    why: 'Everybody sees ads that say that they are tests, and none of them pays.',
    remedy: 'Put in the id of the real placement.',
  }),

  'ad-load': ({ log, network, outcome, placement, reason }) => ({
    what:
      outcome === 'failed'
        ? `${placement}: ${network} does not load`
        : outcome === 'no-fill'
          ? `${placement}: ${network} had nothing to show`
          : `${placement}: ${network} never answered`,
    measured: textsOf(log).length > 0 ? textsOf(log).join('; ') : String(reason || outcome),
    required: 'one ad loaded',
    why:
      outcome === 'failed'
        ? 'Whoever is asked after it gets the request, and nobody is told.'
        : 'It says nothing of the wiring: networks answer so when nobody bids for this device, now.',
    remedy:
      outcome === 'failed'
        ? 'Read the line of its log, and look first at app id, placement and connector.'
        : 'Try again later, or with the network’s own test placement.',
  }),

  'ad-order': ({ at, consent, fault, network, placement }) =>
    fault === 'consent'
      ? {
          what: `${network} is asked for an ad before its user has agreed`,
          measured: `${consent === 'asked' ? 'the question was still open' : 'nobody was asked'} at ${at} (${placement})`,
          required: 'consent given or refused before the first request',
          why: 'The request itself carries data of the user, and no later answer takes it back.',
          remedy: 'Wait for the answer before any network is asked.',
        }
      : {
          what: `${network} is asked for an ad before it is initialised`,
          measured: `requested at ${at} (${placement}), and not initialised before`,
          required: 'initialised first',
          why: 'The first ad of each start is lost, and with some networks every one.',
          remedy: 'Load when the network has said that it is ready.',
        },

  'live-ad-request': ({ at, fault, network, placement }) => ({
    what:
      fault === 'live'
        ? `${network} is asked for a live ad on a development device`
        : fault === 'unregistered'
          ? `The development device is not registered with ${network}`
          : `The app does not say whether it asks ${network} for test ads`,
    measured: `${placement} at ${at}`,
    required: 'test mode on, and the device registered by its advertising id, before the first request',
    why: 'Networks take views and touches of developers for fraud, and suspend the account.',
    remedy:
      fault === 'unregistered'
        ? 'Add the advertising id of this device to the test devices of the network.'
        : fault === 'live'
          ? 'Turn on test mode in every build that developers run.'
          : 'Let the app print "test": true with the request.',
  }),

  'ad-after-removal': ({ at, network, placement, removedBy }) => ({
    what: `${placement} is shown although ${removedBy} is bought`,
    measured: `${network ? `an ad of ${network}` : 'an ad'} at ${at}`,
    required: `none while ${removedBy} is had`,
    why: 'It is the one thing that its buyer paid for.',
    remedy: 'Ask what is had before an ad is loaded, and again before it is shown.',
  }),

  'ad-return': ({ after, before, lost, placement }) => ({
    what:
      before === after
        ? `Closing ${placement} loses what stood on the screen`
        : `Closing ${placement} leads elsewhere`,
    measured: before === after ? textsOf(lost).join(', ') : String(after),
    required: `${before}, as it was`,
    why: 'An ad comes in the middle of what people do.',
    remedy: 'Save the state of the screen as for any other interruption, and finish nothing below the ad.',
  }),

  'ad-seller': ({ expected, fault, found, host, line, network, seller, wanted }) =>
    fault === 'account'
      ? {
          what: `app-ads.txt names another account with ${network} than yours`,
          measured: `${found} for ${seller} at ${host}`,
          required: String(wanted),
          why: 'Buyers compare the account: they do not bid for what a seller offers under another one.',
          remedy: 'Add the line with your own account, as the dashboard of the network shows it.',
        }
      : fault === 'line'
        ? {
            what: `A line of app-ads.txt cannot be read (${line})`,
            measured: String(found),
            required: String(expected),
            why: 'Buyers skip it, and whoever stands there counts as nobody.',
            remedy: 'Write: domain of the network, your account with it, DIRECT or RESELLER.',
          }
        : {
            what: `${network} does not stand in app-ads.txt`,
            measured: `no line for ${seller} at ${host}`,
            required: `${seller}, the account with it, DIRECT or RESELLER`,
            why: 'Buyers who look there do not bid for what a seller offers who is not listed.',
            remedy:
              'Add the line that the dashboard of the network shows, and serve the file at the root of the site.',
          },
};

const PARTS: Readonly<Record<string, { what: string; remedy: string }>> = {
  library: {
    what: 'its library is not in the build',
    remedy: 'Add the library to the release variant, and keep it from being shrunk away.',
  },
  connector: {
    what: 'the connector through which it is asked is not in the build',
    remedy: 'Add the connector (adapter) for this network, of a version that fits its library.',
  },
  declarations: {
    what: 'what it must find declared is not there',
    remedy: 'Declare it as the guide of the network says, also in the release variant.',
  },
};
