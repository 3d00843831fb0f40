/** What people decided is never lost: three people who rule, sign and merge by git, in whatever order. */
import { execFileSync, spawnSync } from 'node:child_process';
import { appendFileSync, copyFileSync, cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { Finding } from '../../src/core/model/finding.ts';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { rulingsFileSchema } from '../../src/core/model/ruling.ts';
import { addCatalogue, addPackage, openDossier } from '../../src/node/dossier.ts';
import { judgeDossier } from '../../src/node/judge-dossier.ts';
import { readProject } from '../../src/node/project.ts';
import { readYaml } from '../../src/node/read-yaml.ts';
import { settleRulings, withdrawRuling, writeRulings, writeSignOff } from '../../src/node/write-rulings.ts';
import { aBuild } from '../support/facts.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const ENV = {
  ...process.env,
  GIT_CONFIG_GLOBAL: '/dev/null',
  GIT_AUTHOR_NAME: 'a',
  GIT_AUTHOR_EMAIL: 'a@people.example',
  GIT_COMMITTER_NAME: 'a',
  GIT_COMMITTER_EMAIL: 'a@people.example',
};
const git = (folder: string, ...args: string[]) =>
  execFileSync('git', args, { cwd: folder, env: ENV, stdio: 'pipe' });

const ITEMS = ['ratings.asked', 'listing.texts'];
const PEOPLE = ['Ada', 'Bo', 'Cy'];

const said = { who: fc.nat(2), what: fc.nat(3), as: fc.nat(2), day: fc.integer({ min: 1, max: 3 }) };
const step = fc.oneof(
  { weight: 3, arbitrary: fc.record({ kind: fc.constant('rule' as const), ...said }) },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('sign' as const), ...said }) },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant('merge' as const), who: fc.nat(2), from: fc.nat(2) }),
  },
  fc.record({ kind: fc.constant('add' as const), who: fc.nat(2) }),
  fc.record({ kind: fc.constant('judge' as const), who: fc.nat(2) }),
);

let made = 0;

/** One repository, with a branch and a work tree for each of three people. */
function repository(): string[] {
  made += 1;
  const first = join(scratch, `r${made}`, PEOPLE[0]!);
  mkdirSync(first, { recursive: true });
  git(first, 'init', '-q', '-b', PEOPLE[0]!);
  writeFileSync(
    join(first, 'rulings.yaml'),
    '# Ours.\nfenlok: rulings/1\nrulings:\n  - finding: mmmm-9999 # of old\n    digest: d\n    ruling: accepted\n    why: w\n    by: Di\n    at: 2026-11-01\nsignOffs: []\n',
  );
  git(first, 'add', '.');
  git(first, 'commit', '-qm', 'begin');
  const others = PEOPLE.slice(1).map((name) => {
    const folder = join(scratch, `r${made}`, name);
    git(first, 'worktree', 'add', '-qb', name, folder);
    return folder;
  });
  return [first, ...others];
}

// what is decided on: findings of the demo's package, which each person has a dossier of
const judged = join(scratch, 'judged');
let decidable: Finding[];
beforeAll(async () => {
  await addPackage(judged, demoApk);
  decidable = (await judgeIn(judged, scratch)).findings.slice(0, 4);
});

async function judgeIn(dossier: string, folder: string): Promise<Judgement> {
  const project = await readProject(folder, 'example.kelpline');
  return judgeDossier(await openDossier(dossier), project, { strict: false, now: new Date('2026-11-20') });
}

/** As a person says it: what must still be there afterwards, in force or as a comment. */
const say = (as: string, by: string, at: string, why: string) => `${as}, ${by}, ${at}: ${why}`;

test('a walk of rulings, sign-offs, evidence, judgements and merges loses no decision', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 10 }), async (steps) => {
      const folders = repository();
      const dossierOf = (who: number) => `${folders[who]!}-dossier`;
      for (const who of folders.keys()) cpSync(judged, dossierOf(who), { recursive: true });
      const file = (who: number) => join(folders[who]!, 'rulings.yaml');
      // by person, what their file must hold: what they said last of each thing, and what they took over
      const known = folders.map(() => new Map([['mmmm-9999', new Set(['accepted, Di, 2026-11-01: w'])]]));
      // what somebody who knew of it decided anew
      const replaced = new Map<string, ReadonlySet<string>>();
      const decide = (own: Map<string, Set<string>>, key: string, said: string) => {
        const before = [...(own.get(key) ?? [])];
        replaced.set(said, new Set(before.flatMap((words) => [words, ...(replaced.get(words) ?? [])])));
        own.set(key, new Set([said]));
      };
      let serial = 0;
      for (const one of steps) {
        const folder = folders[one.who]!;
        const own = known[one.who]!;
        if (one.kind === 'merge') {
          if (one.from === one.who) continue;
          const { status } = spawnSync('git', ['merge', '-q', '-m', 'merge', PEOPLE[one.from]!], {
            cwd: folder,
            env: ENV,
          });
          if (status !== 0) {
            await expect(readYaml(file(one.who), rulingsFileSchema)).rejects.toThrow('fenlok rule --settle');
            await settleRulings(file(one.who));
          }
          for (const [key, said] of known[one.from]!) {
            const all = [...(own.get(key) ?? []), ...said];
            const old = new Set(all.flatMap((words) => [...(replaced.get(words) ?? [])]));
            own.set(key, new Set(all.filter((words) => !old.has(words))));
          }
        } else if (one.kind === 'add') {
          serial += 1;
          const texts = join(scratch, `more-${serial}.json`);
          writeFileSync(texts, `{"greeting": "Hello ${serial}"}`);
          await addCatalogue(await openDossier(dossierOf(one.who)), texts);
        } else if (one.kind === 'judge') {
          const before = readFileSync(file(one.who), 'utf8');
          const { findings } = await judgeIn(dossierOf(one.who), folder);
          expect(readFileSync(file(one.who), 'utf8')).toBe(before);
          const { rulings } = (await readYaml(file(one.who), rulingsFileSchema)).value;
          // what is decided holds in the judgement, whatever was added since
          for (const { by, finding, ruling, why } of rulings.filter((of) => of.finding !== 'mmmm-9999'))
            expect(findings.find(({ id }) => id === finding)).toMatchObject({ ruling: { by, ruling, why } });
        } else {
          serial += 1;
          const at = `2026-11-${10 + one.day}`;
          const by = PEOPLE[one.who]!;
          const why = `reason ${serial}`;
          if (one.kind === 'rule') {
            const ruling = (['false-alarm', 'accepted', 'real'] as const)[one.as]!;
            const { digest, id: finding } = decidable[one.what]!;
            await writeRulings(file(one.who), [{ finding, about: '', digest, ruling, why, by, at }]);
            decide(own, finding, say(ruling, by, at, why));
          } else {
            const outcome = (['passed', 'failed', 'inapplicable'] as const)[one.as]!;
            const item = ITEMS[one.what % 2]!;
            await writeSignOff(file(one.who), { item, outcome, why, by, at, build: aBuild });
            decide(own, item, say(outcome, by, at, why));
          }
        }
        git(folder, 'add', '.');
        spawnSync('git', ['commit', '-qm', 'x'], { cwd: folder, env: ENV });
        const text = readFileSync(file(one.who), 'utf8');
        const { rulings, signOffs } = (await readYaml(file(one.who), rulingsFileSchema)).value;
        const inForce = new Set([
          ...rulings.map(({ at, by, ruling, why }) => say(ruling, by, at, why)),
          ...signOffs.map(({ at, by, outcome, why }) => say(outcome, by, at, why)),
        ]);
        const lost = [...own.values()].flatMap((said) =>
          [...said].filter((words) => !inForce.has(words) && !text.includes(`gave way: ${words}`)),
        );
        expect({ lost, comment: text.startsWith('# Ours.') && text.includes('# of old') }).toEqual({
          lost: [],
          comment: true,
        });
        expect(new Set(rulings.map(({ finding }) => finding)).size).toBe(rulings.length);
      }
    }),
    { numRuns: Number(process.env.RULING_WALKS ?? 10) },
  );
});

test('two people who rule on different findings merge by themselves', async () => {
  const [ada, bo] = repository();
  const ruling = (finding: string, by: string) => ({
    finding,
    about: '',
    digest: 'd',
    ruling: 'accepted' as const,
    why: 'w',
    by,
    at: '2026-11-20',
  });
  await writeRulings(join(ada!, 'rulings.yaml'), [ruling('aaaa-0000', 'Ada')]);
  await writeRulings(join(bo!, 'rulings.yaml'), [ruling('zzzz-0000', 'Bo')]);
  for (const folder of [ada!, bo!]) git(folder, 'commit', '-qam', 'rule');
  git(ada!, 'merge', '-q', '-m', 'merge', 'Bo');
  const { rulings } = (await readYaml(join(ada!, 'rulings.yaml'), rulingsFileSchema)).value;
  expect(rulings.map(({ finding }) => finding)).toEqual(['aaaa-0000', 'mmmm-9999', 'zzzz-0000']);
});

test('of two that disagree the later holds, of one day the stricter, and the other stands beside it', async () => {
  const entry = (ruling: string, by: string, at: string) =>
    `  - finding: aaaa-0000\n    digest: d\n    ruling: ${ruling}\n    why: ${by} says\n    by: ${by}\n    at: ${at}\n`;
  const settle = async (ours: string, theirs: string) => {
    const file = join(scratch, 'rulings.yaml');
    writeFileSync(
      file,
      `fenlok: rulings/1\nrulings:\n<<<<<<< HEAD\n${ours}||||||| base\n=======\n${theirs}>>>>>>> theirs\nsignOffs: []\n`,
    );
    const { gaveWay } = await settleRulings(file);
    const { rulings } = (await readYaml(file, rulingsFileSchema)).value;
    return [rulings.map(({ by }) => by), gaveWay.map(({ by }) => by), readFileSync(file, 'utf8')];
  };
  expect(await settle(entry('real', 'Ada', '2026-11-20'), entry('accepted', 'Bo', '2026-11-21'))).toEqual([
    ['Bo'],
    ['Ada'],
    expect.stringContaining('# gave way: real, Ada, 2026-11-20: Ada says'),
  ]);
  expect(
    (await settle(entry('false-alarm', 'Ada', '2026-11-20'), entry('real', 'Bo', '2026-11-20')))[0],
  ).toEqual(['Bo']);
  expect(
    (await settle(entry('real', 'Ada', '2026-11-20'), entry('false-alarm', 'Bo', '2026-11-20')))[0],
  ).toEqual(['Ada']);
});

test('what cannot be settled is refused, and left as it is', async () => {
  const file = join(scratch, 'refused.yaml');
  writeFileSync(file, 'fenlok: rulings/1\n');
  await expect(settleRulings(file)).rejects.toThrow('nothing to settle');
  appendFileSync(file, '<<<<<<< a\nrulings: [\n=======\nrulings: []\n>>>>>>> b\n');
  const before = readFileSync(file, 'utf8');
  await expect(settleRulings(file)).rejects.toThrow('YAML that cannot be read');
  expect(readFileSync(file, 'utf8')).toBe(before);
});

test('a ruling is taken back; the one before it holds again', async () => {
  const file = join(scratch, 'back.yaml');
  copyFileSync(join(repository()[0]!, 'rulings.yaml'), file);
  const first = {
    finding: 'aaaa-0000',
    about: '',
    digest: 'd',
    ruling: 'real' as const,
    why: 'w',
    by: 'Ada',
    at: '2026-11-20',
  };
  const read = async () =>
    (await readYaml(file, rulingsFileSchema)).value.rulings.map(
      ({ finding, ruling }) => `${finding} ${ruling}`,
    );
  await writeRulings(file, [first]);
  await writeRulings(file, [{ ...first, ruling: 'accepted' }]);
  await withdrawRuling(file, first.finding, first);
  expect(await read()).toEqual(['aaaa-0000 real', 'mmmm-9999 accepted']);
  await withdrawRuling(file, first.finding, undefined);
  expect(await read()).toEqual(['mmmm-9999 accepted']);
});
