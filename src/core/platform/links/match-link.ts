/**
 * Who gets a link that is tapped in another app, and why nobody else. Android: *Verify App Links* (since API level 31
 * a web link goes to an app only where the site agrees, or the user said so); iOS: *Supporting associated domains*.
 */
import type { SiteFile } from '../../model/site-file.ts';
import type { LinkCandidate, LinkDecision, LinkMatcher } from './link-decision.ts';
import { parseLinkUri } from './link-uri.ts';
import { androidMatcher } from './match-android-link.ts';
import { appleMatcher } from './match-apple-link.ts';

/** @param siteFiles what the sites say; of one site and kind the first counts */
export const matchLink = (
  url: string,
  candidate: LinkCandidate,
  siteFiles: readonly SiteFile[],
): LinkDecision => linkMatcher(candidate, siteFiles).decide(parseLinkUri(url));

/** The same for many links: what the package and the sites say is read once. */
export function linkMatcher(candidate: LinkCandidate, siteFiles: readonly SiteFile[]): LinkMatcher {
  if (candidate.android) return androidMatcher(candidate.appId, candidate.android, siteFiles);
  return appleMatcher(candidate.appId, candidate.ios ?? { domains: [], schemes: [] }, siteFiles);
}
