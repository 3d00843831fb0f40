/**
 * What a walk by a hardware keyboard tells: WCAG 2.2, 2.1.1 Keyboard, 2.1.2 No Keyboard Trap, 2.4.3 Focus Order, 2.4.7 Focus
 * Visible.
 */
import { area, type Box, intersect } from '../../model/geometry.ts';
import type { Stop } from './walk-stops.ts';

export interface FocusStep {
  key: string;
  /** What it says; its class where it says nothing. */
  name: string;
  boundsPx: Box;
  /** Whether the picture shows that it is in focus; undefined where that could not be told. */
  isShown: boolean | undefined;
  /** The key that brought the focus here. */
  by: string;
}

/**
 * How it ended: back at the first; no key moved it any more; back at another one, so that the rest is shut out; out of the app's
 * window; nothing ever took the focus; after as many presses as were allowed.
 */
export type WalkEnd = 'came-round' | 'stuck' | 'looped' | 'left' | 'no-focus' | 'given-up';

export interface KeyboardWalk {
  steps: readonly FocusStep[];
  ended: WalkEnd;
  /** Controls that were on the screen at any time; of those with one key and one name, as many as were there at once. */
  controls: readonly Pick<Stop, 'key' | 'name' | 'boundsPx' | 'node'>[];
}

interface WalkFinding {
  kind: 'trap' | 'unreached' | 'unseen-focus' | 'order';
  basis: 'measured' | 'estimated';
  key: string;
  name: string;
  boundsPx: Box;
  standard: string;
  why: string;
  remedy: string;
}

export interface KeyboardSeen {
  reached: number;
  of: number;
  /** The worst first. */
  findings: WalkFinding[];
  /** Steps whose focus could not be told apart from what changes by itself. */
  untold: number;
}

export function judgeKeyboardWalk({ controls, ended, steps }: KeyboardWalk): KeyboardSeen {
  const nth = new Map<string, number>();
  const unreached = controls.filter((control) => {
    const name = `${control.key}|${control.name}`;
    const n = (nth.get(name) ?? 0) + 1;
    nth.set(name, n);
    const alike = steps.filter((step) => step.key === control.key && step.name === control.name);
    return alike.length < n && !steps.some((step) => isSameBox(step.boundsPx, control.boundsPx));
  });
  const isWhole = ended !== 'stuck' && ended !== 'given-up';
  return {
    reached: controls.length - unreached.length,
    of: controls.length,
    findings: [
      ...trapOf(steps, ended, unreached.length),
      ...(isWhole ? unreached.map(unreachedFinding) : []),
      ...steps.filter(({ isShown }) => isShown === false).map(unseenFinding),
      ...backwardSteps(steps),
    ],
    untold: steps.filter(({ isShown }) => isShown === undefined).length,
  };
}

/** What a view and the one inside it share is reached with either. */
const isSameBox = (a: Box, b: Box): boolean => area(a) === area(b) && area(intersect(a, b)) === area(a);

function trapOf(steps: readonly FocusStep[], ended: WalkEnd, left: number): WalkFinding[] {
  const last = steps.at(-1);
  if (!last || (ended !== 'stuck' && !(ended === 'looped' && left > 0))) return [];
  const isStuck = ended === 'stuck';
  return [
    {
      ...placeOf(last),
      kind: 'trap',
      basis: isStuck ? 'measured' : 'estimated',
      standard: 'WCAG 2.2, 2.1.2 No Keyboard Trap',
      why: isStuck
        ? 'Neither Tab nor an arrow key moves the focus away from here: whoever has only a keyboard has to leave the app.'
        : 'From here Tab goes back into the same few controls, and never to the rest.',
      remedy:
        'Let the view pass on the keys that it does not use (return false from onKeyDown), and set no nextFocusForward that leads back.',
    },
  ];
}

const unreachedFinding = (control: KeyboardWalk['controls'][number]): WalkFinding => ({
  ...placeOf(control),
  kind: 'unreached',
  // what says that it takes no focus takes it by no key
  basis: control.node.focusable ? 'estimated' : 'measured',
  standard: 'WCAG 2.2, 2.1.1 Keyboard',
  why: control.node.focusable
    ? 'Tab never came to it; an arrow key may.'
    : 'It can be touched, and takes no focus: no key reaches it.',
  remedy: 'Make it focusable (android:focusable="true", Modifier.focusable(), accessible).',
});

const unseenFinding = (step: FocusStep): WalkFinding => ({
  ...placeOf(step),
  kind: 'unseen-focus',
  basis: 'measured',
  standard: 'WCAG 2.2, 2.4.7 Focus Visible',
  why: 'The picture is the same with the focus on it and elsewhere: nobody sees where the keyboard is.',
  remedy:
    'Give it a background or an outline for the state “focused”, or leave android:defaultFocusHighlightEnabled on.',
});

/** The focus goes up the screen before it has come round. */
function backwardSteps(steps: readonly FocusStep[]): WalkFinding[] {
  return steps.flatMap((step, i): WalkFinding[] => {
    const before = steps[i - 1];
    if (!before || step.by !== 'TAB' || step.boundsPx.y + step.boundsPx.height > before.boundsPx.y) return [];
    return [
      {
        ...placeOf(step),
        kind: 'order',
        basis: 'estimated',
        standard: 'WCAG 2.2, 2.4.3 Focus Order',
        why: `The focus comes here from ${before.name}, which lies below it.`,
        remedy: 'Bring the views into reading order, or name the next one (android:nextFocusForward).',
      },
    ];
  });
}

const placeOf = ({ boundsPx, key, name }: Pick<FocusStep, 'boundsPx' | 'key' | 'name'>) => ({
  boundsPx,
  key,
  name,
});
