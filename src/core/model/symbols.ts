/** Files that give code its names back: a shrinker's mapping, the symbols of an iOS build. */
import { z } from 'zod';

export const symbolsSchema = z.strictObject({
  sort: z.enum(['mapping', 'dsym']),
  /** SHA-256 of the file, by which the dossier keeps it. */
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  /** Of a mapping: the id that the shrinker also wrote into the code; empty where it wrote none. */
  mapId: z.string(),
  /** Of a mapping: how many classes it names. */
  classes: z.number().int(),
  /** Of a dSYM: `arm64 0123…`, a processor each, without dashes. */
  uuids: z.array(z.string()),
});
export type Symbols = z.infer<typeof symbolsSchema>;
