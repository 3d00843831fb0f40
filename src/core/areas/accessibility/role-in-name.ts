/** A name that repeats the role: "Save button" is read as "Save button, button". */
import type { StopFact } from '../../model/fact.ts';
import type { Check } from '../check.ts';
import { iconWords, roleWords } from './name-words.ts';
import { spokenForm } from './spoken-form.ts';
import { departed, passed, reachedStops } from './stops.ts';

export const roleInName = {
  id: 'role-in-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts)) {
      // what is written for all to see is not the reader's name of it
      if (stop.nameFrom !== 'label' || stop.drawn.length > 0) continue;
      const role = repeatedRole(stop);
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

function repeatedRole({ actionable, isPicture, name, roles }: StopFact): string | undefined {
  const words = spokenForm(name);
  const role = roles.find((of) => roleWords(of).some((word) => repeats(words, word)));
  if (role) return role;
  // a picture that can be tapped is read as a button
  if (!actionable || !isPicture) return undefined;
  if (roleWords('button').some((word) => repeats(words, word))) return 'button';
  return iconWords.some((word) => words.endsWith(` ${word}`)) ? 'icon' : undefined;
}

const repeats = (name: string, word: string): boolean =>
  name !== word && (name.endsWith(` ${word}`) || name.startsWith(`${word} `));
