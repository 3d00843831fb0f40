/** What a package's code calls and says of what checks ask about, and which mapping file it was made with. */
import type { CodeUse } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { WATCHED_TEXTS, watchedCalls, watchedTypes } from '../../platform/android/watched-calls.ts';
import type { OpenedAndroid } from './apk.ts';
import { readDex } from './dex.ts';

/** R8 writes it into the code that it made (R8, *Marker*): `~~R8{"backend":"dex",…,"pg-map-id":"4c8f1f2"}`. */
const MARKER = '~~R8{';

export async function findCodeUse({ modules, zip }: OpenedAndroid): Promise<CodeUse> {
  const unread: Problem[] = [];
  const calls = new Set<string>();
  const texts = new Set<string>();
  const mapIds = new Set<string>();
  for (const file of modules.flatMap((module) => module.dexFiles))
    await tryRead(unread, async () => {
      const dex = readDex(await zip.read(file), file);
      for (const type of dex.types()) for (const call of watchedTypes(type)) calls.add(call);
      for (const { className, name } of dex.methods())
        for (const call of watchedCalls(className, name)) calls.add(call);
      for (const text of WATCHED_TEXTS) if (dex.stringsFrom(text, 1)[0] === text) texts.add(text);
      for (const text of dex.stringsFrom(MARKER, 50)) {
        const id = text.startsWith(MARKER) ? /"pg-map-id":"([^"]+)"/.exec(text)?.[1] : undefined;
        if (id) mapIds.add(id);
      }
    });
  return { calls: [...calls].sort(), texts: [...texts].sort(), mapIds: [...mapIds].sort() };
}
