import { type AreaWords, cut, lastPart, round } from '../words.ts';

export const accessibilityWords: AreaWords = {
  'unnamed-control': ({ className, platform }, { identity }) => ({
    what: `${lastPart(String(className)) || 'A control'} ${identity.subject} has no name`,
    measured: 'neither a description nor a text, and none inside it',
    required: 'a name (WCAG 2.2, 4.1.2)',
    why: 'A screen reader can say only what kind of thing it is, and voice control has nothing to call it by.',
    remedy: `Say in a few words what it does: ${platform === 'ios' ? 'accessibilityLabel' : 'android:contentDescription, or contentDescription in Compose semantics'}.`,
  }),

  'small-target': ({ cutBy, heightDp, required, unit, widthDp }, { identity, occurrences }) => ({
    what: `Touch target ${occurrences[0]!.shown ? `“${cut(occurrences[0]!.shown)}”` : identity.subject} is too small${cutBy ? ', or cut off' : ''}`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit}${cutBy ? `, cut by the ${cutBy === 'scroll' ? 'scrolling area' : 'screen edge'}` : ''}`,
    required: `${required} × ${required} ${unit} (${unit === 'pt' ? 'Human Interface Guidelines' : 'Android accessibility guidance'})`,
    why: cutBy
      ? 'Only a part of it is on the screen, so its whole size is not known.'
      : 'Small targets are missed by unsteady hands, and by everyone who is moving.',
    remedy: cutBy
      ? 'Capture the screen scrolled so that all of it shows.'
      : `Enlarge the element or its padding to ${required} ${unit}; what is drawn in it may stay as it is.`,
  }),
};
