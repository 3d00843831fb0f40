/** What can be held on an Android phone, and the settings that stand for it (field names of AOSP's `Settings`). */
import { isLocaleTag } from '../../core/model/locale.ts';
import { isOverNetwork } from '../bridge/is-over-network.ts';
import type { Held, Holdable } from '../device.ts';
import { numberBetween, oneOf } from '../holdable.ts';

const flag =
  (setting: string, value = '1') =>
  (): Held[] => [[setting, value]];

// Values of `accessibility_display_daltonizer` (AOSP, AccessibilityManager): what the correction is for.
const CORRECTIONS: Record<string, string> = {
  grey: '0',
  protanomaly: '11',
  deuteranomaly: '12',
  tritanomaly: '13',
};

export const androidHoldables: readonly Holdable[] = [
  {
    name: 'text-scale',
    value: 'factor',
    about: 'text size: 2 is twice as large',
    settings: (value) => [['system/font_scale', numberBetween(value, 0.5, 4, '')]],
  },
  {
    name: 'theme',
    value: 'theme',
    about: 'dark or light',
    settings: (value) => [['night', oneOf(value, 'dark', 'light') === 'dark' ? 'yes' : 'no']],
  },
  {
    name: 'locale',
    value: 'tags',
    about: 'languages of the app in front, the first that it has counts: ar or de,en (Android 13)',
    sinceSdk: 33,
    isOfApp: true,
    settings: (value, { appId }) => {
      const wrong = value.split(',').find((tag) => !isLocaleTag(tag));
      if (wrong !== undefined) throw new RangeError(`"${wrong}" is no language tag; write it as de or pt-BR`);
      return [[`locale ${appId}`, value]];
    },
  },
  {
    name: 'animations',
    value: 'how',
    about: 'off, or on',
    settings: (value) => {
      const scale = oneOf(value, 'off', 'on') === 'off' ? '0' : '1';
      return ['animator_duration_scale', 'window_animation_scale', 'transition_animation_scale'].map(
        (key): Held => [`global/${key}`, scale],
      );
    },
  },
  {
    name: 'discard',
    about: 'every activity is destroyed as soon as it is left',
    settings: flag('global/always_finish_activities'),
    proof:
      'some phones read it only at start: it is proven once the log shows that an activity was destroyed',
  },
  { name: 'bold', about: 'bold text', settings: flag('secure/font_weight_adjustment', '300'), sinceSdk: 31 },
  {
    name: 'contrast-text',
    about: 'text outlined for contrast',
    settings: flag('secure/high_text_contrast_enabled'),
  },
  {
    name: 'inversion',
    about: 'colours inverted',
    settings: flag('secure/accessibility_display_inversion_enabled'),
  },
  {
    name: 'correction',
    value: 'kind',
    about: `colours corrected: ${Object.keys(CORRECTIONS).join(', ')}`,
    settings: (value) => [
      ['secure/accessibility_display_daltonizer', CORRECTIONS[oneOf(value, ...Object.keys(CORRECTIONS))]!],
      ['secure/accessibility_display_daltonizer_enabled', '1'],
    ],
  },
  {
    name: 'density',
    value: 'dpi',
    about: 'of the display: more makes everything larger',
    settings: (value) => [['density', numberBetween(value, 72, 1280, ' dpi')]],
  },
  {
    name: 'size',
    value: 'WxH',
    about: 'of the display in pixels: 720x1280',
    settings: (value) => {
      if (!/^\d{3,4}x\d{3,4}$/.test(value)) throw new RangeError('say it in pixels: 720x1280');
      return [['size', value]];
    },
  },
  {
    name: 'rotation',
    value: 'way',
    about: 'upright, sideways, or upside-down',
    settings: (value) => [
      ['system/accelerometer_rotation', '0'],
      [
        'system/user_rotation',
        { upright: '0', sideways: '1', 'upside-down': '2' }[
          oneOf(value, 'upright', 'sideways', 'upside-down')
        ]!,
      ],
    ],
  },
  {
    name: 'network',
    value: 'how',
    about: 'off: neither Wi-Fi nor mobile data',
    settings: (value, { device }) => {
      const how = oneOf(value, 'off', 'on') === 'off' ? 'disable' : 'enable';
      if (how === 'disable' && isOverNetwork(device))
        throw new RangeError('the phone is attached over the network, which this would cut');
      return [
        ['wifi', how],
        ['data', how],
      ];
    },
  },
  {
    name: 'battery',
    value: 'percent',
    about: 'what the battery says it holds, unplugged',
    settings: (value) => [['battery', numberBetween(value, 1, 100, ' %')]],
  },
  {
    name: 'battery-saver',
    about: 'the system saves battery',
    settings: flag('global/low_power'),
  },
  {
    name: 'location',
    value: 'how',
    about: 'off, or on',
    settings: (value) => [['location', oneOf(value, 'off', 'on') === 'off' ? 'false' : 'true']],
  },
  {
    name: 'posture',
    value: 'number',
    about: 'of a foldable, by its own numbers: 0 is folded on most',
    settings: (value) => [['posture', numberBetween(value, 0, 99, '')]],
  },
  {
    name: 'time-to-act',
    value: 'seconds',
    about: 'how long messages stay that one can act on, and others',
    settings: (value) => {
      const ms = String(Number(numberBetween(value, 1, 600, ' s')) * 1000);
      return [
        ['secure/accessibility_interactive_ui_timeout_ms', ms],
        ['secure/accessibility_non_interactive_ui_timeout_ms', ms],
      ];
    },
  },
  {
    name: 'stay-on',
    about: 'the screen stays on while the phone is plugged in',
    // BatteryManager: mains, USB and wireless together
    settings: flag('global/stay_on_while_plugged_in', '7'),
  },
  { name: 'show-taps', about: 'a dot where the screen is touched', settings: flag('system/show_touches') },
];
