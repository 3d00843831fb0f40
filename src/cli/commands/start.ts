import { writeFile } from 'node:fs/promises';
import { relative } from 'node:path';
import { draftIntent } from '../../core/drafts/intent-draft.ts';
import { withPackage } from '../../node/read-package.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { inCwd } from './options.ts';

/** `fenlok start`: writes an intent file from what a package declares. */
export const startCommand: AddCommand = (command, { io }) => {
  command
    .argument('<package>', 'an APK, an app bundle (AAB) or an iOS package (IPA)')
    .option('--out <file>', 'where to write it; a file that is there is never overwritten', 'fenlok.yaml')
    .option('--json', 'print where it was written and what is asked as JSON')
    .addHelpText('after', '\nExample:\n  fenlok start app-release.apk')
    .action(async (file: string, options: { out: string; json?: boolean }) => {
      const out = inCwd(io, options.out);
      const { questions, yaml } = await withPackage(inCwd(io, file), ({ app }) => draftIntent(app), {
        parts: 'declared',
      });
      await writeNew(out, yaml);
      io.out(
        options.json
          ? `${JSON.stringify({ file: out, questions }, null, 2)}\n`
          : writeIntentFile(io, out, questions),
      );
    });
};

/** Refuses in the same step in which it would write, so that no file can come in between. */
async function writeNew(path: string, text: string): Promise<void> {
  await writeFile(path, text, { flag: 'wx' }).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'EEXIST')
      throw new UsageError(`${path} is there already and is left as it is; name another place with --out`);
    throw new UsageError(`${path} cannot be written (${error.code})`);
  });
}

function writeIntentFile(io: Io, out: string, questions: readonly string[]): string {
  const file = relative(io.cwd, out) || out;
  return [
    `Written: ${file}`,
    '',
    `${questions.length} questions are marked with "?" in it, since no package can answer them:`,
    ...questions.map((question) => `  ? ${question}`),
    '',
    'Answer them, then:  fenlok add PACKAGE  and  fenlok judge',
    '',
  ].join('\n');
}
