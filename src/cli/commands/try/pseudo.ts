import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import { readCatalogue } from '../../../core/formats/catalogues/read-catalogue.ts';
import { writeCatalogue } from '../../../core/formats/catalogues/write-catalogue.ts';
import { textSyntaxes } from '../../../core/model/catalogue.ts';
import { formatProblem, UnreadableError, unwrap } from '../../../core/model/problem.ts';
import {
  PSEUDO_TAG,
  type PseudoLocale,
  pseudoLocales,
  pseudoLocalize,
} from '../../../core/platform/text/pseudo-locale.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { readCatalogueBytes } from '../../../node/read-catalogue-bytes.ts';
import type { AddCommand } from '../../command-table.ts';
import { UsageError } from '../../io.ts';
import { inCwd } from '../options.ts';

interface PseudoOptions {
  as: string;
  out: string;
  from?: string;
  syntax?: string;
  json?: boolean;
}

/** `fenlok try pseudo`: a catalogue in a made-up language, to find trouble before translators do. */
export const pseudoCommand: AddCommand = (command, { io }) => {
  command
    .argument(
      '<file>',
      'a catalogue: strings.xml, .strings, .stringsdict, .xcstrings, .arb, .xliff, .po, .resx, .json or .yml',
    )
    .option('--as <kind>', 'accented (en-XA) or mirrored (ar-XB)', 'accented')
    .option('--from <tag>', 'which of its languages, where it holds several')
    .option(
      '--syntax <name>',
      `how its texts are filled in, where they do not show it: ${textSyntaxes.join(', ')}`,
    )
    .option('--out <folder>', 'where to write it', '.')
    .option('--json', 'print what was written as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok try pseudo app/src/main/res/values/strings.xml --out app/src/main/res',
    )
    .action(async (file: string, options: PseudoOptions) => {
      const kind = options.as as PseudoLocale;
      if (!pseudoLocales.includes(kind))
        throw new UsageError(`--as: "${kind}" is neither accented nor mirrored`);
      const syntax = textSyntaxes.find((name) => name === options.syntax);
      if (options.syntax !== undefined && !syntax)
        throw new UsageError(`--syntax: "${options.syntax}" is none of ${textSyntaxes.join(', ')}`);
      const path = inCwd(io, file);
      const catalogue = unwrap(await readCatalogue(path, await readCatalogueBytes(path), syntax));
      for (const problem of catalogue.problems)
        io.err(`fenlok: read as far as it goes: ${printableText(formatProblem(problem))}\n`);
      const locale = options.from ?? catalogue.entries[0]?.locale;
      const source = catalogue.entries.filter((entry) => entry.locale === locale);
      if (source.length === 0)
        throw new UnreadableError({
          code: 'pseudo.empty',
          file: path,
          found: `no text${locale ? ` in ${locale}` : ''}`,
          expected: `one of ${[...new Set(catalogue.entries.map((entry) => entry.locale))].join(', ') || 'some texts'}`,
        });
      const tag = PSEUDO_TAG[kind];
      const written = writeCatalogue(catalogue, path, pseudoLocalize(source, catalogue.syntax, kind), tag);
      const target = join(inCwd(io, options.out), written.path);
      // a file that holds all languages is the team's own; the made-up one goes beside it
      if (target === path)
        throw new UsageError(`${target} is the file itself; name another folder with --out`);
      await mkdir(dirname(target), { recursive: true });
      await writeFile(target, written.text);
      io.out(
        options.json
          ? `${JSON.stringify({ file: target, locale: tag, keys: source.length }, null, 2)}\n`
          : `wrote ${relative(io.cwd, target)}  ${tag}, ${source.length} keys\n`,
      );
    });
};
