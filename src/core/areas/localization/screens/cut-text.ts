import type { Cell } from '../../../model/cell.ts';
import { type Check, elementDraft } from '../../check.ts';

/** No text ends in an ellipsis that it does not have. */
export const cutText = {
  id: 'cut-text',
  area: 'localization',
  needs: ['capture', 'screen-text'],
  *run(facts) {
    const at100 = new Set(
      facts.of('capture').flatMap(({ cell }) => (cell.textScale === 1 ? [keyOf(cell)] : [])),
    );
    for (const fact of facts.of('screen-text')) {
      if (fact.from === 'label') continue;
      // what larger text cuts is told by its pair
      if (fact.cell.textScale > 1 && at100.has(keyOf(fact.cell))) continue;
      if (!fact.ellipsized) yield { outcome: 'passed', cell: fact.cell };
      else
        yield {
          outcome: 'failed',
          cell: fact.cell,
          draft: elementDraft(fact, {
            basis: 'measured',
            severity: fact.text.length,
            digest: fact.text,
            cause: 'cut',
            aspect: fact.cell.locale,
            data: { text: fact.text, locale: fact.cell.locale, textScale: fact.cell.textScale },
          }),
        };
    }
  },
} satisfies Check;

const keyOf = ({ device, locale, orientation, procedure, screen, theme }: Cell): string =>
  [screen, procedure, device, locale, theme, orientation].join('|');
