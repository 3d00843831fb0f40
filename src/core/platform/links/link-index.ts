/**
 * Finds the filters that take a link without asking each of them: those for its scheme, host and port are put together
 * once, and sorted by the first segment of their paths, so that a link looks up the one that its path has.
 */
import { type CompiledFilter, isHost, isPort, takes } from './link-filter.ts';
import { firstSegment, type LinkUri } from './link-uri.ts';

/** What a caller makes of the filters that take a link. Only scheme, host and port of the link may count. */
type Settle<F, Decision> = (uri: LinkUri, taking: readonly F[]) => Decision;

/** Of hosts beyond that nothing is kept: links of strangers may name any. */
const MOST_PLACES = 4096;

/** @returns what comes of the filters that take a link, in the order of `filters` */
export function indexLinks<F extends CompiledFilter, Decision>(
  filters: readonly F[],
  settle: Settle<F, Decision>,
): (uri: LinkUri) => Decision {
  const bySchemes = new Map<string, Map<string, Place<F, Decision>>>();
  let count = 0;
  const placeFor = (uri: LinkUri, scheme: string, where: string): Place<F, Decision> => {
    const place = new Place(filters, settle, uri);
    if (uri.host === undefined || count >= MOST_PLACES) return place;
    count += 1;
    const places = bySchemes.get(scheme) ?? new Map<string, Place<F, Decision>>();
    bySchemes.set(scheme, places.set(where, place));
    return place;
  };
  return (uri) => {
    const { hostKey = '', port, scheme = '' } = uri;
    const where = port === undefined ? hostKey : `${hostKey}:${port}`;
    const known = uri.host === undefined ? undefined : bySchemes.get(scheme)?.get(where);
    return (known ?? placeFor(uri, scheme, where)).decide(uri);
  };
}

interface Entry<F, Decision> {
  filter: F;
  order: number;
  /** Where nothing else takes the link. */
  alone: Decision;
  /** Undefined where every path will do. */
  holds?: (path: string) => boolean;
}

/** What the filters say of one scheme, host and port: only paths are left to look at. */
class Place<F extends CompiledFilter, Decision> {
  readonly #settle: Settle<F, Decision>;
  /** Entries whose paths have one first segment, by it. */
  readonly #bySegment = new Map<string, Entry<F, Decision>[]>();
  /** The others, to be asked one by one. */
  readonly #others: Entry<F, Decision>[] = [];
  /** To be asked with the whole link: relative groups, specific parts. */
  readonly #whole: Entry<F, Decision>[] = [];
  readonly #nothing: Decision;

  constructor(filters: readonly F[], settle: Settle<F, Decision>, uri: LinkUri) {
    this.#settle = settle;
    this.#nothing = settle(uri, []);
    for (const [order, filter] of filters.entries()) this.#add(filter, order, uri);
  }

  #add(filter: F, order: number, uri: LinkUri): void {
    const { authorities, paths, schemes, specificParts } = filter;
    const entry = { filter, order, alone: this.#settle(uri, [filter]) };
    if (schemes.size === 0 || specificParts.length > 0 || filter.filter.relativeGroups.length > 0) {
      this.#whole.push(entry);
      return;
    }
    if (!schemes.has(uri.scheme ?? '')) return;
    if (authorities.length > 0 && !authorities.some((one) => isHost(one, uri) && isPort(one, uri))) return;
    if (authorities.length === 0 || paths.length === 0) this.#others.push(entry);
    else
      for (const { head, isExact, matches } of paths) {
        const ofPath = { ...entry, holds: matches };
        const segment = isExact || head.indexOf('/', 1) > 0 ? firstSegment(head) : undefined;
        if (segment === undefined) this.#others.push(ofPath);
        else this.#bySegment.set(segment, [...(this.#bySegment.get(segment) ?? []), ofPath]);
      }
  }

  decide(uri: LinkUri): Decision {
    const { path, segment } = uri;
    const near = segment === undefined ? undefined : this.#bySegment.get(segment);
    if (this.#others.length === 0 && this.#whole.length === 0) {
      if (near === undefined) return this.#nothing;
      if (near.length === 1) return near[0]!.holds!(path!) ? near[0]!.alone : this.#nothing;
    }
    const found = [
      ...[...(near ?? []), ...this.#others].filter(
        ({ holds }) => !holds || (path !== undefined && holds(path)),
      ),
      ...this.#whole.filter(({ filter }) => takes(filter, uri)),
    ];
    if (found.length === 0) return this.#nothing;
    if (found.length === 1) return found[0]!.alone;
    const sorted = found.sort((a, b) => a.order - b.order).map(({ filter }) => filter);
    return this.#settle(uri, [...new Set(sorted)]);
  }
}
