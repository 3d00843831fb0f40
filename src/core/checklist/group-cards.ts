import type { Card, Finding } from '../model/finding.ts';
import { outcomeOf } from './apply-rulings.ts';

/**
 * Findings that are fixed at once become one card: of one check on one screen, with the same cause, what is required and the
 * remedy. What was decided stays apart from what is open, so that a place which joins later is asked about.
 */
export function groupCards(findings: readonly Finding[], strict: boolean): Card[] {
  const cards = new Map<string, Card>();
  for (const finding of findings) {
    const { basis, cause, check, id, identity, ruling, words } = finding;
    const key = JSON.stringify(
      identity.screen === undefined || cause === undefined
        ? [id]
        : [
            check,
            identity.screen,
            identity.aspect ?? '',
            cause,
            words.required,
            words.remedy,
            basis,
            outcomeOf(finding, strict),
            ruling?.ruling ?? '',
          ],
    );
    const card = cards.get(key);
    if (card) card.findings.push(id);
    else cards.set(key, { id, findings: [id] });
  }
  return [...cards.values()];
}
