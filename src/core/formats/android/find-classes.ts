/** Names of all classes that a package's dex files define, sorted, as Java writes them. */
import { type Problem, tryRead } from '../../model/problem.ts';
import type { OpenedAndroid } from './apk.ts';
import { readDex } from './dex.ts';

export async function findClasses({ modules, zip }: OpenedAndroid): Promise<string[]> {
  const unread: Problem[] = [];
  const found = new Set<string>();
  for (const file of modules.flatMap((module) => module.dexFiles))
    await tryRead(unread, async () => {
      for (const name of readDex(await zip.read(file), file).classes()) found.add(inJava(name));
    });
  return [...found].sort();
}

/** `Lexample/app/Main;` is `example.app.Main`. */
const inJava = (descriptor: string): string => descriptor.slice(1, -1).replaceAll('/', '.');
