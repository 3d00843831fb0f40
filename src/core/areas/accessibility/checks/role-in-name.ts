/** A name that repeats the role: "Save button" is read as "Save button, button". */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { iconWords, isActionWord, isEnglishRole, roleWords } from '../name-words.ts';
import { spokenForm } from '../spoken-form.ts';
import { departed, passed, reachedStops } from '../stops.ts';
import { kindOfNoise } from './meaningless-name.ts';

const dataSchema = z.strictObject({ name: z.string(), role: z.string() });

export const roleInName = defineCheck({
  id: 'role-in-name',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 4.1.2 Name, Role, Value',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ name, role }) => ({
    what: `${quote(name)} repeats that it is a ${role}`,
    measured: `the name ends or begins with its role, ${role}`,
    required: 'the role is said by the system alone',
    why: `A screen reader says the role after the name, so this is read as “${name}, ${role}”.`,
    remedy: 'Leave the role out of the name.',
  }),

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

  doc: {
    looksAt: 'Labels of stops that show no text',
    against:
      'That they do not repeat the role, at their end or their beginning. “Button colours” does not: there the first noun tells what the second is about',
    matters: 'It is read as “Save button, button”. Every word that adds nothing makes listening slower.',
    measured:
      "The first and the last word of names against the words for the element's role, in several languages.",
    errs: 'A name in which the first noun tells what the second is about, such as “Button colours”, is not counted.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<ImageButton android:contentDescription="@string/save" />  <!-- "Save", not "Save button" -->',
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'saveButton.accessibilityLabel = NSLocalizedString("save", comment: "")',
      },
    ],
  },
});

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
