import type { FactKind } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import { isSameLanguage } from '../../model/locale.ts';
import type { FactIndex } from '../check.ts';

/** What both checks of the intent file against the evidence read. */
export const kindsOfEvidence = [
  'manifest',
  'capture',
  'link-run',
  'ad-load',
  'ad-show',
  'push-run',
] as const satisfies readonly FactKind[];

type Sort = 'screen' | 'language' | 'route' | 'ad placement' | 'channel';

/** One sort of thing, as `fenlok.yaml` names it and as the evidence shows it. */
interface DeclaredAndSeen {
  sort: Sort;
  /** Where it stands in the intent file. */
  field: string;
  declared: readonly string[];
  /** By its name, the evidence that shows it; none where nothing of this sort was looked at. */
  seen: ReadonlyMap<string, string>;
  /** What brings evidence of this sort. */
  source: string;
}

/** What `fenlok.yaml` declares beside what captures and drills show. Of products `product-ids` tells. */
export function declaredAndSeen(
  facts: FactIndex<(typeof kindsOfEvidence)[number]>,
  { ads, links, locales, push, screens, sourceLocale }: Omit<Intent, 'limits'>,
): DeclaredAndSeen[] {
  const captures = facts.of('capture');
  const linkRuns = facts.of('link-run');
  const shownAds = [...facts.of('ad-load'), ...facts.of('ad-show')];
  // where no language is named nobody has said which ship
  const languages = locales.length > 0 ? [...new Set([sourceLocale, ...locales])] : [];
  const asDeclared = (locale: string) =>
    languages.find((one) => one === locale) ?? languages.find((one) => isSameLanguage(one, locale)) ?? locale;
  const sort = (
    of: Omit<DeclaredAndSeen, 'seen'> & { seen: readonly (readonly [string, string])[] },
  ): DeclaredAndSeen => ({ ...of, seen: new Map(of.seen) });
  return [
    sort({
      sort: 'screen',
      field: 'screens',
      declared: screens.map(({ id }) => id),
      seen: captures.map(({ cell, evidence }) => [cell.screen, evidence]),
      source: 'fenlok drill capture-sweep',
    }),
    sort({
      sort: 'language',
      field: 'locales',
      declared: languages,
      seen: captures.map(({ cell, evidence }) => [asDeclared(cell.locale), evidence]),
      source: 'fenlok drill capture-sweep',
    }),
    sort({
      sort: 'route',
      field: 'links.routes',
      declared: links.routes.map(({ id }) => id),
      seen: linkRuns.map(({ evidence, route }) => [route, evidence]),
      source: 'fenlok drill links',
    }),
    sort({
      sort: 'ad placement',
      field: 'ads.placements',
      declared: ads.placements.map(({ id }) => id),
      seen: shownAds.map(({ evidence, placement }) => [placement, evidence]),
      source: 'fenlok drill ads',
    }),
    sort({
      sort: 'channel',
      field: 'push.channels',
      declared: push.channels,
      seen: facts
        .of('push-run')
        .flatMap(({ evidence, shown }) => (shown?.channel ? [[shown.channel, evidence] as const] : [])),
      source: 'fenlok drill push',
    }),
  ];
}

export const nothingLookedAt = (field: string, source: string): string =>
  `nothing was looked at for ${field} (${source})`;
