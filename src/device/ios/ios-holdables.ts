/** What can be set on an iOS device: by its UI test, or for a run of the app by the arguments that it is started with. */
import { isLocaleTag } from '../../core/model/locale.ts';
import { contentSizeNear } from '../../core/platform/apple/content-size.ts';
import type { Holdable } from '../device.ts';
import { numberBetween, oneOf } from '../holdable.ts';

export const iosHoldables: readonly Holdable[] = [
  {
    name: 'text-scale',
    value: 'factor',
    about: 'text size: the one of the twelve whose body text comes nearest',
    settings: (value) => [['launch text-size', contentSizeNear(Number(numberBetween(value, 0.5, 4, '')))]],
    isOfApp: true,
  },
  {
    name: 'theme',
    value: 'theme',
    about: 'dark or light',
    settings: (value) => [['appearance', oneOf(value, 'dark', 'light')]],
  },
  {
    name: 'locale',
    value: 'tags',
    about: 'languages of the app, the first that it has counts: ar or de,en',
    isOfApp: true,
    settings: (value) => {
      const wrong = value.split(',').find((tag) => !isLocaleTag(tag));
      if (wrong !== undefined) throw new RangeError(`"${wrong}" is no language tag; write it as de or pt-BR`);
      return [['launch languages', value]];
    },
  },
  {
    name: 'rotation',
    value: 'way',
    about: 'upright or sideways',
    settings: (value) => [
      ['orientation', oneOf(value, 'upright', 'sideways') === 'sideways' ? 'landscape' : 'portrait'],
    ],
  },
  {
    name: 'network',
    value: 'how',
    about: 'off or on, by the commands that fenlok.yaml names for it',
    settings: (value, { device }) => {
      const how = oneOf(value, 'off', 'on');
      const why = device.whyNot('network');
      if (why) throw new RangeError(why);
      return [['network', how]];
    },
  },
  {
    name: 'doubled',
    about: 'each text of the app twice as long',
    isOfApp: true,
    settings: () => [['launch doubled', 'YES']],
  },
  {
    name: 'right-to-left',
    about: 'the app from right to left, in its own language',
    isOfApp: true,
    settings: () => [['launch right-to-left', 'YES']],
  },
];

/** Arguments of a run, by the settings that stand for them (Apple, *Testing localizations when running your app*). */
export function launchArguments(settings: ReadonlyMap<string, string>): string[] {
  const languages = settings.get('launch languages')?.split(',');
  const size = settings.get('launch text-size');
  return [
    ...(languages
      ? [
          '-AppleLanguages',
          `(${languages.map((tag) => `"${tag}"`).join(', ')})`,
          '-AppleLocale',
          regionOf(languages[0]!),
        ]
      : []),
    ...(size ? ['-UIPreferredContentSizeCategoryName', `UICTContentSizeCategory${size}`] : []),
    ...(settings.get('launch doubled') ? ['-NSDoubleLocalizedStrings', 'YES'] : []),
    ...(settings.get('launch right-to-left')
      ? ['-NSForceRightToLeftWritingDirection', 'YES', '-AppleTextDirection', 'YES']
      : []),
  ];
}

/** `de` is `de_DE`: a language and the region that most of its users live in. */
function regionOf(tag: string): string {
  const { language, region, script } = new Intl.Locale(tag).maximize();
  const hasScript = new Intl.Locale(tag).script !== undefined;
  return [language, hasScript ? script : undefined, region].filter(Boolean).join('_');
}
