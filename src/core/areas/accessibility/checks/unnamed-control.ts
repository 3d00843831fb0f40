/** WCAG 2.2, 4.1.2: what can be acted on has a name, and what is an image has one or is hidden (1.1.1). */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Toolkit } from '../../../model/toolkit.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPart } from '../../words.ts';
import { departed, passed, reachedStops, withoutLabels } from '../stops.ts';

const dataSchema = z.strictObject({
  className: z.string(),
  toolkit: z.enum(['views', 'compose', 'flutter', 'react-native', 'web', 'uikit', 'surface']),
  isImage: z.boolean(),
  cutBy: z.string(),
  onlyFocused: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const unnamedControl = defineCheck({
  id: 'unnamed-control',
  area: 'accessibility',
  priority: 'cannot-use',
  standard: 'WCAG 2.2, 4.1.2 Name, Role, Value, and 1.1.1 Non-text Content',
  basis: 'either',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ className, cutBy, isImage, onlyFocused, toolkit }, { identity }) => ({
    what: `${isImage ? 'The image' : lastPart(className) || 'A control'} ${identity.subject} has no name${cutBy ? ', as far as it shows' : ''}`,
    measured: cutBy
      ? 'no text in the part that shows; the scrolling area cuts it off'
      : 'no description, no text, and no text inside it',
    required: 'a name (WCAG 2.2, 4.1.2)',
    why: cutBy
      ? 'The text may be in the part that is cut off. A capture scrolled further decides it.'
      : onlyFocused
        ? 'A screen reader stops here and has nothing to say. The dump may leave out what it says: listen to it once.'
        : 'A screen reader can say only what kind of thing it is, and voice control has nothing to call it by.',
    remedy: cutBy
      ? 'Capture the screen scrolled so that all of it shows.'
      : `Say in a few words what it does: ${NAME_BY[toolkit as Toolkit]}.`,
  }),

  *run(facts) {
    const unknown: StopFact[] = [];
    for (const stop of reachedStops(facts)) {
      if (!(stop.actionable || (stop.isPicture && stop.traits) || stop.nameFrom === 'none')) continue;
      // its name may be a text beside it, which the OS's dump does not say
      if (stop.nameFrom === 'none' && stop.isField && !stop.knowsLabels) unknown.push(stop);
      else yield judgeStop(stop);
    }
    yield* withoutLabels(unknown);
  },

  doc: {
    looksAt: 'Everything that can be acted on or takes the focus: label, text, gathered texts, hint',
    against:
      'WCAG 2.2, 4.1.2: a name. Estimated for a strip of a row at the edge of its scroller, and for what only takes the focus',
    matters: 'A screen reader can only say “button”. Voice control has nothing to call it by.',
    measured:
      'Label, text, the texts inside it and the hint of everything that can be acted on or takes the focus.',
    errs: 'A strip of a row at the edge of its scroller, and what only takes the focus, are estimated. A dump may leave out what a view says by itself.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Icon(Icons.Default.Close, contentDescription = stringResource(R.string.close))',
      },
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<ImageButton android:contentDescription="@string/close" />',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Button(action: close) { Image(systemName: "xmark") }.accessibilityLabel("Close")',
      },
    ],
  },
});

function judgeStop(stop: StopFact): Assertion<Data> {
  if (stop.nameFrom !== 'none') return passed(stop);
  const { className } = stop.element;
  // what can only be focused may be a container that the OS's dump gives without what it says
  const isSure = (stop.actionable || stop.isPicture) && !stop.cutBy;
  return departed(stop, {
    basis: isSure ? 'measured' : 'estimated',
    severity: stop.actionable ? 2 : 1,
    digest: `no name, ${className}${stop.cutBy ? ', cut' : ''}`,
    data: {
      className,
      toolkit: stop.toolkit,
      isImage: !stop.actionable && stop.isPicture,
      cutBy: stop.cutBy ?? '',
      onlyFocused: !stop.actionable && !stop.isPicture,
    },
  });
}

/** How each toolkit gives a name to a control. */
const NAME_BY: Record<Toolkit, string> = {
  views: 'android:contentDescription',
  compose: 'contentDescription, of the icon or in Modifier.semantics',
  flutter: 'tooltip, or Semantics(label: …) around it',
  'react-native': 'accessibilityLabel',
  web: 'a text, or aria-label',
  uikit: 'accessibilityLabel',
  surface: 'a virtual view for each control (ExploreByTouchHelper, or UIAccessibilityElement)',
};
