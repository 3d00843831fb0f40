/** Voice control calls things by their names, so a name has something in it that can be said. */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { spokenForm } from '../spoken-form.ts';
import { departed, passed, reachedStops } from '../stops.ts';

const MOST_WORDS = 12;

const dataSchema = z.strictObject({ name: z.string(), words: z.number(), most: z.number() });

export const voiceName = defineCheck({
  id: 'voice-name',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.5.3 Label in Name; voice control of both platforms',
  basis: 'either',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ most, name, words }) => ({
    what: words === 0 ? `${quote(name)} cannot be said` : `The name ${quote(name)} is too long to say`,
    measured: words === 0 ? 'no letter and no digit in it' : `${words} words`,
    required: words === 0 ? 'a name that can be spoken' : `at most ${most} words`,
    why: 'Voice control calls things by their names.',
    remedy: 'Give it a short name, and put what else there is to tell into its value or hint.',
  }),

  *run(facts) {
    for (const stop of reachedStops(facts)) {
      if (!stop.actionable || stop.isField || stop.nameFrom === 'none') continue;
      const words = spokenForm(stop.name).split(' ').filter(Boolean);
      const isLong = stop.nameFrom === 'label' && words.length > MOST_WORDS;
      if (words.length > 0 && !isLong) yield passed(stop);
      else
        yield departed(stop, {
          basis: isLong ? 'estimated' : 'measured',
          severity: isLong ? 1 : 2,
          digest: isLong ? `${words.length} words` : stop.name,
          cause: isLong ? 'long' : 'no words',
          data: { name: stop.name, words: words.length, most: MOST_WORDS },
        });
    }
  },

  doc: {
    looksAt: 'Names of what can be acted on',
    against: 'That they can be spoken; labels of more than 12 words are estimated',
    matters: 'Voice control calls things by their names, and nobody can say “★★★” or a name of twenty words.',
    measured: 'Letters and words of the names of what can be acted on.',
    errs: 'Long labels may be meant; those of more words than the limit are estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Modifier.semantics { contentDescription = "Rate"; stateDescription = "4 of 5 stars" }',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'stars.accessibilityLabel("Rate").accessibilityValue("4 of 5 stars")',
      },
    ],
  },
});
