/** Limits are where the standards put them: just within them something passes, just beyond it does not. */
import { iconContrast } from '../../../src/core/areas/contrast/checks/icon-contrast.ts';
import { blurredPicture } from '../../../src/core/areas/resources/checks/blurred-picture.ts';
import type { SeenIconFact } from '../../../src/core/model/fact.ts';
import { aCell, anIntent, box, observeApp, run } from '../../support/facts.ts';
import { entriesOf, findingsIn, textFacts } from '../../support/texts.ts';

const iconOf = (ratio: number): SeenIconFact => ({
  kind: 'icon-contrast',
  cell: aCell,
  evidence: 'e',
  platform: 'android',
  element: { key: 'close', className: 'ImageButton', shown: 'Close', boundsPx: box([0, 0, 48, 48]) },
  enabled: true,
  meant: true,
  ratio,
  interval: [ratio, ratio],
  foreground: '#949494',
  background: '#ffffff',
});

test.each([
  [3.05, 'passed'],
  [2.95, 'failed'],
])('an icon of %s to 1: %s (WCAG 2.2, 1.4.11)', (ratio, outcome) => {
  expect(run(iconContrast, [iconOf(ratio)]).map((one) => one.outcome)).toEqual([outcome]);
});

const POSTER = {
  name: 'drawable/poster',
  forms: [{ qualifiers: 'mdpi', file: 'res/p.png', widthPx: 9, heightPx: 9 }],
};

test.each([
  [208, 'passed'],
  [224, 'failed'],
])('a picture of 160 dpi on %s dpi: %s', (densityDpi, outcome) => {
  const facts = observeApp({ variants: [POSTER] });
  const intent = anIntent({ devices: [{ name: 'one', densityDpi, widthDp: 411, heightDp: 891 }] });
  expect(run(blurredPicture, facts, intent).map((one) => one.outcome)).toEqual([outcome]);
});

test('how wide a translation may be (W3C, Text size in translation)', () => {
  const source = 'm'.repeat(40);
  const intent = anIntent({ locales: ['en', 'de'] });
  const isTold = (letters: number) =>
    findingsIn(textFacts(entriesOf({ a: { en: source, de: 'm'.repeat(letters) } })), ['text-growth'], intent)
      .length > 0;
  const first = Array.from({ length: 200 }, (_, letters) => letters).find(isTold);
  // from 31 to 50 characters 160 %, and half as much again since widths are estimated
  expect(first).toBe(40 * 1.6 * 1.5 + 1);
});
