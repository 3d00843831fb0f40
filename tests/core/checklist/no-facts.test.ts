/** Absence never reads as passed: with no facts at all, every item is untested or does not apply, whatever is intended. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { parse } from 'yaml';
import { checks } from '../../../src/core/areas/checks.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { judge } from '../../../src/core/checklist/judge.ts';
import { checklistSchema } from '../../../src/core/model/checklist.ts';
import type { Intent } from '../../../src/core/model/intent.ts';
import { readIntent } from '../../../src/node/project.ts';
import { anIntent, appEvidence } from '../../support/facts.ts';
import { demoFolder, root } from '../../support/paths.ts';

const list = checklistSchema.parse(parse(readFileSync(join(root, 'checklists/mobile-release.yaml'), 'utf8')));
const checklist = assembleChecklist(
  list,
  undefined,
  checks.map(({ id }) => id),
);
const demoIntent = await readIntent(join(demoFolder, 'fenlok.yaml'));

const judged = (intent: Intent, platform: 'android' | 'ios', strict: boolean) =>
  judge({
    candidate: { platform, name: 'Kelpline', build: appEvidence({}).app.build },
    facts: [],
    intent,
    checklist,
    rulings: { fenlok: 'rulings/1', rulings: [], signOffs: [] },
    checks,
    strict,
    now: '2026-11-29T12:00:00.000Z',
  });

/** The demo's intent file with any of its parts as if they had not been written. */
const someIntent = fc
  .subarray(Object.keys(demoIntent).filter((key) => key !== 'app' && key !== 'fenlok'))
  .map((left): Intent => {
    const bare = anIntent() as Record<string, unknown>;
    return { ...demoIntent, ...Object.fromEntries(left.map((key) => [key, bare[key]])) };
  });

test('nothing is found, nothing passes, no verdict is clear', () => {
  fc.assert(
    fc.property(someIntent, fc.constantFrom('android', 'ios'), fc.boolean(), (intent, platform, strict) => {
      const { ads, coverage, drills, findings, items, messages, purchases, routes, verdict } = judged(
        intent,
        platform as 'android',
        strict,
      );
      expect(findings).toEqual([]);
      expect(verdict).toBe('open');
      const others = items.filter(({ outcome }) => outcome !== 'untested' && outcome !== 'inapplicable');
      const cells = [
        ...[coverage, drills].flatMap((table) => table.map(({ outcome }) => outcome)),
        ...[ads, messages, purchases, routes].flatMap(({ rows }) =>
          rows.flatMap((row) => row.cells.map(({ outcome }) => outcome)),
        ),
      ];
      expect(cells.filter((outcome) => outcome !== 'untested' && outcome !== 'inapplicable')).toEqual([]);
      expect(others.map(({ id, outcome, why }) => `${id} ${outcome}: ${why}`)).toEqual([]);
    }),
    { numRuns: 40 },
  );
});
