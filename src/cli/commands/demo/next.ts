/** `fenlok demo --next`: people rule on findings of the first candidate; the second is captured, judged, and held against it. */
import { rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { compareJudgements } from '../../../core/checklist/compare/compare.ts';
import type { Judgement } from '../../../core/model/judgement.ts';
import type { Ruling } from '../../../core/model/ruling.ts';
import { comparisonView } from '../../../core/reports/comparison-view.ts';
import { addPackage, exists, openDossier } from '../../../node/dossier.ts';
import { addPayload } from '../../../node/payloads.ts';
import { readIntent } from '../../../node/project.ts';
import { readComparable } from '../../../node/read-judgement.ts';
import { writeRulings } from '../../../node/write-rulings.ts';
import { type Io, progress, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { judgeAndReport } from '../judge.ts';
import {
  addKelplineReviews,
  addListings,
  addMapping,
  addSales,
  addSites,
  bootPhone,
  DATA,
  PUSH_FILES,
} from './surroundings.ts';

const FIRST = 'dossier';
const SECOND = 'dossier-next';
const PACKAGE = join(DATA, 'kelpline-next.apk');

/** What the team decided after the first candidate: one stays true, one goes by another name, one is needed no more. */
const DECISIONS: readonly (Pick<Ruling, 'ruling' | 'why' | 'by'> & { check: string; subject: string })[] = [
  {
    check: 'needless-export',
    subject: 'example.kelpline.TideSyncService',
    ruling: 'false-alarm',
    why: 'The harbour office starts it',
    by: 'Ada',
  },
  {
    check: 'small-target',
    subject: 'passengers_minus',
    ruling: 'accepted',
    why: 'The form is redesigned for 2.5',
    by: 'Bo',
  },
  {
    check: 'missing-translation',
    subject: 'sailing_boarding',
    ruling: 'accepted',
    why: 'Comes with the next build',
    by: 'Bo',
  },
];

export async function demoNext(
  out: string,
  io: Io,
  { all = false, json = false }: { all?: boolean; json?: boolean },
): Promise<void> {
  if (!(await exists(join(out, FIRST, 'judgement.json'))))
    throw new UsageError(`there is no first candidate in ${relative(io.cwd, out) || '.'} yet: fenlok demo`);
  const here = { ...io, cwd: out };
  const first = await readComparable(join(out, FIRST));
  await writeRulings(join(out, 'rulings.yaml'), rulingsOn(first, io.now()));
  await judgeAndReport(here, { dossier: FIRST });
  await captureSecond(out, io);
  await judgeAndReport(here, { dossier: SECOND });
  const comparison = compareJudgements(
    await readComparable(join(out, FIRST)),
    await readComparable(join(out, SECOND)),
  );
  io.out(
    json
      ? `${JSON.stringify(comparison, null, 2)}\n`
      : comparisonView(comparison, { style: styleFor(io), widthColumns: io.columns, all }),
  );
  io.err(
    `\nGo on by hand:  cd ${relative(io.cwd, out) || '.'}  and there  fenlok compare ${FIRST} ${SECOND}\n`,
  );
}

const rulingsOn = ({ findings }: Judgement, now: Date): Ruling[] =>
  DECISIONS.flatMap(({ by, check, ruling, subject, why }) =>
    findings
      .filter((finding) => finding.check === check && finding.identity.subject === subject)
      .map(({ digest, id, identity }) => ({
        finding: id,
        about: `${check}: ${[identity.screen, subject].filter(Boolean).join(', ')}`,
        digest,
        ruling,
        why,
        by,
        at: now.toISOString().slice(0, 10),
      })),
  );

/** All that the first had but drills: nobody has run them yet. */
async function captureSecond(out: string, io: Io): Promise<void> {
  const folder = join(out, SECOND);
  if (await exists(join(folder, 'dossier.json'))) await rm(folder, { recursive: true });
  io.err(`Reading ${relative(io.cwd, PACKAGE) || PACKAGE}\n`);
  await addPackage(folder, PACKAGE);
  const dossier = await openDossier(folder);
  await addSites(dossier);
  await addSales(dossier, out);
  await addListings(dossier);
  await addKelplineReviews(dossier);
  await addMapping(dossier);
  for (const name of PUSH_FILES) await addPayload(dossier, join(out, name));
  const intent = await readIntent(join(out, 'fenlok.yaml'));
  const { drillDevice } = await import('../../../device/drill-session.ts');
  const { openDevice } = await import('../../../device/bridge/open-device.ts');
  const stateFolder = join(out, 'state');
  const phone = await bootPhone([], PACKAGE);
  const show = progress(io, 'Capturing the next candidate on a stand-in phone');
  let total = 0;
  let done = 0;
  try {
    const device = await openDevice(phone.address, { stateFolder });
    try {
      await drillDevice(device, {
        dossier,
        intent,
        stateFolder,
        wanted: { drills: ['capture-sweep'] },
        kits: {},
        signal: io.signal,
        onPlan: ({ steps }) => {
          total = steps.length;
        },
        onStep: ({ says }) => show(done, total, says),
        onResult: () => show(++done, total),
      });
    } finally {
      await device.close();
    }
  } finally {
    phone.stop();
  }
}
