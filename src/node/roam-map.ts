import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseJson } from '../core/formats/parse-json.ts';
import { type RoamMap, roamMapSchema } from '../core/model/roam-map.ts';

/** The map of a roam; undefined where there is none. @throws UnreadableError */
export async function readMap(file: string): Promise<RoamMap | undefined> {
  const text = await readFile(file, 'utf8').catch(() => undefined);
  return text === undefined ? undefined : parseJson(file, text, roamMapSchema, 'a map as roams write it');
}

/** Of every device that walked it, by its name. */
export async function listMaps(dossierFolder: string): Promise<RoamMap[]> {
  const folder = join(dossierFolder, 'roam');
  const names = (await readdir(folder).catch(() => [])).sort();
  const maps = await Promise.all(names.map((name) => readMap(join(folder, name, 'map.json'))));
  return maps.filter((map) => map !== undefined);
}
