// A million lines of purchases judged as they are read, against what JSON.parse alone takes for them, within one run; and how
// many sales are held at once while it goes on.
const START_MS = Date.parse('2026-01-01T00:00:00Z');
const MINUTE_MS = 60_000;
const LINES = 1_000_000;

/** Testers one after another: each buys, renews a few times, looks, and lets it end. */
function* history() {
  for (let account = 0, told = 0; told < LINES; account++) {
    const of = { account: `tester-${account}`, device: `phone-${account}` };
    const at = (minute) => new Date(START_MS + (account * 3 + minute) * MINUTE_MS).toISOString();
    const sale = (n, kind) =>
      JSON.stringify({
        at: at(n * 5),
        kind,
        ...of,
        product: 'pass.month',
        productKind: 'subscription',
        transaction: `t-${account}-${n}`,
        original: `t-${account}-0`,
        until: at(n * 5 + 5),
      });
    const lines = [
      JSON.stringify({ at: at(0), kind: 'store.asked', ...of, product: 'pass.month' }),
      sale(0, 'store.bought'),
      JSON.stringify({
        at: at(0.1),
        kind: 'purchase.granted',
        ...of,
        product: 'pass.month',
        transaction: `t-${account}-0`,
      }),
      JSON.stringify({ at: at(0.2), kind: 'store.finished', ...of, transaction: `t-${account}-0` }),
      ...[1, 2, 3, 4].flatMap((n) => [
        sale(n, 'store.renewed'),
        JSON.stringify({ at: at(n * 5 + 1), kind: 'access.now', ...of, products: ['pass.month'] }),
      ]),
      JSON.stringify({ at: at(30), kind: 'store.expired', ...of, original: `t-${account}-0` }),
      JSON.stringify({
        at: at(31),
        kind: 'access.now',
        ...of,
        products: account % 1000 ? [] : ['pass.month'],
      }),
    ];
    told += lines.length;
    yield* lines;
  }
}

export async function benchLedger(rounds) {
  const { LedgerJudge } = await import('../dist/core/index.js');
  const texts = [...history()].sort();
  const ratios = [];
  let report;
  for (let round = 0; round < rounds; round++) {
    let start = performance.now();
    let kinds = 0;
    for (const text of texts) kinds += JSON.parse(text).kind.length;
    const parsedMs = performance.now() - start;
    if (kinds === 0) throw new Error('nothing was parsed');
    start = performance.now();
    const judge = new LedgerJudge({ latenessMs: 60 * MINUTE_MS });
    for (const text of texts) judge.take(JSON.parse(text));
    report = judge.end();
    ratios.push((performance.now() - start - parsedMs) / parsedMs);
  }
  ratios.sort((a, b) => a - b);
  const { faults, mostOpen, sales } = report;
  console.log(
    `judging ${texts.length} lines of purchases: ${ratios[Math.floor(rounds / 2)].toFixed(2)} × JSON.parse (${ratios[0].toFixed(2)} to ${ratios.at(-1).toFixed(2)}); ${sales} sales, ${mostOpen} held at once, ${faults.length} faults`,
  );
}
