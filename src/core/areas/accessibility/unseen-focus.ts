/** WCAG 2.2, 2.4.7: who moves by keys or by a reader sees where the focus is. */
import { type Check, elementDraft } from '../check.ts';

export const unseenFocus = {
  id: 'unseen-focus',
  area: 'accessibility',
  needs: ['capture', 'unseen-focus'],
  *run(facts) {
    const unseen = facts.of('unseen-focus');
    const having = new Set(unseen.map(({ evidence }) => evidence));
    for (const { cell, evidence, toolkit } of facts.of('capture'))
      if (!having.has(evidence) && toolkit !== 'surface') yield { outcome: 'passed', cell };
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
} satisfies Check;
