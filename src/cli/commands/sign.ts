import { stat } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { Option } from 'commander';
import { indexFacts } from '../../core/areas/check.ts';
import { signOffDigest } from '../../core/checklist/sign-off-basis.ts';
import type { Item } from '../../core/model/checklist.ts';
import { UnreadableError } from '../../core/model/problem.ts';
import { type SignOff, type SignOffBasis, signOffBases, signOffSchema } from '../../core/model/ruling.ts';
import { nearest } from '../../core/platform/text/nearest.ts';
import { wrap } from '../../core/reports/wrap.ts';
import { addFile, type Dossier, openDossier } from '../../node/dossier.ts';
import { observeDossier } from '../../node/observe.ts';
import { type Project, readProject } from '../../node/project.ts';
import { writeSignOff } from '../../node/write-rulings.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';
import { readKeys } from './rule/read-keys.ts';
import { whoSays } from './rule/ruling-of.ts';

interface SignOptions extends DossierOptions {
  as?: SignOff['outcome'];
  why?: string;
  by?: string;
  until?: string;
  restsOn?: SignOffBasis;
  attach?: string[];
  json?: boolean;
}

/** `fenlok sign`: a person's outcome for an item; without an outcome, what to do for it first. */
export const signCommand: AddCommand = (command, { io }) => {
  withDossier(command)
    .argument('<item>', 'its id, such as a11y.reader-walk')
    .addOption(
      new Option(
        '--as <outcome>',
        'the outcome; without it the steps are told, and in a terminal it is asked for',
      ).choices(['passed', 'failed', 'inapplicable']),
    )
    .option('--why <text>', 'what you did and saw')
    .option('--by <name>', 'who signs (default: FENLOK_NAME)')
    .option('--until <date>', 'the last day on which it holds, YYYY-MM-DD')
    .addOption(
      new Option(
        '--rests-on <what>',
        'holds for later builds until this changes (default: for this build alone)',
      ).choices(signOffBases),
    )
    .option('--attach <files...>', 'pictures, videos or texts that show it; they are copied into the dossier')
    .option('--json', 'print the sign-off as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok sign a11y.reader-walk\n  fenlok sign a11y.reader-walk --as passed --why "Booked and paid a crossing, eyes shut" --by Ada --attach walk.mp4',
    )
    .action(async (id: string, options: SignOptions) => {
      const dossier = await openDossier(inCwd(io, options.dossier));
      const project = await readProject(
        io.cwd,
        dossier.candidate.build.appId,
        options.intent && inCwd(io, options.intent),
      );
      const item = itemOf(id, project);
      const said = options.as ? options : await askFor(item, options, io);
      if (!said) return;
      const signOff = await signOffOf(item, { ...options, ...said }, { dossier, project }, io);
      await writeSignOff(project.rulingsFile, signOff);
      io.out(
        options.json
          ? `${JSON.stringify(signOff, null, 2)}\n`
          : `${id} is signed ${signOff.outcome} ${holdsWords(signOff)} in ${project.rulingsFile}; run "fenlok judge" to see what follows\n`,
      );
    });
};

function itemOf(id: string, { checklist }: Project): Item {
  const item = checklist.items.find((one) => one.id === id);
  if (item) return item;
  const meant = nearest(
    id,
    checklist.items.map((one) => one.id),
  );
  throw new UsageError(`the checklist has no item ${id}${meant ? `; did you mean ${meant}?` : ''}`);
}

const OUTCOMES: Record<string, SignOff['outcome']> = { p: 'passed', f: 'failed', n: 'inapplicable' };

/** Tells what to do; asks for the outcome where somebody sits at a terminal. */
async function askFor(
  item: Item,
  options: SignOptions,
  io: Io,
): Promise<Pick<SignOptions, 'as' | 'why'> | undefined> {
  io.out(stepsOf(item, io));
  if (!io.keys) return undefined;
  whoSays(io, options.by);
  const keys = readKeys(io);
  try {
    io.out('p passed   f failed   n does not apply   q later  ');
    for (let key = await keys.next(); key !== undefined && key !== 'q'; key = await keys.next()) {
      const as = OUTCOMES[key];
      if (!as) continue;
      io.out(`${as}\n`);
      const why = options.why ?? (await keys.line('what you did and saw  '));
      if (why) return { as, why };
      io.out('A sign-off needs what you did and saw.\n');
      return undefined;
    }
    io.out('\n');
    return undefined;
  } finally {
    keys.close();
  }
}

function stepsOf({ by, id, level, shows, steps }: Item, io: Io): string {
  const style = styleFor(io);
  const alone =
    by.checks.length > 0 || by.drill ? 'besides what Fenlok looks at' : 'which no machine can decide';
  return `${[
    ...wrap(`${style.strong(id)}  ${shows} ${style.faint(`(${level}, ${alone})`)}`, io.columns, 0, 2),
    ...(steps.length > 0
      ? steps.flatMap((step, i) => wrap(`${i + 1}. ${step}`, io.columns, 2, 5))
      : wrap('Nothing is written down of how to do it: look at what the sentence says.', io.columns, 2, 2)),
    '',
    style.faint(`then  fenlok sign ${id} --as passed --why "…"`),
  ].join('\n')}\n`;
}

async function signOffOf(
  { id }: Item,
  options: SignOptions,
  { dossier, project }: { dossier: Dossier; project: Project },
  io: Io,
): Promise<SignOff> {
  if (!options.why) throw new UsageError('say what you did and saw, with --why TEXT');
  const { build } = dossier.candidate;
  const by = whoSays(io, options.by);
  const restsOn = options.restsOn && (await basisOf(options.restsOn, dossier, project, io));
  const parsed = signOffSchema.safeParse({
    item: id,
    outcome: options.as,
    why: options.why,
    by,
    at: io.now().toISOString().slice(0, 10),
    build,
    until: options.until,
    restsOn,
  });
  if (!parsed.success)
    throw new UsageError(`--${String(parsed.error.issues[0]!.path[0])}: ${parsed.error.issues[0]!.message}`);
  const attached = await attach(options.attach ?? [], dossier, io);
  return { ...parsed.data, ...(attached.length > 0 && { attached }) };
}

async function basisOf(
  what: SignOffBasis,
  dossier: Dossier,
  { intent }: Project,
  io: Io,
): Promise<SignOff['restsOn']> {
  const facts = indexFacts(await observeDossier(dossier, intent, { signal: io.signal }));
  const digest = signOffDigest(what, facts, dossier.candidate.build);
  if (digest === undefined)
    throw new UsageError(`--rests-on ${what}: there is no evidence of them in this dossier yet`);
  return { what, digest };
}

const MOST_ATTACHED = 10;
const MOST_BYTES = 100 * 2 ** 20;
const ATTACHABLE = [
  '.png',
  '.jpg',
  '.jpeg',
  '.webp',
  '.gif',
  '.mp4',
  '.mov',
  '.webm',
  '.txt',
  '.md',
  '.log',
  '.json',
  '.pdf',
];

/** Checks all before the first is copied. @returns their names in the dossier */
async function attach(files: readonly string[], dossier: Dossier, io: Io): Promise<string[]> {
  if (files.length > MOST_ATTACHED) throw new UsageError(`--attach: at most ${MOST_ATTACHED} files`);
  const paths = files.map((file) => inCwd(io, file));
  for (const path of paths) {
    const info = await stat(path).catch(() => undefined);
    const refuse = (found: string, expected: string) =>
      new UnreadableError({ code: 'attachment', file: path, found, expected });
    if (!info?.isFile()) throw refuse('no such file', 'a picture, a video or a text');
    if (!ATTACHABLE.includes(extname(path).toLowerCase()))
      throw refuse(`${extname(path) || 'no ending'}`, `one of ${ATTACHABLE.join(' ')}`);
    if (info.size > MOST_BYTES)
      throw refuse(
        `${Math.round(info.size / 2 ** 20)} MB`,
        `at most ${MOST_BYTES / 2 ** 20} MB: cut the video, or scale it down`,
      );
  }
  const names: string[] = [];
  for (const path of paths) {
    const { digest } = await addFile(dossier, path);
    names.push(`files/${digest.slice(0, 16)}-${basename(path)}`);
  }
  return names;
}

const holdsWords = ({ build, restsOn, until }: SignOff): string =>
  `${restsOn ? `until the ${restsOn.what} change` : `for build ${build.build}`}${until ? `, and until ${until}` : ''}`;
