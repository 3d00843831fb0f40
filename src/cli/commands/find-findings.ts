/** Findings of the last judgement, by the name that its report gives. */
import { join } from 'node:path';
import { parseJson } from '../../core/formats/parse-json.ts';
import type { Finding } from '../../core/model/finding.ts';
import { judgementSchema } from '../../core/model/judgement.ts';
import { nearest } from '../../core/platform/text/nearest.ts';
import { exists } from '../../node/dossier.ts';
import { readTextFile } from '../../node/read-yaml.ts';
import { UsageError } from '../io.ts';

/** The finding of that name; where it is the first of a card, with the card's other places as the judgement showed them. */
export async function findFindings(folder: string, name: string): Promise<Finding[]> {
  const file = join(folder, 'judgement.json');
  if (!(await exists(file)))
    throw new UsageError(
      `${folder} has not been judged yet, so it has no findings: run "fenlok judge" first`,
    );
  const { cards, findings } = parseJson(
    file,
    await readTextFile(file, 256 * 2 ** 20),
    judgementSchema,
    'a judgement as Fenlok writes it',
  );
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
