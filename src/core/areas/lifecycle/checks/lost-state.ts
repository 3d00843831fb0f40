/** A screen that the user left comes back with what was typed, chosen and scrolled to. */

import { z } from 'zod';
import { isStateDrill } from '../../../model/drill.ts';
import type { DrillRunFact, StateChange } from '../../../model/fact.ts';
import type { Assertion, Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { type DataValue, quote } from '../../words.ts';
import { classOfRun, lastRuns } from '../runs/class-of-run.ts';
import { formatDrill, REMEDIES, SAVE } from '../words.ts';

const dataSchema = z.strictObject({
  key: z.string(),
  what: z.enum(['text', 'scroll', 'typed', 'checked', 'selected', 'focused', 'content', 'gone']),
  before: z.string(),
  after: z.string(),
  drill: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const lostState = defineCheck({
  id: 'lost-state',
  area: 'lifecycle',
  priority: 'wrong',
  standard: "Android developers, Saving UI states; Apple, Restoring your app's state",
  basis: 'measured',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ after, before, drill, key, what }) => {
    const loss = LOSSES[what]!;
    return {
      what: `${loss.what(key, before)} after ${formatDrill(drill)}`,
      measured:
        what === 'scroll' ? `${after} than before` : `before: ${say(before)}; afterwards: ${say(after)}`,
      required: 'the same as before',
      why: loss.why,
      remedy: REMEDIES[drill] ?? SAVE,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastRuns(facts)) {
      if (!isStateDrill(run.drill)) continue;
      const found = classOfRun(run, intent.drills.ignore);
      if (found.kind === 'restored') yield { outcome: 'passed', cell: run.cell };
      if (found.kind !== 'partly-restored') continue;
      for (const change of worstOfEach(found.lost))
        yield { outcome: 'failed', cell: run.cell, draft: draftOf(run, change) };
    }
  },

  doc: {
    looksAt:
      'The screen before and after each drill that leaves it: typed and shown texts, what is checked, chosen and focused, scroll positions, dialogs',
    against:
      'Each other, less what changes by itself; a run counts only with proof that the drill did what its name says',
    matters: 'People type it again, or do not notice that what they chose is gone.',
    measured:
      'Typed and shown texts, what is checked, chosen and focused, scroll positions and dialogs, before and after the drill.',
    errs: 'What changes by itself is to be named under drills.ignore.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'var name by rememberSaveable { mutableStateOf("") }',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: '@SceneStorage("booking.name") private var name = ""',
      },
    ],
  },
});

/** What a person typed weighs more than where a list stood. */
const WEIGHTS: Record<StateChange['what'], number> = {
  typed: 6,
  checked: 5,
  selected: 5,
  content: 4,
  gone: 4,
  scroll: 3,
  text: 2,
  focused: 1,
};

/** An element that lost its text and its focus is one finding; a focus that went with its field's text is the same loss. */
function worstOfEach(lost: readonly StateChange[]): StateChange[] {
  const byKey = new Map<string, StateChange>();
  for (const change of lost) {
    const before = byKey.get(change.key);
    if (!before || WEIGHTS[before.what] < WEIGHTS[change.what]) byKey.set(change.key, change);
  }
  return [...byKey.values()];
}

const draftOf = (
  { cell, drill, evidence }: DrillRunFact,
  { boundsPx, ...change }: StateChange,
): Draft<Data> => ({
  identity: { screen: cell.screen, subject: change.key, aspect: drill },
  basis: 'measured',
  severity: WEIGHTS[change.what],
  digest: change.what,
  occurrence: { evidence, cell, boundsPx, shown: change.before, data: { drill, ...change } },
});

const say = (value: DataValue): string =>
  value === '' || value === undefined ? 'nothing' : quote(String(value));

const LOSSES: Record<string, { what: (key: string, before: string) => string; why: string }> = {
  typed: {
    what: (key, before) => `${quote(before)} in ${key} is lost`,
    why: 'The user typed it, and has to type it again.',
  },
  text: {
    what: (key) => `${key} shows another text`,
    why: 'What the screen showed rests on state that was not kept.',
  },
  checked: {
    what: (key) => `${key} is no longer as it was set`,
    why: 'The user set it, and is not told that it changed.',
  },
  selected: {
    what: (key) => `The choice of ${key} is lost`,
    why: 'The user chose it, and is not told that it changed.',
  },
  focused: {
    what: (key) => `The focus on ${key} is lost`,
    why: 'Who was typing, or walks by keys or switches, begins again at the top.',
  },
  scroll: {
    what: (key) => `${key} is no longer scrolled to where it was`,
    why: 'The user has to find the place again.',
  },
  content: { what: (key) => `${key} shows other content`, why: 'The user has to find the place again.' },
  gone: {
    what: (key, before) => `${before ? `${quote(before)} (${key})` : key} is gone`,
    why: 'What was open or shown is not there any more: a dialog, a message, a part of the screen.',
  },
};
