/** Kelpline's ads: two placements, each with networks that are asked one after another. */
import type { AdRequest } from '../../../ads/bid-forms.ts';
import type { AdHost, AppAds, ScreenHost } from '../../app-model.ts';

const WATERFALLS: Readonly<Record<string, readonly AdRequest[]>> = {
  'timetable-banner': [
    { network: 'brightbuoy', unit: 'bb-unit-0001', format: 'banner', test: true },
    // planted: the name of the placement in the place of its unit
    { network: 'northmast', unit: 'timetable-banner', format: 'banner', test: true },
  ],
  'ticket-interstitial': [
    // planted: asked for live ads, by the release as by every other build
    { network: 'northmast', unit: 'nm-unit-0002', format: 'interstitial', test: false },
    { network: 'ropewalk', unit: 'rw-unit-0002', format: 'interstitial', test: true },
  ],
};
const NETWORKS = ['brightbuoy', 'northmast', 'ropewalk'];
/** Without its connector in the build nobody can ask it. */
const CONNECTED = ['brightbuoy', 'northmast'];

/** Once in a process: what the user has agreed to, then the networks. */
export function startAds(host: Pick<ScreenHost, 'ads' | 'log'>): void {
  if (!host.ads.isThere) return;
  say(host, { kind: 'consent.given' });
  for (const network of NETWORKS) say(host, { kind: 'ad.initialised', network });
}

export function loadAd(host: AdHost, placement: string, place = 0): void {
  const request = WATERFALLS[placement]![place];
  if (!host.ads.isThere || !request) return;
  // planted: only the banner asks whether ads were bought away
  if (placement === 'timetable-banner' && host.storage.has('has no-ads')) return;
  const { network, test } = request;
  say(host, { kind: 'ad.requested', placement, network, test });
  if (CONNECTED.includes(network)) host.ads.load(placement, request);
  else {
    host.log('Kelpline', `no connector for ${network}`);
    say(host, { kind: 'ad.failed', placement, network, reason: 'no connector' });
  }
}

/** Whether one was there to be shown. */
export function showAd(host: AdHost, placement: string): boolean {
  const loaded = host.memory.get(placement) as { network: string; words: string } | undefined;
  if (!loaded) return false;
  host.memory.delete(placement);
  host.ads.show(placement, loaded.network, loaded.words);
  say(host, { kind: 'ad.showed', placement, network: loaded.network });
  return true;
}

export const ads: AppAds = {
  answered: (host, placement, request, answer) => {
    const { network } = request;
    if (answer.outcome === 'loaded') {
      say(host, { kind: 'ad.loaded', placement, network });
      host.memory.set(placement, { network, words: answer.words });
      return;
    }
    const reason = answer.outcome === 'no-fill' ? 'no-fill' : answer.reason;
    say(host, { kind: 'ad.failed', placement, network, reason });
    loadAd(host, placement, WATERFALLS[placement]!.indexOf(request) + 1);
  },
  closed: (host, placement) => say(host, { kind: 'ad.closed', placement }),
};

const say = (host: Pick<AdHost, 'log'>, line: object): void => host.log('Fenlok', JSON.stringify(line));
