import { writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { createTwoFilesPatch } from 'diff';
import type { Fact } from '../../core/model/fact.ts';
import type { Finding } from '../../core/model/finding.ts';
import type { NoPatch, Patch, SourceFile } from '../../core/model/patch.ts';
import { isFound } from '../../core/patches/judge-again.ts';
import { isPatchable, patchFinding } from '../../core/patches/patch-finding.ts';
import { printableText } from '../../core/reports/escape.ts';
import { openDossier } from '../../node/dossier.ts';
import { observeDossier } from '../../node/observe.ts';
import { type Project, readProject } from '../../node/project.ts';
import { readSources } from '../../node/source-files.ts';
import { writeAtomically } from '../../node/write-atomically.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type Io, UsageError } from '../io.ts';
import { findFindings } from './find-findings.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';

interface PatchOptions extends DossierOptions {
  source: string;
  write?: boolean;
  json?: boolean;
}

/** `fenlok patch`: the change of a source file that fixes a finding, as a diff. */
export const patchCommand: AddCommand = (command, { io, finish }) => {
  withDossier(command)
    .argument('<finding...>', 'their names, such as k3f9-02ab')
    .requiredOption('--source <folder>', "the app's sources, such as app/src/main")
    .option('--write', 'write the files, instead of printing what would change')
    .option('--json', 'print as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok patch 1i6b-7fex --source app/src/main | git apply\n\nWhat can be patched: colours of texts and icons that are too faint; in texts, escapes that come out wrong, stray blanks, characters that nobody sees, plural forms that are missing; in the manifest, link filters that no browser may use, and needless exports; on a site, the statement that lets the app have its links.\nExit codes: 0 each has a patch, 4 one has none and why, 2 wrong call',
    )
    .action(async (names: string[], options: PatchOptions) => {
      const dossier = await openDossier(inCwd(io, options.dossier));
      const project = await readProject(
        io.cwd,
        dossier.candidate.build.appId,
        options.intent && inCwd(io, options.intent),
      );
      const findings = await Promise.all(names.map((name) => findFindings(dossier.folder, name)));
      const measured = await observeDossier(dossier, project.intent, { signal: io.signal });
      // one after the other, each on what the ones before have made of the files, and of what was measured
      let files = await patchableFiles(inCwd(io, options.source), dossier.folder, io.cwd);
      let facts: readonly Fact[] = measured;
      const made: Made[] = [];
      for (const finding of findings.flat()) {
        const patch =
          coveredBy(finding, made, measured, project) ?? patchFinding(finding, files, facts, project.intent);
        made.push({ finding, patch });
        if (!('edits' in patch)) continue;
        facts = patch.facts;
        files = files.map((file) => {
          const edit = patch.edits.find(({ path }) => path === file.path);
          return edit ? { ...file, text: edit.after } : file;
        });
      }
      await tell(made, options, io);
      finish(made.every(({ patch }) => 'edits' in patch || patch.coveredBy) ? exitCode.done : exitCode.open);
    });
};

interface Made {
  finding: Finding;
  patch: Patch | NoPatch;
}

/** What a patch of this call, made for another finding, has fixed with it. */
function coveredBy(
  finding: Finding,
  made: readonly Made[],
  measured: readonly Fact[],
  { intent }: Project,
): NoPatch | undefined {
  if (made.length === 0 || !isFound(finding, measured, intent)) return undefined;
  const before = made.find(({ patch }) => 'edits' in patch && !isFound(finding, patch.facts, intent));
  return before && { why: `the patch of ${before.finding.id} fixes it too`, coveredBy: before.finding.id };
}

async function tell(made: readonly Made[], { json, write }: PatchOptions, io: Io): Promise<void> {
  const patched = made.flatMap(({ finding, patch }) => ('edits' in patch ? [{ finding, patch }] : []));
  if (write)
    for (const edit of patched.flatMap(({ patch }) => patch.edits)) {
      const path = inCwd(io, edit.path);
      await writeAtomically(dirname(path), basename(path), (staged) => writeFile(staged, edit.after));
    }
  if (json) {
    const rows = made.map(({ finding: { id }, patch }) =>
      'edits' in patch ? { finding: id, ...forMachines(patch) } : { finding: id, ...patch },
    );
    io.out(`${JSON.stringify(rows, null, 2)}\n`);
    return;
  }
  for (const { finding, patch } of made) {
    // on the other stream, so that `| git apply` gets the diff alone
    if ('why' in patch)
      io.err(
        `${printableText(`${finding.id} has no patch${patch.coveredBy ? ' of its own' : ''}: ${patch.why}`)}\n`,
      );
    else io.err(`${printableText(`${finding.id}: ${patch.says}; ${patch.proof}`)}\n`);
    if ('edits' in patch)
      io.out(patch.edits.map((edit) => (write ? `${edit.path} is written\n` : diffOf(edit))).join(''));
  }
}

const forMachines = ({ edits, proof, says }: Patch) => ({
  paths: edits.map(({ path }) => path),
  says,
  proof,
  diff: edits.map(diffOf).join(''),
});

const diffOf = ({ after, before, path }: Patch['edits'][number]): string =>
  createTwoFilesPatch(`a/${path}`, `b/${path}`, before, after)
    // the library's rule above the names of the files
    .replace(/^=+\n/, '')
    .replaceAll(/^((?:---|\+\+\+) .*)\t$/gm, '$1');

/** Every file that a patch may change, by its path from where the call was made. */
async function patchableFiles(source: string, dossier: string, cwd: string): Promise<SourceFile[]> {
  const files = await readSources(source, cwd, isPatchable, dossier);
  if (files.length === 0)
    throw new UsageError(
      `--source ${source}: neither values folders with XML files, nor AndroidManifest.xml, nor assetlinks.json lies in it`,
    );
  return files;
}
