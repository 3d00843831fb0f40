/** A name that says nothing to a person: of a file, a resource, a class; only the role or a state; what a template left in. */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { isClassName, isFiller, isPerhapsFiller, isStateWord, roleWords } from '../name-words.ts';
import { spokenForm } from '../spoken-form.ts';
import { departed, passed, reachedStops } from '../stops.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  kind: z.enum(['file', 'identifier', 'generated', 'role', 'state', 'class', 'filler']),
  role: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const meaninglessName = defineCheck({
  id: 'meaningless-name',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 4.1.2 Name, Role, Value and 2.4.6 Headings and Labels',
  basis: 'either',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ kind, name, role }, { identity }) => ({
    what: `${quote(name)} says nothing to a person`,
    measured: {
      file: 'the name of a file',
      identifier: 'the name of a resource or of a variable',
      generated: 'an id made by a program',
      role: `the name of its role, ${role}`,
      state: 'only a state',
      class: 'the name of a class',
      filler: 'text that a template or a mock-up left behind',
    }[kind]!,
    required: 'a name that says what it is or does (WCAG 2.2, 4.1.2 and 2.4.6)',
    why: `It is read out letter by letter, or as noise: ${identity.subject} was never named for people.`,
    remedy: 'Say in a few words what it does, in every language.',
  }),

  *run(facts) {
    for (const stop of reachedStops(facts))
      if (stop.nameFrom === 'label' || stop.nameFrom === 'text') yield judgeName(stop);
  },

  doc: {
    looksAt: 'The name of every stop',
    against:
      'Something to a person: no file, resource, variable, generated id or class, not only a role or a state (in the languages of `name-words.ts`), nothing that a template left behind. Estimated for words that may be meant, such as “Title”',
    matters:
      'A screen reader reads “ic underscore close” letter by letter. People hear noise where a word should be.',
    measured:
      'The name against the shapes of file names, resource names, ids made by programs, class names, roles, states, and texts that templates leave behind.',
    errs: 'A name that may be meant, such as “Title”, and drawn texts that look like file names are estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<ImageButton android:contentDescription="@string/close" android:src="@drawable/ic_close" />',
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'closeButton.accessibilityLabel = NSLocalizedString("close", comment: "")',
      },
    ],
  },
});

function judgeName(stop: StopFact): Assertion<Data> {
  const found = kindOfNoise(stop);
  if (!found) return passed(stop);
  return departed(stop, {
    basis: found.isSure ? 'measured' : 'estimated',
    severity: stop.actionable ? 2 : 1,
    digest: stop.name,
    cause: found.kind,
    data: { name: stop.name, kind: found.kind, role: stop.roles[0] ?? '' },
  });
}

const EXTENSIONS = '(png|jpe?g|webp|gif|svg|pdf|heic|avif|bmp|tiff?|json|lottie|riv|mp4|mov)';
const FILES: readonly RegExp[] = [
  new RegExp(`^[^\\s/]+\\.${EXTENSIONS}$`, 'i'),
  // with blanks in it, as cameras and downloads name them
  new RegExp(`^[\\w() -]+( ?\\(\\d+\\)|[_-]\\d+|@[23]x)\\.${EXTENSIONS}$`, 'i'),
  new RegExp(`^([\\w.-]*/)+[\\w@.-]+\\.(${EXTENSIONS}|xml)$`, 'i'),
  /^(IMG|DSC|DCIM|PXL|MVIMG|VID|Screenshot|Screen Shot)[_ -]?\d[\w .-]*$/i,
  /^(https?|file|content|asset|assets|res|android\.resource|data):\/?\/?\S+$/i,
];
const REFERENCES: readonly RegExp[] = [
  /^R\.(drawable|id|string|mipmap|layout|raw|color)\.\w+$/,
  /^@(\+?id|drawable|string|mipmap|android:\w+|layout|raw)\/\w+$/,
  /^[a-z][\w.]*:(id|drawable|string)\/\w+$/,
  // words joined as identifiers are
  /^[a-z0-9]+(_[a-z0-9]+)+$/i,
  /^(ic|img|btn|icon|image|button|lbl|txt|iv|tv|bg|logo|fab|nav)[-_.]\w[\w.-]*$/i,
  /^[\w]+([-.][\w]+){2,}$/,
];
const GENERATED: readonly RegExp[] = [
  /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i,
  /^0x[0-9a-f]+$/i,
  /^(?=.*\d)(?=.*[a-f])[0-9a-f]{10,}$/i,
  /^(view|node|element|button|image|icon|item|cell|text|label|btn|img)[-_#:]?\d+$/i,
];
// A word for a thing on a screen in front or behind, as in btnSave and settingsIcon; names like iPhone have none.
const CAMEL =
  /^((btn|img|lbl|txt|ic|iv|tv|icon|button|image|label|text|view|fab|nav|tab)[A-Z]\w*|[a-z]{2,}([A-Z][a-z0-9]+)*(Button|Btn|Icon|Image|Img|View|Label|Text|Title|Tab|Field|Cell|Row|Item))\d*$/;
const ANY_CAMEL = /^[a-z]{3,}([A-Z][a-z0-9]+)+$/;

type Kind = 'file' | 'identifier' | 'generated' | 'role' | 'state' | 'class' | 'filler';

/** What makes a name mean nothing; undefined where it may mean something. */
export function kindOfNoise({
  element,
  name,
  nameFrom,
  roles,
}: StopFact): { kind: Kind; isSure: boolean } | undefined {
  const sure = (kind: Kind) => ({ kind, isSure: true });
  // what is drawn may be about a file or a number
  const isDrawn = nameFrom === 'text';
  const words = spokenForm(name);
  if (roles.some((role) => roleWords(role).includes(words))) return sure('role');
  if (!isDrawn && isStateWord(words)) return sure('state');
  if (isClassName(name)) return { kind: 'class', isSure: !isDrawn };
  if (isFiller(name)) return { kind: 'filler', isSure: true };
  if (FILES.some((file) => file.test(name))) return { kind: 'file', isSure: !isDrawn };
  if (GENERATED.some((id) => id.test(name))) return { kind: 'generated', isSure: !isDrawn };
  if (REFERENCES.some((id) => id.test(name)) || (name === element.key && /[_.]/.test(name)))
    return { kind: 'identifier', isSure: !isDrawn || name.includes('_') };
  if (CAMEL.test(name)) return { kind: 'identifier', isSure: !isDrawn };
  if (isDrawn) return undefined;
  if (ANY_CAMEL.test(name)) return { kind: 'identifier', isSure: false };
  return isPerhapsFiller(name) ? { kind: 'filler', isSure: false } : undefined;
}
