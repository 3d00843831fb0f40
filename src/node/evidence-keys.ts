/** The keys that facts are kept by, as the build wrote them: digests of the code that reads and measures each sort of evidence. */
import { readFileSync } from 'node:fs';
import { z } from 'zod';
import type { Observer } from '../core/areas/observer.ts';
import { ownFile } from './own-files.ts';

const keysSchema = z.record(z.string(), z.string());
let keys: Record<string, string> | undefined;

/** @throws RangeError where the build wrote none */
export function evidenceKey(evidence: Observer['reads'] | 'cut'): string {
  keys ??= keysSchema.parse(JSON.parse(readFileSync(ownFile('dist/evidence-keys.json'), 'utf8')));
  const key = keys[evidence];
  if (key === undefined)
    throw new RangeError(`no key for ${evidence} in evidence-keys.json: build Fenlok again`);
  return key;
}
