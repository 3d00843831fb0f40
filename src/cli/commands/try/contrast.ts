import {
  contrastRatio,
  formatRatio,
  parseHex,
  type Rgb,
  toHex,
} from '../../../core/areas/contrast/colour.ts';
import type { Behind } from '../../../core/areas/contrast/pixels/text-seen.ts';
import { suggestColours } from '../../../core/areas/contrast/suggest-colour.ts';
import type { Box } from '../../../core/model/geometry.ts';
import { UnreadableError } from '../../../core/model/problem.ts';
import { standardLimits } from '../../../core/model/standard-limits.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { inCwd } from '../options.ts';

interface ContrastOptions {
  picture?: string;
  box?: string;
  text?: string;
  palette?: string;
  json?: boolean;
}

/** `fenlok try contrast`: of two colours, or of a spot in a picture. */
export const contrastCommand: AddCommand = (command, { io }) => {
  command
    .argument('[text]', 'text colour, as #rrggbb')
    .argument('[background]', 'background colour, as #rrggbb')
    .option('--picture <file>', 'a screenshot')
    .option('--box <x,y,width,height>', 'where a text or an icon is in it, in pixels')
    .option('--text <text>', 'what is written in the box, so that a drawing beside it is left out')
    .option(
      '--palette <file>',
      'YAML with colours and pairs: the fewest colours to change so that all pairs pass',
    )
    .option('--json', 'print the result as JSON')
    .addHelpText(
      'after',
      "\nExample:\n  fenlok try contrast '#767676' '#ffffff'\n  fenlok try contrast --picture home.png --box 48,300,420,60\n  fenlok try contrast --palette theme.yaml    # colours: { ink: '#777', card: '#fff' }  pairs: [[ink, card, 4.5]]",
    )
    .action(async (text: string | undefined, background: string | undefined, options: ContrastOptions) => {
      if (options.palette) {
        const { tryPalette } = await import('./palette.ts');
        return tryPalette(inCwd(io, options.palette), options.json ?? false, io);
      }
      const result = options.picture
        ? await fromPicture(inCwd(io, options.picture), options.box, options.text ?? '')
        : fromColours(text, background);
      const judged = { ...result, ...against(result) };
      io.out(options.json ? `${JSON.stringify(judged, null, 2)}\n` : formatContrast(judged, io));
    });
};

interface Measured {
  text: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
  /** Of a text in a picture: what lies behind it, and the ratio on average over the text. */
  behind?: Behind;
  meanRatio?: number;
}

function fromColours(text: string | undefined, background: string | undefined): Measured {
  if (text === undefined || background === undefined)
    throw new UsageError(
      "give two colours, such as '#767676' '#ffffff', or --picture FILE with --box X,Y,WIDTH,HEIGHT",
    );
  const [of, on] = [text, background].map((colour) => {
    const rgb = parseHex(colour);
    if (!rgb) throw new UsageError(`"${colour}" is not a colour; write it as '#rrggbb' or '#rgb', in quotes`);
    return rgb;
  }) as [Rgb, Rgb];
  const ratio = contrastRatio(of, on);
  return { text: of, background: on, ratio, interval: [ratio, ratio] };
}

async function fromPicture(file: string, boxText: string | undefined, written: string): Promise<Measured> {
  const numbers = boxText?.split(',').map(Number);
  if (numbers?.length !== 4 || numbers.some((n) => !Number.isFinite(n) || n < 0))
    throw new UsageError('--box wants four numbers in pixels: X,Y,WIDTH,HEIGHT');
  const [x, y, width, height] = numbers as [number, number, number, number];
  const { decodeImage } = await import('../../../node/decode-image.ts');
  const { readPicture } = await import('../../../node/read-capture.ts');
  const { measureSpot } = await import('../../../core/areas/contrast/pixels/measure-spot.ts');
  const pixels = await decodeImage(file, await readPicture(file));
  const box: Box = { x, y, width, height };
  if (x + width > pixels.widthPx || y + height > pixels.heightPx)
    throw new UsageError(
      `the box ends at ${x + width}, ${y + height}, but the picture is ${pixels.widthPx} × ${pixels.heightPx} px`,
    );
  const seen = measureSpot(pixels, box, written);
  if (typeof seen === 'string') {
    const why = {
      'no-ink': 'there is only one colour in it',
      'too-small': 'it is too small',
      covered: 'it is covered',
      'busy-background': 'its background is not one colour',
    }[seen];
    throw new UnreadableError({
      code: 'contrast.unseen',
      file,
      place: `box ${boxText}`,
      found: `no text that can be measured: ${why}`,
      remedy: 'Move the box so that it holds one text and some of its background.',
    });
  }
  const { background, foreground, interval, ratio } = seen;
  const how = 'behind' in seen ? { behind: seen.behind, meanRatio: seen.meanRatio } : {};
  return { text: foreground, background, ratio, interval, ...how };
}

// WCAG 2.2, success criterion 1.4.6 Contrast (Enhanced).
const ENHANCED = 7;

function against({ background, interval, ratio, text }: Measured) {
  const { largeTextContrast, textContrast } = standardLimits;
  const limits = { text: textContrast, largeText: largeTextContrast, enhanced: ENHANCED };
  return {
    limits,
    passes: {
      text: interval[0] >= limits.text,
      largeText: interval[0] >= limits.largeText,
      enhanced: interval[0] >= limits.enhanced,
    },
    suggestions: ratio >= limits.text ? {} : suggestColours(text, background, limits.text),
  };
}

// As wide as one another, so that what follows stands in a column.
const VERDICT = { passed: 'passes', failed: 'fails ', cantTell: 'unsure' };

function formatContrast(result: Measured & ReturnType<typeof against>, io: Io): string {
  const style = styleFor(io);
  const spread =
    result.interval[1] - result.interval[0] > 0.15
      ? `  (between ${formatRatio(result.interval[0])} and ${formatRatio(result.interval[1])})`
      : '';
  const line = (label: string, limit: number, of: string) => {
    const [lowest, highest] = result.interval;
    const outcome = lowest >= limit ? 'passed' : highest < limit ? 'failed' : 'cantTell';
    return `  ${style.outcome(outcome, `${outcomeMark[outcome]} ${VERDICT[outcome]}`)}  ${label.padEnd(26)} ${`${limit} : 1`.padEnd(8)} ${of}`;
  };
  const place =
    result.behind && result.behind !== 'flat'
      ? [
          `  at the worst place of a ${result.behind}; on average over the text ${formatRatio(result.meanRatio!)} : 1`,
        ]
      : [];
  const suggestions = Object.entries(result.suggestions).flatMap(([what, suggestion]) =>
    suggestion ? [`  ${`${what} ${suggestion.colour}`.padEnd(20)} ${formatRatio(suggestion.ratio)} : 1`] : [],
  );
  return [
    `${style.strong(`${formatRatio(result.ratio)} : 1`)}${spread}  text ${toHex(result.text)} on ${toHex(result.background)}`,
    ...place,
    line('text', result.limits.text, 'WCAG 2.2, 1.4.3'),
    line('large text, icons', result.limits.largeText, '1.4.3, 1.4.11'),
    line('text, enhanced', result.limits.enhanced, '1.4.6'),
    ...(suggestions.length > 0 ? ['Nearest that pass 4.5 : 1, hue kept', ...suggestions] : []),
    '',
  ].join('\n');
}
