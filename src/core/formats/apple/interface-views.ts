/**
 * Views of compiled interface files (storyboards and nibs): their texts, whether a table of texts can change them, and their
 * names for readers. The names of classes and values are those that UIKit writes; code may set anything of it later.
 */
import type { LayoutView } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import type { Zip } from '../zip.ts';
import { CODE_BUNDLE } from './bundle.ts';
import { type NibObject, type NibValue, readNibArchive } from './nib-archive.ts';

const MAX_NIB_BYTES = 16 * 2 ** 20;
const MAX_FILES = 5000;
const MAX_VIEWS = 20_000;

const ROLES: Readonly<Record<string, LayoutView['role']>> = {
  UILabel: 'text',
  UITextView: 'text',
  UITextField: 'field',
  UISearchBar: 'field',
  UIImageView: 'picture',
  UIButton: 'button',
  UIBarButtonItem: 'button',
  UITabBarItem: 'button',
  UINavigationItem: 'text',
};
// What the builder puts into a new view, until somebody writes over it.
const FRESH = /^(Label|Button|Title|Item|Text)$/;

/** @returns those of the app itself; frameworks keep theirs. Files that cannot be read are told among `unread` */
export async function findInterfaceViews(zip: Zip, unread: Problem[]): Promise<LayoutView[]> {
  const views: LayoutView[] = [];
  let files = 0;
  for (const name of zip.entries.keys()) {
    const [, app = '', path = ''] = /^(Payload\/[^/]+\.app\/)(.*)$/.exec(name) ?? [];
    if (!isInterface(path, zip, app) || views.length >= MAX_VIEWS) continue;
    files += 1;
    if (files > MAX_FILES) break;
    const found = await tryRead(unread, async () =>
      viewsOf(readNibArchive(await zip.read(name, MAX_NIB_BYTES), name), path),
    );
    views.push(...(found ?? []));
  }
  return views;
}

// A file of its own for one language.
const ONE_LANGUAGE = /(^|\/)(?!Base\.)[^/]+\.lproj\//;

/** Where one file stands in several forms for older and newer systems, the one for all of them. */
function isInterface(path: string, zip: Zip, app: string): boolean {
  if (!/\.nib(\/[^/]+\.nib)?$/.test(path) || CODE_BUNDLE.test(path) || ONE_LANGUAGE.test(path)) return false;
  const folder = /^(.*\.nib)\/([^/]+)\.nib$/.exec(path);
  return !folder || folder[2] === 'runtime' || !zip.entries.has(`${app}${folder[1]}/runtime.nib`);
}

export function viewsOf(objects: readonly NibObject[], file: string): LayoutView[] {
  const look = new NibLook(objects);
  const layout = file.replace(/\/runtime\.nib$/, '');
  const counts = new Map<string, number>();
  return objects.flatMap((object, at) => {
    const className = look.classOf(object);
    const role = ROLES[className];
    if (!role) return [];
    counts.set(className, (counts.get(className) ?? 0) + 1);
    const view = look.identifierOf(at) ?? `${className} ${counts.get(className)}`;
    return [{ layout, view, ...look.describe(object, at, role) }];
  });
}

interface NibText {
  text: string;
  /** A table of texts may hold another one for it. */
  isInTable: boolean;
}

class NibLook {
  private readonly objects: readonly NibObject[];
  /** What readers are told of an object, by its number. */
  private readonly labels = new Map<number, NibText>();
  private readonly identifiers = new Map<number, string>();
  private readonly notElements = new Set<number>();

  constructor(objects: readonly NibObject[]) {
    this.objects = objects;
    for (const object of objects) {
      if (object.className !== 'UIRuntimeAccessibilityConfiguration') continue;
      const target = valueAt(object, 'UIAccessibileObject');
      if (!isReference(target)) continue;
      const identifier = this.text(valueAt(object, 'UIAccessibilityIdentifier'))?.text;
      if (identifier) this.identifiers.set(target.object, identifier);
      const label = this.text(valueAt(object, 'UIAccessibilityLabel'));
      if (label) this.labels.set(target.object, label);
      const isElement = this.at(valueAt(object, 'UIIsAccessibilityElement'));
      if (isElement && valueAt(isElement, 'NS.intval') === 0) this.notElements.add(target.object);
    }
  }

  /** Classes of the app's own stand in for those of the system that they come from. */
  classOf(object: NibObject): string {
    if (object.className !== 'UIClassSwapper') return object.className;
    return this.text(valueAt(object, 'UIOriginalClassName'))?.text ?? '';
  }

  /** What tests and code call it by, where nothing else in the file is called so. */
  identifierOf(at: number): string | undefined {
    const identifier = this.identifiers.get(at);
    const isShared = [...this.identifiers].some(([other, of]) => other !== at && of === identifier);
    return isShared ? undefined : identifier;
  }

  describe(object: NibObject, at: number, role: LayoutView['role']): Omit<LayoutView, 'layout' | 'view'> {
    const text = this.shownOn(object);
    const hint = this.text(valueAt(object, 'UIPlaceholder'));
    const description = this.labels.get(at);
    const parts = { text, hint, description };
    const named = (Object.keys(parts) as (keyof typeof parts)[]).filter((part) => parts[part]?.text.trim());
    return {
      role,
      fixedTexts: named.flatMap((part) => {
        const { isInTable, text: said } = parts[part]!;
        return isInTable || FRESH.test(said) ? [] : [{ part, text: said }];
      }),
      isNamed:
        role === 'text' || named.length > 0 || this.notElements.has(at) || this.isNamedBySystem(object),
      isActionable: role === 'button' || role === 'field',
      sideAttributes: [],
    };
  }

  /** Its text, or the title of its plain state. */
  private shownOn(object: NibObject): NibText | undefined {
    for (const key of ['UIText', 'UITitle']) {
      const found = this.text(valueAt(object, key));
      if (found) return found;
    }
    const states = this.at(valueAt(object, 'UIButtonStatefulContent'));
    for (const [, value] of states?.values ?? []) {
      const content = this.at(value);
      const title = content && this.text(valueAt(content, 'UITitle'));
      if (title) return title;
    }
    const configuration = this.at(valueAt(object, 'UIButtonConfiguration'));
    return configuration && this.text(valueAt(configuration, 'title'));
  }

  /** Buttons of the system's own kinds (`Done`, `Cancel`, symbols) bring their names in every language. */
  private isNamedBySystem(object: NibObject): boolean {
    return valueAt(object, 'UIIsSystemItem') === true;
  }

  private at(value: NibValue | undefined): NibObject | undefined {
    return isReference(value) ? this.objects[value.object] : undefined;
  }

  private text(value: NibValue | undefined): NibText | undefined {
    const object = this.at(value);
    const bytes = object && valueAt(object, 'NS.bytes');
    if (!object || !(bytes instanceof Uint8Array) || !/String$/.test(object.className)) return undefined;
    return {
      text: new TextDecoder().decode(bytes),
      isInTable: object.className === 'NSLocalizableString',
    };
  }
}

const valueAt = (object: NibObject, key: string): NibValue | undefined =>
  object.values.find(([of]) => of === key)?.[1];

const isReference = (value: NibValue | undefined): value is { object: number } =>
  typeof value === 'object' && value !== null && 'object' in value;
