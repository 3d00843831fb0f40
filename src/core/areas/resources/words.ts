import { sayLevel } from '../../platform/android/platform-levels.ts';
import { type AreaWords, type DataValue, textsOf } from '../words.ts';

export const resourcesWords: AreaWords = {
  'missing-default': ({ asker, device, forms, level, locale, missing, night, of }, { identity }) => ({
    what: `Some devices find no ${identity.subject} at all`,
    measured: `nothing for ${missing} of ${of} combinations of device, language and theme; only ${textsOf(forms).map(nameOf).join(', ')}`,
    required: 'a form without qualifiers, which every device finds',
    why:
      asker === 'code'
        ? `Code asks for it. If it does so on a device that matches none (such as ${device}, ${sayLevel(Number(level))}, ${locale}, ${night ? 'night' : 'day'}), the app crashes; it may ask newer devices only.`
        : `${asker === 'manifest' ? 'The manifest' : String(asker)} asks for it. On a device that matches none (such as ${device}, ${sayLevel(Number(level))}, ${locale}, ${night ? 'night' : 'day'}), the app crashes.`,
    remedy: `Add ${String(identity.subject).split('/')[0]}/ without qualifiers.`,
  }),

  'blurred-picture': ({ densityDpi, devices, heightPx, scale, upscale, variant, widthPx }, { identity }) => ({
    what: `${identity.subject} is blurred on ${someOf(textsOf(devices))}`,
    measured: `× ${times(scale)} scaled up: the best that the package has is ${nameOf(String(variant))}${Number(widthPx) > 0 ? `, ${widthPx} × ${heightPx} px` : ''}`,
    required: `at most × ${times(upscale)}`,
    why: `A screen of ${densityDpi} dpi draws every pixel of it over ${times(Number(scale) ** 2)} of its own.`,
    remedy: `Add the picture ${String(Math.ceil(Number(widthPx) * Number(scale)))} px wide for that density, or make it a vector drawing.`,
  }),

  'picture-size': (
    { agreeing, expectedHeightPx, expectedWidthPx, heightPx, standard, variant, widthPx },
    { identity },
  ) => ({
    what: `${identity.subject} changes its size on ${nameOf(String(variant))} screens`,
    measured: `${widthPx} × ${heightPx} px`,
    required: `${expectedWidthPx} × ${expectedHeightPx} px, as ${nameOf(String(standard))} has it${Number(agreeing) > 1 ? ` and ${Number(agreeing) - 1} more` : ''}: 0.75 : 1 : 1.33 : 1.5 : 2 : 3 : 4`,
    why: 'On screens of this density it is drawn larger or smaller than on others, or out of proportion.',
    remedy: 'Export it again at this size.',
  }),

  'lost-variant': ({ better, cure, devices, locales, loss, picked, scale }, { identity }) => {
    const used = `${nameOf(String(picked))} is used`;
    const there = `${nameOf(String(better))} is there`;
    if (loss === 'translation')
      return {
        what: `${identity.subject} loses its translation in one mobile network`,
        measured: `in ${someOf(textsOf(locales))}: ${used}, though ${there}`,
        required: 'the language of the user',
        why: 'The network counts before the language, so that people read the source language there.',
        remedy: `Add ${cure}, and so for each language.`,
      };
    return {
      what: `${identity.subject} loses its ${loss} in ${someOf(textsOf(locales))}`,
      measured: `${used}${loss === 'density' ? `, scaled × ${times(scale)},` : ''} on ${someOf(textsOf(devices))}, though ${there}`,
      required: loss === 'density' ? 'a picture of the density of the screen' : 'the drawing for the night',
      why: `The language counts before ${loss === 'density' ? 'density' : 'night mode'}, so the folder of the language takes it away.`,
      remedy: `Add ${cure}.`,
    };
  },
};

const nameOf = (qualifiers: string): string => qualifiers || 'the default';
const times = (value: DataValue): string => String(Math.round(Number(value) * 100) / 100);
const someOf = (names: readonly string[]): string =>
  `${names.slice(0, 6).join(', ')}${names.length > 6 ? ` and ${names.length - 6} more` : ''}`;
