/** Nothing that was decided or taken in is lost, and what was damaged is never believed. */
import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  cpSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import { parse } from 'yaml';
import { UnreadableError } from '../../src/core/index.ts';
import {
  addCapture,
  addCatalogue,
  addPackage,
  addPayload,
  addSiteFile,
  addTrace,
  judgeDossier,
  openDossier,
  readProject,
} from '../../src/node/index.ts';
import { stagedPrefix } from '../../src/node/write-atomically.ts';
import { writeRulings } from '../../src/node/write-rulings.ts';
import { writeSecret } from '../../src/node/write-secret.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, demoFolder, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();
const now = new Date('2026-11-29T10:00:00Z');

const ruling = (finding: string) => ({
  finding,
  ruling: 'real' as const,
  why: 'seen',
  by: 'Ada',
  at: '2026-11-29',
  about: 'small target',
  digest: 'd1',
});

describe('decisions at the same time', () => {
  test('of forty in one process none is lost, through a link, with mode and comments kept', async () => {
    const folder = join(scratch, 'linked');
    mkdirSync(folder);
    const file = join(scratch, 'shared.yaml');
    writeFileSync(file, '# ours\nfenlok: rulings/1\nrulings: [] # none yet\nsignOffs: []\n');
    chmodSync(file, 0o640);
    symlinkSync(file, join(folder, 'rulings.yaml'));
    const findings = Array.from({ length: 40 }, (_, i) => `aaaa-${String(i).padStart(4, '0')}`);
    // by the link and by the file itself
    await Promise.all(
      findings.map((finding, i) =>
        writeRulings(i % 2 ? file : join(folder, 'rulings.yaml'), [ruling(finding)]),
      ),
    );
    const text = readFileSync(file, 'utf8');
    expect(text).toContain('# ours');
    expect(
      parse(text)
        .rulings.map(({ finding }: { finding: string }) => finding)
        .sort(),
    ).toEqual(findings);
    expect(statSync(file).mode & 0o777).toBe(0o640);
    expect(readdirSync(folder)).toEqual(['rulings.yaml']);
  });

  test('of sixteen calls none is lost', async () => {
    const folder = join(scratch, 'calls');
    copyIntent(folder);
    await addPackage(join(folder, 'dossier'), demoApk);
    const { checklist } = await readProject(folder, 'example.kelpline');
    const items = checklist.items.slice(0, 16).map(({ id }) => id);
    const runs = await Promise.all(
      items.map((item) => fenlok(['sign', item, '--as', 'passed', '--why', 'seen', '--by', 'Ada'], folder)),
    );
    expect(runs.map(({ code }) => code)).toEqual(items.map(() => 0));
    const { signOffs } = parse(readFileSync(join(folder, 'rulings.yaml'), 'utf8'));
    expect(signOffs.map(({ item }: { item: string }) => item).sort()).toEqual([...items].sort());
  });
});

test('what killed calls left half-written is cleared, and what another still writes is not', async () => {
  const folder = join(scratch, 'cleared');
  copyIntent(folder);
  await addPackage(join(folder, 'dossier'), demoApk);
  const dossier = await openDossier(join(folder, 'dossier'));
  const ended = spawnSync(process.execPath, ['-e', '0']).pid;
  const staged = (pid: number, prefix = stagedPrefix) => `${prefix}${pid}-1-x`;
  const names = [staged(ended), staged(process.pid), staged(ended, '.incoming-zzzzzz-')];
  mkdirSync(join(folder, 'dossier/captures'));
  for (const name of names) writeFileSync(join(folder, 'dossier/captures', name), 'half');
  await judgeDossier(dossier, await readProject(folder, 'example.kelpline'), { strict: false, now });
  expect(readdirSync(join(folder, 'dossier/captures')).sort()).toEqual(names.slice(1).sort());
});

test('keys are for their owner alone, also in a file that everybody could read', async () => {
  const file = join(scratch, 'keys.json');
  writeFileSync(file, 'old', { mode: 0o644 });
  await writeSecret(file, 'new');
  expect([readFileSync(file, 'utf8'), statSync(file).mode & 0o777]).toEqual(['new', 0o600]);
});

test('a ruling that has ended does not come back when the clock is put back', async () => {
  const folder = join(scratch, 'clock');
  copyIntent(folder);
  await addPackage(join(folder, 'dossier'), demoApk);
  const dossier = await openDossier(join(folder, 'dossier'));
  const at = async (day: string) =>
    judgeDossier(dossier, await readProject(folder, 'example.kelpline'), {
      strict: false,
      now: new Date(`${day}T10:00:00Z`),
    });
  const [finding] = (await at('2026-11-20')).findings;
  await writeRulings(join(folder, 'rulings.yaml'), [
    {
      ...ruling(finding!.id),
      digest: finding!.digest,
      ruling: 'accepted',
      until: '2026-12-01',
      at: '2026-11-20',
    },
  ]);
  const open = async (day: string) => (await at(day)).lapsed.length;
  expect([await open('2026-11-21'), await open('2026-12-02')]).toEqual([0, 1]);
  // twice, since each judgement is written down
  expect([await open('2026-11-22'), await open('2026-11-22')]).toEqual([1, 1]);
  expect((await at('2026-11-22')).latestKnown).toBe('2026-12-02T10:00:00.000Z');
  // nor where the list of decisions alone knows better
  rmSync(join(folder, 'dossier/judgement.json'));
  await writeRulings(join(folder, 'rulings.yaml'), [{ ...ruling('zzzz-0000'), at: '2026-12-03' }]);
  expect((await at('2026-11-22')).lapsed.map(({ why }) => why)).toContain('it was accepted until 2026-12-01');
});

describe('what was damaged', () => {
  const folder = join(scratch, 'damaged');
  const kept = join(folder, 'dossier');
  const whole = join(scratch, 'whole');
  let cold: string;

  const judged = async () => {
    const damaged: string[] = [];
    const dossier = { ...(await openDossier(kept)), onDamage: (file: string) => void damaged.push(file) };
    const project = await readProject(folder, 'example.kelpline');
    const judgement = await judgeDossier(dossier, project, { strict: false, now });
    return { damaged, text: JSON.stringify(judgement) };
  };
  const filesIn = (...rooms: string[]) =>
    rooms
      .flatMap((room) =>
        readdirSync(join(whole, room), { recursive: true }).map((name) => join(room, String(name))),
      )
      .filter((name) => statSync(join(whole, name)).isFile());

  beforeAll(async () => {
    copyIntent(folder);
    await addPackage(kept, demoApk);
    const dossier = await openDossier(kept);
    const picture = await sharp({ create: { width: 300, height: 600, channels: 3, background: '#777' } })
      .png()
      .toBuffer();
    const capture = {
      fenlok: 'capture/1',
      platform: 'android',
      cell: { screen: 'timetable', locale: 'en', theme: 'light', device: 'common', procedure: 'as-is' },
      densityDpi: 160,
      picture: 'shot.png',
      hierarchy: 'shot.xml',
    };
    writeFileSync(join(folder, 'shot.png'), picture);
    writeFileSync(
      join(folder, 'shot.xml'),
      '<hierarchy><node bounds="[0,0][300,600]"><node clickable="true" bounds="[10,10][40,40]"/></node></hierarchy>',
    );
    writeFileSync(join(folder, 'shot.json'), JSON.stringify(capture));
    await addCapture(dossier, join(folder, 'shot.json'));
    await addCatalogue(dossier, join(demoFolder, 'android/res/values-de/strings.xml'));
    await addPayload(dossier, join(demoFolder, 'push/delay.json'));
    await addSiteFile(dossier, join(demoFolder, 'site/kelpline.example/.well-known/assetlinks.json'));
    writeFileSync(
      join(folder, 'app.jsonl'),
      '{"at":"2026-11-23T10:00:00Z","kind":"link.opened","url":"kelpline://tickets"}\n',
    );
    await addTrace(dossier, join(folder, 'app.jsonl'));
    cold = (await judged()).text;
    cpSync(kept, whole, { recursive: true });
  });
  beforeEach(() => {
    rmSync(kept, { recursive: true });
    cpSync(whole, kept, { recursive: true });
  });

  const damage = fc.oneof(
    fc.record({ cut: fc.double({ min: 0, max: 0.999, noNaN: true }) }),
    fc.record({
      at: fc.double({ min: 0, max: 0.999, noNaN: true }),
      becomes: fc.integer({ min: 0, max: 255 }),
    }),
    fc.record({ line: fc.nat(), repeated: fc.boolean() }),
  );
  const apply = (
    bytes: Buffer,
    of: { cut: number } | { at: number; becomes: number } | { line: number; repeated: boolean },
  ) => {
    if ('cut' in of) return bytes.subarray(0, Math.floor(bytes.length * of.cut));
    if ('at' in of) {
      const changed = Buffer.from(bytes);
      changed[Math.floor(bytes.length * of.at)] = of.becomes;
      return changed;
    }
    const lines = bytes.toString('latin1').split('\n');
    const i = of.line % lines.length;
    lines.splice(i, 1, ...(of.repeated ? [lines[i]!, lines[i]!] : []));
    return Buffer.from(lines.join('\n'), 'latin1');
  };

  test('and was measured, is measured again and told', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...filesIn('facts'), 'judgement.json'), damage, async (name, of) => {
        const bytes = readFileSync(join(whole, name));
        const changed = apply(bytes, of);
        writeFileSync(join(kept, name), changed);
        const { damaged, text } = await judged();
        expect(text).toBe(cold);
        const told = name !== 'judgement.json' && !changed.equals(bytes);
        expect(damaged).toEqual(told ? [join(kept, name)] : []);
        expect(readFileSync(join(kept, name)).equals(bytes)).toBe(true);
      }),
      { numRuns: 30 },
    );
  });

  test('and was taken in, is refused by its name, or means the same', async () => {
    const rooms = ['captures', 'catalogues', 'traces', 'package'];
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...filesIn(...rooms), 'dossier.json'), damage, async (name, of) => {
        const bytes = readFileSync(join(whole, name));
        writeFileSync(join(kept, name), apply(bytes, of));
        rmSync(join(kept, 'facts'), { recursive: true, force: true });
        try {
          expect((await judged()).text).toBe(cold);
        } catch (error) {
          if (!(error instanceof UnreadableError)) throw error;
          expect(error.problem.file).toContain(kept);
        } finally {
          writeFileSync(join(kept, name), bytes);
        }
      }),
      { numRuns: 30 },
    );
  });
});
