/** The words of every finding, apart from the logic: reports, JSON and pages share them. */
import type { Finding, FindingData, Words } from '../model/finding.ts';
import { sayRatio } from './contrast/colour.ts';

type Say = (data: FindingData, finding: Pick<Finding, 'basis' | 'identity' | 'occurrences'>) => Words;

export const messages: Record<string, Say> = {
  'text-contrast': (data, { basis, occurrences }) => {
    const { shown } = occurrences[0]!;
    if (data.unseen) return unseenText(data, shown);
    const interval =
      Number(data.highest) - Number(data.lowest) > 0.15
        ? ` (between ${ratio(data.lowest)} and ${ratio(data.highest)})`
        : '';
    const glyphs = `The glyphs measure about ${round(data.smallestDp)} to ${round(data.largestDp)} ${data.countedIn === 'pt' ? 'CSS px' : 'dp'}`;
    const why = {
      true: `${glyphs}, so this is large text, and even that needs more.`,
      false: `${glyphs}, so this is not large text.`,
      unknown:
        basis === 'measured'
          ? `${glyphs}. Even if that counts as large text, it would need ${data.requiredIfLarge} : 1.`
          : `${glyphs}. That is large text only if it is bold or at the upper end, and the picture does not settle it; a person must.`,
    }[String(data.large)];
    return {
      what: `“${cut(shown)}” is ${basis === 'measured' ? '' : 'perhaps '}too faint on its background in the ${data.theme} theme`,
      measured: `${ratio(data.ratio)} : 1${interval}, text ${data.foreground} on ${data.background}`,
      required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
      why: why!,
      remedy: suggestionWords(data),
    };
  },

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

  'nameless-build': ({ lacks }) => ({
    what: 'The package does not name its build',
    measured: `no ${(lacks as string[]).join(', no ')}`,
    required: 'a version, a build number and code',
    why: 'Evidence is bound to the build that it was seen on; without these, two builds cannot be told apart.',
    remedy: 'Set android:versionName and android:versionCode, and give the package as it ships.',
  }),

  'missing-translation': ({ key, locale, measured, source, textCount, wholeLocale }) =>
    wholeLocale
      ? {
          what: `No text at all in ${locale}`,
          measured: `0 of ${textCount} texts`,
          required: `${locale} is in the intent file's locales`,
          why: 'The package holds no resources for this language: left out of the build, or stripped by a resource filter.',
          remedy: `Add values-${locale}, or take ${locale} out of fenlok.yaml.`,
        }
      : {
          what: `${key} is not translated into ${locale}`,
          measured: `no value; the user reads ${quote(String(source))}`,
          required: `a text of its own in ${locale}`,
          why: measured
            ? 'Other languages have this text, so it is meant to be translated.'
            : 'No language has this text: it may be the same everywhere on purpose.',
          remedy: measured
            ? `Translate ${key}, or remove it if it is no longer used.`
            : `Translate ${key}, or list it under "untranslated" in fenlok.yaml.`,
        },

  'placeholder-mismatch': ({ added, expected, form, found, key, locale, lost, retyped, source, text }) => ({
    what: `${key}${form ? ` (${form})` : ''} in ${locale} takes other arguments than its source`,
    measured: `${sayPlaceholders(found)} in ${quote(String(text))}`,
    required: `${sayPlaceholders(expected)} as in ${quote(String(source))}`,
    why: [
      list(lost) && `${sayPlaceholders(lost)} is lost, so the user never sees that value.`,
      list(added) && `${sayPlaceholders(added)} is given no value, so formatting throws.`,
      list(retyped) &&
        `${sayPlaceholders(retyped)} has another type than in the source, so formatting throws or writes the number in another form.`,
    ]
      .filter(Boolean)
      .join(' '),
    remedy: `Put ${sayPlaceholders(expected)} into the ${locale} text, where its grammar wants them.`,
  }),

  'closed-link-filter': ({ component, exported, lacks, link, meantForBrowsers, more, position }) => {
    const parts = (lacks as string[]).map((lack) => LACKS[lack]!);
    return {
      what: `A browser cannot open ${link}${Number(more) > 0 ? ` and ${more} more` : ''}`,
      measured: parts.map((part) => part.measured(String(exported))).join(', '),
      required: 'action VIEW, categories DEFAULT and BROWSABLE, on an enabled, exported component',
      why: `Filter ${position} of ${component} ${meantForBrowsers ? 'is meant for browsers' : 'may be meant for browsers'}, but ${parts.map((part) => part.why).join(', and ')}.`,
      remedy: parts.map((part) => part.remedy).join(' '),
    };
  },
};

const LACKS: Record<string, { measured: (exported: string) => string; why: string; remedy: string }> = {
  browsable: {
    measured: () => 'no category BROWSABLE',
    why: 'without BROWSABLE browsers and mail apps are not allowed to use it',
    remedy: 'Add <category android:name="android.intent.category.BROWSABLE" /> to the filter.',
  },
  default: {
    measured: () => 'no category DEFAULT',
    why: 'without DEFAULT no implicit intent is matched to it',
    remedy: 'Add <category android:name="android.intent.category.DEFAULT" /> to the filter.',
  },
  exported: {
    measured: (exported) =>
      exported === 'unset' ? 'android:exported is not set' : 'android:exported="false"',
    why: 'other apps may not start a component that is not exported',
    remedy:
      'Set android:exported="true" on the component, and check what it does with arguments from outside.',
  },
  enabled: {
    measured: () => 'android:enabled="false"',
    why: 'the component is switched off',
    remedy: 'Enable the component, or remove the filter.',
  },
};

const UNSEEN: Record<string, string> = {
  'no-ink':
    'The tree holds this text, but its place in the picture is of one colour: it is invisible, or drawn elsewhere.',
  'too-small': 'Its box on the screen is only a few pixels.',
  covered: 'Something else is drawn over most of it.',
  'busy-background': 'What lies behind it is not one colour (a photo or a gradient).',
};

function unseenText({ cutBy, theme, unseen }: FindingData, shown: string): Words {
  return {
    what: `The contrast of ${quote(shown)} could not be measured in the ${theme} theme`,
    measured: 'nothing',
    required: '4.5 : 1, or 3 : 1 for large text (WCAG 2.2, 1.4.3)',
    why: `${UNSEEN[String(unseen)]}${cutBy ? ' The edge cuts it off.' : ''}`,
    remedy: cutBy
      ? 'Capture the screen scrolled so that all of it shows.'
      : 'Look at the picture, then rule on this finding.',
  };
}

function suggestionWords(data: FindingData): string {
  const options = [
    data.suggestedText && `text ${data.suggestedText} (${ratio(data.suggestedTextRatio)} : 1)`,
    data.suggestedBackground &&
      `background ${data.suggestedBackground} (${ratio(data.suggestedBackgroundRatio)} : 1)`,
  ].filter(Boolean);
  return options.length > 0
    ? `Nearest colours that pass: ${options.join(', or ')}.`
    : 'No lightness of either colour reaches the ratio: choose another pair.';
}

const cut = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
const quote = (text: string): string => `“${cut(text)}”`;
const lastPart = (name: string): string => name.slice(name.lastIndexOf('.') + 1);
const ratio = (value: FindingData[string] | undefined): string => sayRatio(Number(value));
const round = (value: FindingData[string] | undefined): string => String(Math.round(Number(value) * 10) / 10);
const list = (value: FindingData[string] | undefined): boolean => Array.isArray(value) && value.length > 0;

/** `1:s` as the source writes it: `%1$s`. */
function sayPlaceholders(value: FindingData[string] | undefined): string {
  const placeholders = Array.isArray(value) ? value : [];
  return placeholders.length > 0
    ? placeholders.map((placeholder) => `%${placeholder.replace(':', '$')}`).join(', ')
    : 'no placeholder';
}
