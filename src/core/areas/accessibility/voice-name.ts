/** Voice control calls things by their names, so a name has something in it that can be said. */
import type { Check } from '../check.ts';
import { spokenForm } from './spoken-form.ts';
import { departed, passed, reachedStops } from './stops.ts';

const MOST_WORDS = 12;

export const voiceName = {
  id: 'voice-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
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
} satisfies Check;
