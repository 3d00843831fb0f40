import { z } from 'zod';
import { formatRatio } from '../../../core/areas/contrast/colour.ts';
import {
  type Palette,
  type PaletteSuggestion,
  suggestPalette,
} from '../../../core/areas/contrast/suggest-palette.ts';
import { UnreadableError } from '../../../core/model/problem.ts';
import { columnsOf, padToColumns } from '../../../core/reports/columns.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import { readYaml } from '../../../node/read-yaml.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';

const TEXT = 4.5;

/** The colours of a theme by name, and which stands on which: `[foreground, background]`, with what is required of it. */
const paletteFileSchema = z.strictObject({
  colours: z.record(z.string(), z.string()),
  pairs: z.array(
    z.union([
      z.tuple([z.string(), z.string()]),
      z.tuple([z.string(), z.string(), z.number().min(1).max(21)]),
    ]),
  ),
});

export async function tryPalette(file: string, asJson: boolean, io: Io): Promise<void> {
  const { value } = await readYaml(file, paletteFileSchema);
  const palette: Palette = {
    colours: value.colours,
    pairs: value.pairs.map(([foreground, background, required = TEXT]) => ({
      foreground,
      background,
      required,
    })),
  };
  const found = suggest(file, palette);
  if (asJson) io.out(`${JSON.stringify(found ?? { changes: null }, null, 2)}\n`);
  else
    io.out(found ? formatPalette(found, palette, io) : 'No change of four colours makes all pairs pass.\n');
}

function suggest(file: string, palette: Palette): PaletteSuggestion | undefined {
  try {
    return suggestPalette(palette);
  } catch (cause) {
    if (!(cause instanceof RangeError)) throw cause;
    throw new UnreadableError({ code: 'palette.colour', file, found: cause.message }, { cause });
  }
}

function formatPalette({ changes, failing }: PaletteSuggestion, { pairs }: Palette, io: Io): string {
  const style = styleFor(io);
  const mark = (of: 'passed' | 'failed', text: string) => style.outcome(of, `${outcomeMark[of]} ${text}`);
  if (failing.length === 0) return `${mark('passed', 'passes')}  all ${pairs.length} pairs\n`;
  const width = Math.max(...changes.map(({ name }) => columnsOf(name)));
  return [
    `${style.strong(`${failing.length} of ${pairs.length} pairs fail`)}`,
    ...failing.map(
      ({ background, foreground, ratio, required }) =>
        `  ${mark('failed', `${formatRatio(ratio)} : 1`)}  ${printableText(foreground)} on ${printableText(background)}, ${required} : 1 required`,
    ),
    `Change ${changes.length === 1 ? 'one colour' : `${changes.length} colours`}, hue kept, and all pass`,
    ...changes.map(
      ({ colour, from, name, ratio }) =>
        `  ${padToColumns(printableText(name), width)}  ${from} → ${colour}  at least ${formatRatio(ratio)} : 1`,
    ),
    '',
  ].join('\n');
}
