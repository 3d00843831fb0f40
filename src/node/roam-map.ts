import { readFile } from 'node:fs/promises';
import { parseJson } from '../core/formats/parse-json.ts';
import { type RoamMap, roamMapSchema } from '../core/model/roam-map.ts';

/** The map of a roam; undefined where there is none. @throws UnreadableError */
export async function readMap(file: string): Promise<RoamMap | undefined> {
  const text = await readFile(file, 'utf8').catch(() => undefined);
  return text === undefined ? undefined : parseJson(file, text, roamMapSchema, 'a map as roams write it');
}
