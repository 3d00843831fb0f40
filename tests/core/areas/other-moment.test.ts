/** A picture and a tree that were taken one after another, while the screen changed. */

import { indexFacts } from '../../../src/core/areas/check.ts';
import { checks } from '../../../src/core/areas/checks.ts';
import { captureObservers } from '../../../src/core/areas/observers-by-evidence.ts';
import { collectFindings } from '../../../src/core/checklist/collect-findings.ts';
import { readHierarchy } from '../../../src/core/formats/android/hierarchy.ts';
import { unwrap } from '../../../src/core/model/problem.ts';
import { decodeImage } from '../../../src/node/decode-image.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { kelpline } from '../../../src/standins/phone/apps/kelpline/kelpline.ts';
import { startPhone } from '../../../src/standins/phone/phone.ts';
import { shapes } from '../../../src/standins/phone/shapes.ts';
import { anIntent, observeApp, screenEvidence } from '../../support/facts.ts';
import { demoApk } from '../../support/paths.ts';

const show = (screen: string) =>
  withPackage(demoApk, async (opened) => {
    const phone = startPhone(shapes.common, opened, kelpline);
    const { hierarchyXml, png } = await phone.show({ screen, locale: 'en', theme: 'light', textScale: 1 });
    return {
      tree: unwrap(await readHierarchy('x.xml', hierarchyXml)),
      pixels: await decodeImage('x.png', png),
    };
  });

test.each([
  ['settings', 'settings', false],
  ['alerts', 'settings', true],
  ['booking', 'timetable', true],
])('a tree of %s beside a picture of %s', async (ofTree, ofPicture, isOther) => {
  const [{ tree }, { pixels }] = await Promise.all([show(ofTree), show(ofPicture)]);
  const evidence = screenEvidence(tree, { pixels, densityDpi: 480 });
  const facts = captureObservers.flatMap((observer) => [...observer.observe(evidence)]);
  const reports = collectFindings(checks, indexFacts([...observeApp({}), ...facts]), anIntent());
  const of = (id: string) => reports.find(({ check }) => check.id === id)!;
  expect(of('unread-part').findings.map(({ words }) => words.what)).toEqual(
    isOther ? [expect.stringContaining('do not belong together')] : [],
  );
  // told once: nothing passes and nothing fails by such a picture
  expect(of('text-contrast').passed > 0).toBe(!isOther);
  expect(of('text-contrast').missingEvidence).toEqual(
    isOther ? ['a picture of the same moment as their tree'] : [],
  );
  if (isOther) expect([...of('text-contrast').findings, ...of('icon-contrast').findings]).toEqual([]);
});
