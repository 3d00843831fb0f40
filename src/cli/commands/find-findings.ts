/** Findings of the last judgement, by the name that its report gives. */
import type { Finding } from '../../core/model/finding.ts';
import { nearest } from '../../core/platform/text/nearest.ts';
import { readJudgement } from '../../node/read-judgement.ts';
import { UsageError } from '../io.ts';

/** The finding of that name; where it is the first of a card, with the card's other places as the judgement showed them. */
export async function findFindings(folder: string, name: string): Promise<Finding[]> {
  const { cards, findings } = await readJudgement(folder);
  const matches = findings.filter(({ id }) => id.startsWith(name));
  if (matches.length === 1) {
    const [{ id }] = matches as [Finding];
    const places = cards.find((card) => card.id === id)?.findings ?? [id];
    return places.map((place) => findings.find((finding) => finding.id === place)!);
  }
  const meant = nearest(
    name,
    findings.map(({ id }) => id),
  );
  throw new UsageError(
    matches.length > 1
      ? `${name} fits ${matches.map(({ id }) => id).join(', ')}: give more of its name`
      : `no finding ${name} in the last judgement${meant ? `; did you mean ${meant}?` : ''}`,
  );
}
