import type { Toolkit } from '../../model/toolkit.ts';
import { type AreaWords, cut, lastPart, quote, round, textsOf } from '../words.ts';
import { pairWords } from './pairs/words.ts';

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

export const accessibilityWords: AreaWords = {
  'unnamed-control': ({ className, cutBy, isImage, onlyFocused, toolkit }, { identity }) => ({
    what: `${isImage ? 'The image' : lastPart(String(className)) || 'A control'} ${identity.subject} has no name${cutBy ? ', as far as it shows' : ''}`,
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
      : `Say in a few words what it does: ${NAME_BY[String(toolkit) as Toolkit]}.`,
  }),

  'unseen-focus': ({ isSure, where }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} takes the focus where nobody can see it`,
    measured: where === 'no-size' ? 'it has no size' : 'all of it lies outside the screen',
    required: 'a focus that can be seen (WCAG 2.2, 2.4.7)',
    why: isSure
      ? 'Readers, keys and switches stop there, and the screen shows nothing.'
      : 'Keys stop there, and the screen shows nothing, unless the page moves it into sight when it has the focus: try it once.',
    remedy:
      'Take it out of the focus order while it is not shown (visibility, or importantForAccessibility).',
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

  'meaningless-name': ({ kind, name, role }, { identity }) => ({
    what: `${quote(String(name))} says nothing to a person`,
    measured: {
      file: 'the name of a file',
      identifier: 'the name of a resource or of a variable',
      generated: 'an id made by a program',
      role: `the name of its role, ${role}`,
      state: 'only a state',
      class: 'the name of a class',
      filler: 'text that a template or a mock-up left behind',
    }[String(kind)]!,
    required: 'a name that says what it is or does (WCAG 2.2, 4.1.2 and 2.4.6)',
    why: `It is read out letter by letter, or as noise: ${identity.subject} was never named for people.`,
    remedy: 'Say in a few words what it does, in every language.',
  }),

  'role-in-name': ({ name, role }) => ({
    what: `${quote(String(name))} repeats that it is a ${role}`,
    measured: `the name ends or begins with its role, ${role}`,
    required: 'the role is said by the system alone',
    why: `A screen reader says the role after the name, so this is read as “${name}, ${role}”.`,
    remedy: 'Leave the role out of the name.',
  }),

  'same-name': ({ areRows, count, elements, name }) => ({
    what: `${quote(String(name))} is the name of ${count} different controls`,
    measured: areRows ? `${count} rows with the same name` : textsOf(elements).join(', '),
    required: 'a name of its own for each thing that does something else (WCAG 2.2, 2.4.6)',
    why: 'By ear they cannot be told apart, and voice control has to ask which one is meant.',
    remedy: areRows
      ? 'Add what the row is about: “Remove, morning crossing”. If they all do the same, rule it a false alarm.'
      : 'Name each by what it does. If they do the same, rule it a false alarm.',
  }),

  'label-in-name': ({ missing, name, written }, { basis }) => ({
    what: `What is written on ${quote(String(name))} is ${basis === 'measured' ? '' : 'in part '}not in its name`,
    measured: `written ${textsOf(written).map(quote).join(', ')}; not in the name: ${textsOf(missing).map(quote).join(', ')}`,
    required: 'the name contains what is written (WCAG 2.2, 2.5.3)',
    why: 'Who speaks to the phone says what is written there, and nothing happens.',
    remedy: 'Begin the name with the text as it is written, and add to it what ears need.',
  }),

  'role-conflict': (data) =>
    data.keep
      ? {
          what: `It is ${textsOf(data.roles).join(' and ')} at once`,
          measured: textsOf(data.roles).join(', '),
          required: 'one role that says what it does (WCAG 2.2, 4.1.2)',
          why: CONFLICT_WHY[String(data.why)]!,
          remedy: `Keep ${data.keep}, take the other away.`,
        }
      : {
          what: 'A plain text has a value',
          measured: `the value ${quote(String(data.value))} on ${textsOf(data.roles).join(', ') || 'no role'}`,
          required: 'values on controls that have one (WCAG 2.2, 4.1.2)',
          why: 'A value on a text means nothing: some readers say it, some do not.',
          remedy: 'Put it into the label, or give the element the role that its value belongs to.',
        },

  'unspoken-state': ({ count, role }, { basis, identity, occurrences }) => ({
    what:
      basis === 'measured'
        ? `The ${role} ${identity.subject} does not say whether it is on`
        : `${quote(occurrences[0]!.shown || identity.subject)} perhaps shows by its colour alone that it is the chosen one`,
    measured:
      basis === 'measured'
        ? 'neither checked nor a value'
        : `drawn otherwise than the other ${Number(count) - 1}, and none of them says “selected”`,
    required: 'a state that is told, not only shown (WCAG 2.2, 4.1.2)',
    why: 'By ear all of them are the same.',
    remedy:
      basis === 'measured'
        ? 'Set the state that the platform offers: checked on Android, accessibilityValue on iOS.'
        : 'Mark the chosen one as selected. If the colour means something else, rule it a false alarm.',
  }),

  'field-label': ({ from, name, platform }, { identity }) => ({
    what: `The field ${identity.subject} has no label that stays`,
    measured: from === 'hint' ? `only the placeholder ${quote(String(name))}` : 'only what was typed into it',
    required: 'a label (WCAG 2.2, 3.3.2)',
    why: 'As soon as something is typed, nothing tells what the field is for.',
    remedy: `Put a text beside it and tie both together: ${platform === 'ios' ? 'accessibilityLabel' : 'android:labelFor'}.`,
  }),

  'no-heading': ({ from, stops }) => ({
    what: 'A long screen without a heading',
    measured: `${stops} stops, no heading among them`,
    required: `a heading on screens of ${from} stops and more (WCAG 2.2, 2.4.6)`,
    why: 'Readers jump from heading to heading; here they must walk through everything.',
    remedy: 'Mark the titles of its parts as headings. The limit is limits.longScreenStops.',
  }),

  'overlapping-targets': ({ heightDp, other, unit, widthDp }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} and ${quote(String(other))} lie over one another`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit} in common`,
    required: 'targets that do not overlap',
    why: 'A tap on what they share goes to one of them, and nobody knows to which.',
    remedy: 'Move them apart, or let one touch area end where the other begins.',
  }),

  'crowded-target': ({ clearanceDp, heightDp, unit, widthDp }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} is small, and others are close by`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit}, ${round(clearanceDp)} ${unit} from its centre to the next`,
    required: `24 × 24 ${unit}, or 12 ${unit} of room about the centre (WCAG 2.2, 2.5.8)`,
    why: 'A finger that misses it hits its neighbour.',
    remedy: 'Make it larger, or give it room.',
  }),

  'unreachable-control': ({ platform, shutInBy }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} can be tapped, but not reached by a reader or a switch`,
    measured:
      shutInBy === 'hidden'
        ? 'it is hidden from assistive technology'
        : 'it lies inside an accessible element, which speaks for all that is in it',
    required: 'every action within reach (WCAG 2.2, 2.1.1)',
    why: 'Who cannot see or touch the screen does not learn that it is there.',
    remedy:
      platform === 'ios'
        ? 'Make the container no accessible element, or offer the action as one of its custom actions.'
        : 'Take the container out of hiding, or offer the action on it.',
  }),

  'hidden-gesture': ({ actions, gestures, platform }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} hides something behind a ${textsOf(gestures).join(' and a ')}`,
    measured: `${textsOf(gestures).length} such gestures, ${textsOf(actions).length} named actions`,
    required: 'a named action for each (WCAG 2.2, 2.5.1)',
    why: 'Switch and voice users have no gestures; what only a gesture does is lost to them.',
    remedy: `Offer it as a named action: ${platform === 'ios' ? 'accessibilityCustomActions' : 'addAccessibilityAction, or customActions in Compose semantics'}.`,
  }),

  'voice-name': ({ most, name, words }) => ({
    what:
      Number(words) === 0
        ? `${quote(String(name))} cannot be said`
        : `The name ${quote(String(name))} is too long to say`,
    measured: Number(words) === 0 ? 'no letter and no digit in it' : `${words} words`,
    required: Number(words) === 0 ? 'a name that can be spoken' : `at most ${most} words`,
    why: 'Voice control calls things by their names.',
    remedy: 'Give it a short name, and put what else there is to tell into its value or hint.',
  }),

  'unnamed-in-layout': ({ layout, places, platform, role, view }) => {
    if (role === 'picture') {
      const all = textsOf(places);
      return {
        what: `${all.length === 1 ? 'A picture of a layout is' : `${all.length} pictures of layouts are`} neither described nor marked as decoration`,
        measured: all.slice(0, 4).join('; ') + (all.length > 4 ? `; and ${all.length - 4} more` : ''),
        required: 'a description, or a mark that it is only for show (WCAG 2.2, 1.1.1)',
        why: 'Unless code describes them, screen readers pass over them, whatever they show.',
        remedy:
          'Give those that tell something android:contentDescription, and the others android:importantForAccessibility="no".',
      };
    }
    const { cure, noun } = UNNAMED[platform === 'ios' ? 'ios' : 'android'][String(role)]!;
    return {
      what: `The layout gives ${noun} no name: ${view}`,
      measured: `nothing to read out in ${layout}`,
      required: 'a name (WCAG 2.2, 4.1.2)',
      why: 'Unless code names it, screen readers say what it is and not what it is for.',
      remedy: cure,
    };
  },

  'fixed-text-size': ({ flaw, heightDp, layout, neededDp, size, unit, view }) =>
    flaw === 'unit'
      ? {
          what: `A text of a layout is sized in ${unit}, which does not follow the user's text size: ${view}`,
          measured: `${size} in ${layout}`,
          required: 'sp (WCAG 2.2, 1.4.4)',
          why: 'Who needs larger text does not get it here, unless code sets another size.',
          remedy: 'Give the size in sp.',
        }
      : {
          what: `A layout leaves no room for its text at 200 %: ${view}`,
          measured: `${heightDp} dp high around text of ${size}, in ${layout}`,
          required: `wrap_content, or at least ${neededDp} dp (WCAG 2.2, 1.4.4)`,
          why: 'With larger text the letters are cut off, unless code sets another height.',
          remedy: 'Set the height to wrap_content, and give android:minHeight what it was.',
        },

  ...pairWords,
};

const UNNAMED: Record<'android' | 'ios', Record<string, { noun: string; cure: string }>> = {
  android: {
    field: { noun: 'a field', cure: 'Give it android:hint, or a visible text with android:labelFor.' },
    button: { noun: 'a picture button', cure: 'Give it android:contentDescription: what it does.' },
  },
  ios: {
    field: {
      noun: 'a field',
      cure: 'Give it a placeholder, or an accessibility label in the interface file.',
    },
    button: {
      noun: 'a button',
      cure: 'Give it a title, or an accessibility label in the interface file.',
    },
  },
};

const CONFLICT_WHY: Record<string, string> = {
  'link-leaves': 'A link tells that the app is left for a page; “button” adds nothing to that and hides it.',
  'switch-is-enough':
    'The more precise role says how it is used and what state it has; “button” adds nothing.',
  'field-is-enough': 'A field says that something can be typed; “button” says that it cannot.',
  'text-does-nothing': 'A plain text does nothing, so the role that does something is the true one.',
};
