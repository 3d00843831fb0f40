// On a machine that has run no test yet Jest knows no times, and begins with the largest files. The slowest suite would then
// begin last, and one worker would wait for it: these begin first, in this order.
const SLOW = [
  'tests/pages/screen-truth.test.ts',
  'tests/demo/truth.test.ts',
  'tests/pages/plants.test.ts',
  'tests/cli/drill.test.ts',
  'tests/pages/rehearsal.test.ts',
];

const rankOf = ({ path }) => {
  const rank = SLOW.findIndex((suffix) => path.replaceAll('\\', '/').endsWith(suffix));
  return rank < 0 ? SLOW.length : rank;
};

/** Jest's interface of a test sequencer, without its cache of earlier runs. */
export default class SlowFirst {
  shard(tests, { shardCount, shardIndex }) {
    return tests.filter((_, i) => i % shardCount === shardIndex - 1);
  }
  sort(tests) {
    return [...tests].sort((a, b) => rankOf(a) - rankOf(b) || (a.path < b.path ? -1 : 1));
  }
  allFailedTests() {
    return [];
  }
  cacheResults() {}
}
