import { indexFacts } from '../areas/check.ts';
import { checks } from '../areas/checks.ts';
import type { CaptureEvidence } from '../areas/observer.ts';
import { captureObservers } from '../areas/observers-by-evidence.ts';
import type { Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import { emptyIntent } from '../model/intent.ts';
import { collectFindings, hadFacts } from './collect-findings.ts';

/** All that the observers measure on one capture; its pixels are not kept. */
export const factsOfCapture = (capture: CaptureEvidence): Fact[] =>
  captureObservers.flatMap((observer) => [...observer.observe(capture)]);

/**
 * What all checks find on captures alone, with no package and no dossier: for a UI test, or a page. What was measured
 * comes first.
 *
 * @param facts of the captures; counterparts (light and dark, 100 % and 200 %) are held against each other
 * @param intent whose limits hold; without one, those of the standards
 */
export function findOnScreens(facts: Iterable<Fact>, intent = emptyIntent('unnamed')): Finding[] {
  const index = indexFacts(facts);
  // which build and which devices they are of is asked of a candidate, and here there is none
  const able = checks.filter((check) => check.area !== 'candidate' && hadFacts(check, index));
  return collectFindings(able, index, intent)
    .flatMap(({ findings }) => findings)
    .sort((a, b) => Number(b.basis === 'measured') - Number(a.basis === 'measured'));
}
