// Speed of looking at a screen, as a ratio within one run and in one thread: one capture of 1080 × 2400 px of the demo, decoded,
// measured and judged by all checks of captures, against what sharp needs to decode its picture; and 1,000 captures in a row.
import { join } from 'node:path';

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const MIB = 2 ** 20;

export async function benchScreens(root, rounds) {
  const { default: sharp } = await import('sharp');
  const { captureObservers } = await import('../dist/core/areas/observers-by-evidence.js');
  const { indexFacts } = await import('../dist/core/areas/check.js');
  const { checks } = await import('../dist/core/areas/checks.js');
  const { collectFindings } = await import('../dist/core/checklist/collect-findings.js');
  const { emptyIntent } = await import('../dist/core/model/intent.js');
  const { decodeCapture } = await import('../dist/node/read-capture.js');
  const { withPackage } = await import('../dist/node/read-package.js');
  const { kelpline, shapes, startPhone } = await import('../dist/standins/index.js');
  sharp.concurrency(1);
  const shown = await withPackage(join(root, 'demo/kelpline/kelpline.apk'), (apk) =>
    startPhone(shapes.common, apk, kelpline).show({
      screen: 'timetable',
      locale: 'en',
      theme: 'light',
      textScale: 1,
    }),
  );
  const cell = {
    screen: 'timetable',
    procedure: 'as-is',
    step: '',
    device: 'd',
    locale: 'en',
    theme: 'light',
  };
  const files = {
    capture: {
      fenlok: 'capture/1',
      platform: 'android',
      cell: { ...cell, textScale: 1, orientation: 'portrait' },
      densityDpi: 480,
      picture: 's.png',
      hierarchy: 's.xml',
      carries: [],
    },
    picture: shown.png,
    hierarchyXml: shown.hierarchyXml,
  };
  const ofScreens = checks.filter(({ needs }) => needs === 'capture');
  const intent = emptyIntent('bench');
  const look = async () => {
    const evidence = await decodeCapture('s.json', 'd', files, 'seen');
    const facts = captureObservers.flatMap((observer) => [...observer.observe(evidence)]);
    return collectFindings(ofScreens, indexFacts(facts), intent);
  };
  const timed = async (run) => {
    const start = performance.now();
    await run();
    return performance.now() - start;
  };
  const decode = () => sharp(files.picture).ensureAlpha().raw().toBuffer();
  for (let i = 0; i < 10; i++) await look();
  const pairs = [];
  for (let i = 0; i < rounds * 6; i++) pairs.push([await timed(look), await timed(decode)]);
  const elements = files.hierarchyXml.match(/<node/g).length;
  console.log(`\none capture of 1080 × 2400 px, ${elements} elements, ${ofScreens.length} checks`);
  console.log(
    `  decoded, measured, judged        ${median(pairs.map(([ms]) => ms))
      .toFixed(1)
      .padStart(6)} ms`,
  );
  console.log(
    `  decoded by sharp alone           ${median(pairs.map(([, ms]) => ms))
      .toFixed(1)
      .padStart(6)} ms`,
  );
  console.log(
    `  ratio                            ${median(pairs.map(([a, b]) => a / b))
      .toFixed(2)
      .padStart(6)}   (wanted: at most 2)`,
  );
  const tenths = [];
  for (let tenth = 0; tenth < 10; tenth++) {
    tenths.push(
      await timed(async () => {
        for (let i = 0; i < 100; i++) await look();
      }),
    );
    if (tenth === 0 || tenth === 9)
      console.log(
        `  after ${(tenth + 1) * 100} captures: ${(tenths.at(-1) / 100).toFixed(1)} ms each, ${(process.memoryUsage().rss / MIB).toFixed(0)} MiB`,
      );
  }
}
