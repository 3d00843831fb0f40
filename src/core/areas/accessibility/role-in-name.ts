/** A name that repeats the role: "Save button" is read as "Save button, button". */
import type { Check } from '../check.ts';
import { roleWords } from './role-words.ts';
import { departed, passed, reachedStops, spokenForm } from './stops.ts';

export const roleInName = {
  id: 'role-in-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts)) {
      // what is written for all to see is not the reader's name of it
      if (stop.nameFrom !== 'label' || stop.drawn.length > 0) continue;
      const words = spokenForm(stop.name);
      const role = stop.roles.find((of) => roleWords(of).some((word) => repeats(words, word)));
      if (!role) yield passed(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.name,
          data: { name: stop.name, role },
        });
    }
  },
} satisfies Check;

const repeats = (name: string, word: string): boolean =>
  name !== word && (name.endsWith(` ${word}`) || name.startsWith(`${word} `));
