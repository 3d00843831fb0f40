/** WCAG 2.2, 2.4.7: who moves by keys or by a reader sees where the focus is. */

import { z } from 'zod';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({ where: z.enum(['no-size', 'off-screen']), isSure: z.boolean() });

export const unseenFocus = defineCheck({
  id: 'unseen-focus',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.4.7 Focus Visible',
  basis: 'either',
  needs: 'capture',
  reads: ['unseen-focus'],
  data: dataSchema,
  words: ({ isSure, where }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} takes the focus where nobody can see it`,
    measured: where === 'no-size' ? 'it has no size' : 'all of it lies outside the screen',
    required: 'a focus that can be seen (WCAG 2.2, 2.4.7)',
    why: isSure
      ? 'Readers, keys and switches stop there, and the screen shows nothing.'
      : 'Keys stop there, and the screen shows nothing, unless the page moves it into sight when it has the focus: try it once.',
    remedy:
      'Take it out of the focus order while it is not shown (visibility, or importantForAccessibility).',
  }),

  *run(facts) {
    const unseen = facts.of('unseen-focus');
    const having = new Set(unseen.map(({ evidence }) => evidence));
    for (const { carries = [], cell, evidence, platform, toolkit } of facts.of('capture')) {
      if (having.has(evidence) || toolkit === 'surface') continue;
      // what a reader stops at on iOS, a UI test is not told
      yield platform === 'ios' && !carries.includes('traits')
        ? { outcome: 'untested', because: 'traits' }
        : { outcome: 'passed', cell };
    }
    for (const fact of unseen) {
      // a page may bring a link into sight as soon as it has the focus
      const isSure = fact.toolkit !== 'web';
      yield {
        outcome: isSure ? 'failed' : 'cantTell',
        cell: fact.cell,
        draft: elementDraft(fact, {
          basis: isSure ? 'measured' : 'estimated',
          severity: 1,
          digest: fact.where,
          data: { where: fact.where, isSure },
        }),
      };
    }
  },

  doc: {
    looksAt: 'Everything that takes the focus, outside of scrollers',
    against:
      'WCAG 2.2, 2.4.7: some of it can be seen. Estimated for web content, which may show it when it has the focus',
    matters:
      'Readers, keyboards and switches stop at something that nobody can see, and people think that the phone hangs.',
    measured: 'Size and place of everything that takes the focus, outside of scrollers.',
    errs: 'Web content may show itself when it gets the focus, such as a link that skips the navigation, so there it is estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<View android:focusable="false" android:importantForAccessibility="no" />',
      },
      { where: 'iOS, UIKit', language: 'swift', code: 'offscreenView.accessibilityElementsHidden = true' },
    ],
  },
});
