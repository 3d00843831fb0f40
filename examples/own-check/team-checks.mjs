// A check of a team's own: the app's name fits under its icon in every language. fenlok.yaml names this file under `extensions`,
// and the team's own list (team-checklist.yaml) has the item that it shows.
import { defineCheck, z } from 'fenlok';
import { defineExtension } from 'fenlok/node';

// What launchers show of a name on a small phone.
const MOST_LETTERS = 12;

const shortName = defineCheck({
  id: 'team-short-name',
  area: 'localization',
  priority: 'harder',
  standard: 'House rule: names under icons',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: z.strictObject({ name: z.string(), locale: z.string(), letters: z.number(), most: z.number() }),

  *run(facts) {
    for (const { evidence, key, locale, text } of facts.of('catalogue-text')) {
      if (key !== 'app_name') continue;
      const letters = [...text].length;
      if (letters <= MOST_LETTERS) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: key, aspect: locale },
            basis: 'measured',
            severity: letters,
            digest: text,
            occurrence: { evidence, shown: text, data: { name: text, locale, letters, most: MOST_LETTERS } },
          },
        };
    }
  },

  words: ({ letters, locale, most, name }) => ({
    what: `The name of the app is cut off under its icon (${locale})`,
    measured: `“${name}”, ${letters} letters`,
    required: `at most ${most} letters`,
    why: 'Who looks for the app on a full screen of icons reads only its beginning.',
    remedy: 'Agree on a shorter name with the people of that market.',
  }),

  doc: {
    looksAt: 'The text app_name in every language',
    against: `At most ${MOST_LETTERS} letters`,
    matters: 'A name that is cut off is not found, and looks careless.',
    measured: 'Its letters are counted.',
    errs: 'Wide and narrow letters count alike.',
    fixes: [{ where: 'strings.xml', language: 'xml', code: '<string name="app_name">Kelpline</string>' }],
  },
});

/** One line for the release channel. */
const announcement = {
  file: 'announcement.txt',
  write: ({ candidate, counts, verdict }) =>
    `${candidate.name} ${candidate.build.version} (${candidate.build.build}): ${verdict}, ${counts.failed} items failed\n`,
};

export default defineExtension({ checks: [shortName], reports: [announcement] });
