/** One release on two platforms: its items beside each other, one verdict, and where the two are not alike. */
import { checks } from '../../areas/checks.ts';
import type { Finding } from '../../model/finding.ts';
import type { JointDifference, JointJudgement } from '../../model/joint.ts';
import type { ItemOutcome, Judgement, Verdict } from '../../model/judgement.ts';
import { worstFirst } from '../../model/outcome.ts';

const WORST_VERDICT: readonly Verdict[] = ['blocked', 'open', 'clear'];

/** @param pair of the two platforms, in any order */
export function joinJudgements(pair: readonly [Judgement, Judgement]): JointJudgement {
  const [android, ios] = ['android', 'ios'].map((platform) =>
    pair.find(({ candidate }) => candidate.platform === platform),
  ) as [Judgement, Judgement];
  const ids = [...new Set([...android.items, ...ios.items].map(({ id }) => id))];
  const items = ids.flatMap((id) => {
    const [own, other] = [android, ios].map(({ items: of }) => of.find((item) => item.id === id));
    const { area, level, shows } = (own ?? other)!;
    // what is of neither is none of the release
    return [{ id, area, level, shows, android: sideOf(own), ios: sideOf(other) }];
  });
  return {
    fenlok: 'joint/1',
    android: headOf(android),
    ios: headOf(ios),
    verdict: WORST_VERDICT.find((verdict) => [android.verdict, ios.verdict].includes(verdict))!,
    items: items.sort((a, b) => rankOf(a) - rankOf(b)),
    differences: [
      ...versions(android, ios),
      ...prices(android, ios),
      ...screens(android, ios),
      ...routes(android, ios),
      ...findingsOf(android, ios),
      ...findingsOf(ios, android),
    ],
  };
}

const headOf = ({ candidate: { build, name }, judgedAt, verdict }: Judgement) => ({
  name,
  build,
  verdict,
  judgedAt,
});

const sideOf = (item: ItemOutcome | undefined) => ({
  outcome: item?.outcome ?? ('inapplicable' as const),
  why: item?.why ?? '',
});

/** What fails on either comes first, blocking before advisory. */
const rankOf = ({ android, ios, level }: JointJudgement['items'][number]): number =>
  Math.min(...[android, ios].map(({ outcome }) => worstFirst.indexOf(outcome))) * 2 +
  (level === 'blocking' ? 0 : 1);

function* versions(android: Judgement, ios: Judgement): Iterable<JointDifference> {
  const [own, other] = [android.candidate.build.version, ios.candidate.build.version];
  if (own !== other)
    yield { kind: 'version', on: 'android', what: `Android is version ${own}, iOS ${other}`, finding: '' };
}

/** What costs more on one of them, in the same currency. */
function* prices({ offers = [] }: Judgement, { offers: others = [] }: Judgement): Iterable<JointDifference> {
  for (const { amount, currency, price, product } of offers) {
    const theirs = others.find((one) => one.product === product && one.currency === currency);
    if (!theirs || theirs.amount === amount) continue;
    const what = `${product} costs ${price} on Android, ${theirs.price} on iOS`;
    yield { kind: 'price', on: amount > theirs.amount ? 'android' : 'ios', what, finding: '' };
  }
}

/** A screen that was seen on one and never on the other, where screens of the other were seen at all. */
function* screens(android: Judgement, ios: Judgement): Iterable<JointDifference> {
  const seen = ({ coverage, drills }: Judgement) =>
    new Set(
      [...coverage, ...drills].filter(({ evidence }) => evidence.length > 0).map(({ cell }) => cell.screen),
    );
  const [own, other] = [seen(android), seen(ios)];
  if (own.size === 0 || other.size === 0) return;
  for (const [on, has, lacks] of [
    ['ios', own, other],
    ['android', other, own],
  ] as const)
    for (const screen of has)
      if (!lacks.has(screen))
        yield {
          kind: 'screen',
          on,
          what: `The screen ${screen} was not seen, and it was on the other`,
          finding: '',
        };
}

/** A route that lands on one, and fails on the other, tried in the same way. */
function* routes(android: Judgement, ios: Judgement): Iterable<JointDifference> {
  for (const [on, own, other] of [
    ['android', android, ios],
    ['ios', ios, android],
  ] as const)
    for (const row of own.routes.rows) {
      const theirs = other.routes.rows.find(({ name }) => name === row.name);
      const failing = own.routes.columns.flatMap((column, i) => {
        const cell = row.cells[i]!;
        const passes = theirs?.cells[other.routes.columns.indexOf(column)]?.outcome === 'passed';
        return cell.outcome === 'failed' && passes ? [{ column, finding: cell.findings[0] ?? '' }] : [];
      });
      if (failing.length > 0)
        yield {
          kind: 'route',
          on,
          what: `The link ${row.name}: ${failing.map(({ column }) => column).join(', ')}`,
          finding: failing[0]!.finding,
        };
    }
}

/** What fails on one, and not on the other, where that was looked at in the same way. */
function* findingsOf(own: Judgement, other: Judgement): Iterable<JointDifference> {
  const on = own.candidate.platform;
  const keys = new Set(other.findings.map(keyOf));
  const told = new Set<string>();
  for (const finding of own.findings.filter(({ basis }) => basis === 'measured')) {
    const item = own.items.find(({ findings }) => findings.includes(finding.id));
    const theirs = other.items.find(({ id }) => id === item?.id);
    const key = keyOf(finding);
    // links are told row by row
    if (!item || !theirs || keys.has(key) || told.has(key) || finding.check.startsWith('link-')) continue;
    if (!wasLookedAt(finding, theirs)) continue;
    told.add(key);
    yield {
      kind: 'finding',
      on,
      what: finding.words.what,
      finding: finding.id,
    };
  }
}

/** What is read from a package was looked at as a whole; of the rest only an item that passes tells so. */
const wasLookedAt = ({ check }: Finding, { outcome }: ItemOutcome): boolean =>
  outcome === 'passed' || (OF_PACKAGES.has(check) && (outcome === 'failed' || outcome === 'cantTell'));

const OF_PACKAGES = new Set(checks.filter(({ needs }) => needs === 'package').map(({ id }) => id));

const keyOf = ({ check, identity: { aspect = '', screen = '', subject } }: Finding): string =>
  [check, screen, subject, aspect].join('|');
