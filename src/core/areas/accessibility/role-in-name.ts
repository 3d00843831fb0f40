/** A name that repeats the role: "Save button" is read as "Save button, button". */
import type { StopFact } from '../../model/fact.ts';
import type { Check } from '../check.ts';
import { kindOfNoise } from './meaningless-name.ts';
import { iconWords, isActionWord, isEnglishRole, roleWords } from './name-words.ts';
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
      // an identifier is told as that
      const role = kindOfNoise(stop) ? undefined : repeatedRole(stop);
      if (!role) yield passed(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.name,
          cause: role,
          data: { name: stop.name, role },
        });
    }
  },
} satisfies Check;

function repeatedRole({ actionable, isPicture, name, roles }: StopFact): string | undefined {
  const words = spokenForm(name);
  const repeats = (word: string) => endsWith(words, word) || beginsWith(words, word, name);
  const role = roles.find((of) => roleWords(of).some(repeats));
  if (role) return role;
  // a picture that can be tapped is read as a button
  if (!actionable || !isPicture) return undefined;
  if (roleWords('button').some(repeats)) return 'button';
  return iconWords.some((word) => words.endsWith(` ${word}`)) ? 'icon' : undefined;
}

const endsWith = (words: string, word: string): boolean => words !== word && words.endsWith(` ${word}`);

/** "Button save", and not "Button colours": in English the first of two nouns tells what the second is about. */
function beginsWith(words: string, word: string, name: string): boolean {
  if (!words.startsWith(`${word} `)) return false;
  const isParted = /^\p{L}+\s*[:,(–-]/u.test(name.trim());
  return isParted || !isEnglishRole(word) || isActionWord(words.slice(word.length + 1).split(' ')[0]!);
}
