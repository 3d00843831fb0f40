/** `fenlok rule` in a terminal: the findings that wait for a decision one by one, the worst first, with a key for each answer. */
import { outcomeOf } from '../../../core/checklist/apply-rulings.ts';
import { type Finding, rankOfPriority } from '../../../core/model/finding.ts';
import type { Judgement } from '../../../core/model/judgement.ts';
import { type Outcome, worstFirst } from '../../../core/model/outcome.ts';
import type { Ruling } from '../../../core/model/ruling.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import { formatPlaces } from '../../../core/reports/outline.ts';
import { wrap } from '../../../core/reports/wrap.ts';
import { cutFindings, type Pictures, picturesOf } from '../../../node/cut-proofs.ts';
import type { Dossier } from '../../../node/dossier.ts';
import { readRulings, withdrawRuling, writeRulings } from '../../../node/write-rulings.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { drawInTerminal, type PictureWay, pictureWay } from '../../terminal-picture.ts';
import { readKeys } from './read-keys.ts';
import { rulingOf, whoSays } from './ruling-of.ts';

const ANSWERS: Record<string, Ruling['ruling']> = { f: 'false-alarm', a: 'accepted', r: 'real' };
const HELP = 'f false alarm   a accepted   r real   s later   u take the last one back   q end';

interface Walk {
  judgement: Judgement;
  dossier: Dossier;
  /** `rulings.yaml` */
  file: string;
  by: string | undefined;
}

/** Writes each decision at once, so that nothing is lost where the walk is broken off. */
export async function walkFindings({ by, dossier, file, judgement }: Walk, io: Io): Promise<void> {
  if (!io.keys)
    throw new UsageError(
      'name a finding, or say --check, --screen or --element; without them it needs a terminal',
    );
  whoSays(io, by);
  const waiting = waitingFindings(judgement);
  if (waiting.length === 0) {
    io.out('No finding waits for a decision.\n');
    return;
  }
  const pictures = await picturesOf(dossier);
  const way = pictureWay(io);
  const made: { finding: Finding; before: Ruling | undefined; at: number }[] = [];
  const keys = readKeys(io);
  let lastWhy = '';
  try {
    io.err(`${waiting.length} findings wait. ${HELP}\n`);
    for (let at = 0; at < waiting.length; ) {
      const finding = waiting[at]!;
      const { evidence } = finding.occurrences[0]!;
      show(finding, `${at + 1}/${waiting.length}`, judgement.strict, pictures.get(evidence.slice(0, 16)), io);
      if (way) io.out(await drawFinding(dossier, finding, pictures, way));
      const key = await keys.next();
      if (key === undefined || key === 'q') break;
      const as = ANSWERS[key];
      if (as) {
        const why = await keys.line(lastWhy ? `why (Enter: ${lastWhy})  ` : 'why  ');
        if (why === undefined) break;
        if (why === '' && lastWhy === '') {
          io.out('A decision needs its reason.\n');
          continue;
        }
        lastWhy = why || lastWhy;
        const before = (await readRulings(file)).find((ruling) => ruling.finding === finding.id);
        await writeRulings(file, [rulingOf(finding, { as, why: lastWhy, by }, io)]);
        made.push({ finding, before, at });
        at += 1;
      } else if (key === 's') at += 1;
      else if (key === 'u') {
        const last = made.pop();
        if (last) {
          await withdrawRuling(file, last.finding.id, last.before);
          io.out(`${last.finding.id} is taken back.\n`);
          at = last.at;
        } else io.out('There is nothing to take back.\n');
      } else io.out(`${HELP}\n`);
    }
  } finally {
    keys.close();
  }
  io.out(
    `${made.length} ${made.length === 1 ? 'decision' : 'decisions'} in ${file}; run "fenlok judge" to see what follows\n`,
  );
}

/** The place that the finding is about, outlined; nothing where it has no picture. */
async function drawFinding(
  dossier: Dossier,
  finding: Finding,
  pictures: Pictures,
  way: PictureWay,
): Promise<string> {
  const proof = (await cutFindings(dossier, [finding], pictures)).get(finding.id);
  return proof ? drawInTerminal(proof.crop, way) : '';
}

/** What cannot be told first, since it waits for nobody else; then what failed. */
function waitingFindings({ findings, strict }: Judgement): Finding[] {
  const rank = (finding: Finding) =>
    (outcomeOf(finding, strict) === 'cantTell' ? 0 : 10) + rankOfPriority(finding.priority);
  return findings
    .filter((finding) => !finding.ruling && outcomeOf(finding, strict) !== 'passed')
    .sort((a, b) => rank(a) - rank(b) || b.severity - a.severity);
}

function show(finding: Finding, at: string, strict: boolean, picture: string | undefined, io: Io): void {
  const style = styleFor(io);
  const { basis, id, words } = finding;
  const outcome: Outcome = worstFirst.find((one) => one === outcomeOf(finding, strict))!;
  const field = (name: string, text: string) =>
    wrap(`${style.faint(name.padEnd(10))}${printableText(text)}`, io.columns, 2, 12);
  io.out(
    `\n${[
      ...wrap(
        `${style.faint(at)} ${style.outcome(outcome, outcomeMark[outcome])} ${style.strong(id)}  ${printableText(words.what)}`,
        io.columns,
        0,
        2,
      ),
      ...field('where', formatPlaces(finding)),
      ...field(basis === 'measured' ? 'measured' : 'estimate', words.measured),
      ...field('required', words.required),
      ...field('why', words.why),
      ...field('do', words.remedy),
      ...(picture ? field('picture', picture) : []),
    ].join('\n')}\n`,
  );
}
