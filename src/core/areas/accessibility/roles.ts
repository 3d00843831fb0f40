/** What an element is said to be: by its traits where the source carries them, else by its class. */
import { isField, isPicture, type Trait, type UiNode } from '../../model/ui-tree.ts';

export type Role = Trait;

// Class names of the platforms' own toolkits, by their last part. Order matters: a Switch is a CompoundButton too.
const BY_CLASS: readonly (readonly [RegExp, Role])[] = [
  [/(^|\.)(Switch\w*|ToggleButton|UISwitch)$/, 'switch'],
  [/(^|\.)(CheckBox|CheckedTextView)$/, 'checkbox'],
  [/(^|\.)RadioButton$/, 'radio'],
  [/(^|\.)(SeekBar|RatingBar|UISlider|Slider)$/, 'slider'],
  [/(^|\.)(ProgressBar|UIProgressView)$/, 'progress'],
  [/(^|\.)Spinner$/, 'menu'],
  [/(TabView|\.Tab|UITabBarButton)$/, 'tab'],
  [/(^|\.)(\w*Button)$/, 'button'],
];

// The one that does something comes first.
const STRENGTH: readonly Role[] = [
  'switch',
  'checkbox',
  'radio',
  'slider',
  'adjustable',
  'tab',
  'menu',
  'searchField',
  'field',
  'link',
  'button',
  'progress',
  'image',
  'heading',
];

export function rolesOf(node: UiNode): Role[] {
  if (node.traits && node.traits.length > 0)
    return [...node.traits].sort((a, b) => strengthOf(a) - strengthOf(b));
  const found = BY_CLASS.find(([pattern]) => pattern.test(node.className))?.[1];
  if (found) return [found];
  if (isField(node)) return ['field'];
  if (node.checkable) return ['checkbox'];
  return isPicture(node) && !node.clickable ? ['image'] : [];
}

const strengthOf = (role: Role): number => {
  const at = STRENGTH.indexOf(role);
  return at < 0 ? STRENGTH.length : at;
};

interface Conflict {
  roles: [Role, Role];
  keep: Role;
  why: 'link-leaves' | 'switch-is-enough' | 'field-is-enough' | 'text-does-nothing';
}

/** Pairs of roles that contradict one another, or of which one adds nothing; the one to keep, and why. */
const CONFLICTS: readonly Conflict[] = [
  // a link tells that the app is left; "button" adds nothing to that
  { roles: ['link', 'button'], keep: 'link', why: 'link-leaves' },
  { roles: ['switch', 'button'], keep: 'switch', why: 'switch-is-enough' },
  { roles: ['checkbox', 'button'], keep: 'checkbox', why: 'switch-is-enough' },
  { roles: ['radio', 'button'], keep: 'radio', why: 'switch-is-enough' },
  { roles: ['tab', 'button'], keep: 'tab', why: 'switch-is-enough' },
  { roles: ['adjustable', 'button'], keep: 'adjustable', why: 'switch-is-enough' },
  { roles: ['slider', 'button'], keep: 'slider', why: 'switch-is-enough' },
  { roles: ['switch', 'checkbox'], keep: 'switch', why: 'switch-is-enough' },
  { roles: ['field', 'button'], keep: 'field', why: 'field-is-enough' },
  { roles: ['searchField', 'button'], keep: 'searchField', why: 'field-is-enough' },
  { roles: ['text', 'button'], keep: 'button', why: 'text-does-nothing' },
  { roles: ['text', 'link'], keep: 'link', why: 'text-does-nothing' },
  { roles: ['text', 'adjustable'], keep: 'adjustable', why: 'text-does-nothing' },
  { roles: ['text', 'switch'], keep: 'switch', why: 'text-does-nothing' },
];

export const conflictOf = (roles: readonly Role[]): Conflict | undefined =>
  CONFLICTS.find(({ roles: [a, b] }) => roles.includes(a) && roles.includes(b));
