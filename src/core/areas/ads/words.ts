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

  'ad-seller': ({ expected, fault, found, host, line, network, seller }) =>
    fault === 'line'
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
