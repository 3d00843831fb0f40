import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { type ComparableJudgement, isComparable } from '../core/checklist/compare/compare.ts';
import { parseJson } from '../core/formats/parse-json.ts';
import { type Judgement, judgementSchema } from '../core/model/judgement.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { exists } from './dossier.ts';
import { readTextFile } from './read-yaml.ts';

const LIMIT_BYTES = 256 * 2 ** 20;

/** The last judgement of a dossier, or one that was saved as a file. @throws UnreadableError where there is none */
export async function readJudgement(path: string): Promise<Judgement> {
  const isFolder = (await stat(path).catch(() => undefined))?.isDirectory() ?? !path.endsWith('.json');
  const file = isFolder ? join(path, 'judgement.json') : path;
  if (!(await exists(file)))
    throw new UnreadableError({
      code: 'judgement.none',
      file: path,
      found: isFolder ? 'no judgement here' : 'no such file',
      remedy: isFolder
        ? `Judge it first: fenlok judge --dossier ${path}`
        : 'Name a dossier, or a judgement.json.',
    });
  return parseJson(
    file,
    await readTextFile(file, LIMIT_BYTES),
    judgementSchema,
    'a judgement as Fenlok writes it',
  );
}

/** The same, with what it looked at. @throws UnreadableError where an earlier Fenlok judged, which did not keep that */
export async function readComparable(path: string): Promise<ComparableJudgement> {
  const judgement = await readJudgement(path);
  if (!isComparable(judgement))
    throw new UnreadableError({
      code: 'judgement.not-comparable',
      file: path,
      found: 'a judgement of an earlier Fenlok, which does not say what was looked at',
      remedy: `Judge it again; what was measured is kept: fenlok judge --dossier ${path}`,
    });
  return judgement;
}
