/** What readers, switches and voices meet: the walk itself, and the checks of it, on trees of either platform. */
import fc from 'fast-check';
import { crowdedTarget } from '../../../src/core/areas/accessibility/checks/crowded-target.ts';
import { fieldLabel } from '../../../src/core/areas/accessibility/checks/field-label.ts';
import { hiddenGesture } from '../../../src/core/areas/accessibility/checks/hidden-gesture.ts';
import { labelInName } from '../../../src/core/areas/accessibility/checks/label-in-name.ts';
import { meaninglessName } from '../../../src/core/areas/accessibility/checks/meaningless-name.ts';
import { noHeading } from '../../../src/core/areas/accessibility/checks/no-heading.ts';
import { overlappingTargets } from '../../../src/core/areas/accessibility/checks/overlapping-targets.ts';
import { roleConflict } from '../../../src/core/areas/accessibility/checks/role-conflict.ts';
import { roleInName } from '../../../src/core/areas/accessibility/checks/role-in-name.ts';
import { sameName } from '../../../src/core/areas/accessibility/checks/same-name.ts';
import { unnamedControl } from '../../../src/core/areas/accessibility/checks/unnamed-control.ts';
import { unreachableControl } from '../../../src/core/areas/accessibility/checks/unreachable-control.ts';
import { unseenFocus } from '../../../src/core/areas/accessibility/checks/unseen-focus.ts';
import { unspokenState } from '../../../src/core/areas/accessibility/checks/unspoken-state.ts';
import { voiceName } from '../../../src/core/areas/accessibility/checks/voice-name.ts';
import { leastGrowth } from '../../../src/core/areas/accessibility/pairs/scale-curve.ts';
import { scannedRows, scanStops } from '../../../src/core/areas/accessibility/scan.ts';
import { scanNext, scanSelect, scanStart } from '../../../src/core/areas/accessibility/scan-player.ts';
import { walkStops } from '../../../src/core/areas/accessibility/walk-stops.ts';
import type { Check } from '../../../src/core/areas/check.ts';
import type { Rgb } from '../../../src/core/areas/contrast/colour.ts';
import { simulateVision, visions } from '../../../src/core/areas/contrast/colour-vision.ts';
import type { UiNode } from '../../../src/core/model/ui-tree.ts';
import { anIntent, departures, observeScreen, run, ui } from '../../support/facts.ts';

const screen = (...children: UiNode[]) => ui([0, 0, 400, 800], { className: 'Frame' }, ...children);
const picture = { widthPx: 400, heightPx: 800 };
const walk = (tree: UiNode, of: { rtl?: boolean; platform?: 'android' | 'ios' } = {}) =>
  walkStops(tree, picture, { platform: 'android', rtl: false, ...of });
const names = (tree: UiNode, of?: Parameters<typeof walk>[1]) => walk(tree, of).stops.map(({ name }) => name);
const label = (x: number, y: number, text: string, of: Partial<UiNode> = {}) =>
  ui([x, y, 60, 20], { text, ...of });
const tap = (of: Partial<UiNode>, ...children: UiNode[]) =>
  ui([10, 10, 60, 60], { id: 'it', clickable: true, ...of }, ...children);
const focusAt = (...at: [number, number, number, number]) => ui(at, { id: 'it', focusable: true });

describe('reading order', () => {
  const two = [label(200, 10, 'right'), label(10, 12, 'left'), label(10, 100, 'below')];

  test('goes by rows from the start of the line, whatever the order in the tree', () => {
    expect(names(screen(...two))).toEqual(['left', 'right', 'below']);
    expect(names(screen(...two), { rtl: true })).toEqual(['right', 'left', 'below']);
  });

  test('follows links that say what comes before or after what, and no link to nowhere', () => {
    const linked = [
      label(10, 10, 'one', { id: 'a' }),
      label(10, 50, 'two', { id: 'b', readBefore: 'a' }),
      label(10, 90, 'three', { id: 'c', readAfter: 'b' }),
      label(10, 130, 'four', { id: 'd', readAfter: 'gone' }),
    ];
    expect(names(screen(...linked))).toEqual(['two', 'three', 'one', 'four']);
  });

  test('every visible control is met once, in any arrangement', () => {
    const at = fc.tuple(fc.integer({ min: 0, max: 340 }), fc.integer({ min: 0, max: 740 }));
    fc.assert(
      fc.property(fc.array(at, { maxLength: 12 }), fc.boolean(), (places, rtl) => {
        const controls = places.map(([x, y], i) => ui([x, y, 60, 60], { clickable: true, label: `n${i}` }));
        expect(names(screen(...controls), { rtl }).sort()).toEqual(places.map((_, i) => `n${i}`).sort());
      }),
    );
  });

  test('an element speaks for what is inside of it on iOS, and shuts it in', () => {
    const row = ui([0, 0, 400, 60], { isElement: true }, label(10, 10, 'Late'), tap({ label: 'Dismiss' }));
    const { stops, unreachable } = walk(screen(row), { platform: 'ios' });
    expect(stops.map(({ name, nameFrom }) => [name, nameFrom])).toEqual([['Late', 'gathered']]);
    expect(unreachable.map(({ name, shutInBy }) => [name, shutInBy])).toEqual([['Dismiss', 'element']]);
    expect(names(screen(row))).toEqual(['Late', 'Dismiss']);
  });

  test('says name, state, role and hint, in parts', () => {
    const node = tap({
      label: 'Bicycle',
      checkable: true,
      checked: true,
      traits: ['switch'],
      hint: 'Free',
      enabled: false,
    });
    expect(walk(screen(node)).stops[0]!.spoken).toEqual(['Bicycle', 'on', 'dimmed', 'switch', 'Free']);
    const field = ui([0, 50, 90, 40], { id: 'f', className: 'EditText', hint: 'Ada' });
    const stop = walk(screen(label(0, 0, 'Your name', { labelFor: 'f' }), field)).stops[1]!;
    expect([stop.name, stop.nameFrom, stop.spoken]).toEqual([
      'Your name',
      'label-for',
      ['Your name', 'field', 'Ada'],
    ]);
  });
});

test('two switches: one after another, or row by row, which is never slower by more than the way into a row', () => {
  const controls = [0, 1, 2].flatMap((row) =>
    [0, 1, 2, 3].map((column) =>
      ui([column * 90, row * 90, 60, 60], { clickable: true, label: `${row}${column}` }),
    ),
  );
  const { stops } = walk(screen(...controls));
  const presses = (pattern: 'linear' | 'rows') => scanStops(stops, pattern, 0.5).map((of) => of.presses);
  expect(presses('linear')).toEqual([2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13]);
  expect(presses('rows')).toEqual([3, 4, 5, 6, 4, 5, 6, 7, 5, 6, 7, 8]);
  expect(scanStops(stops, 'rows', 0.5).at(-1)!.seconds).toBe(4);
});

test('scanning as it is played takes the presses that were worked out, whatever lies where', () => {
  const boxes = fc.array(fc.record({ x: fc.nat(8), y: fc.nat(5), enabled: fc.boolean() }), {
    minLength: 1,
    maxLength: 14,
  });
  fc.assert(
    fc.property(boxes, fc.constantFrom('linear' as const, 'rows' as const), (places, pattern) => {
      const stops = places.map(({ enabled, x, y }) => ({
        actionable: true,
        enabled,
        boundsPx: { x: x * 50, y: y * 50, width: 40, height: 40 },
      }));
      const rows = scannedRows(stops, pattern);
      for (const { presses, stop } of scanStops(stops, pattern, 1)) {
        let state = scanStart;
        for (let press = 0; press < presses; press++) {
          const row = rows[state.row];
          const isThere = row && (state.item === undefined ? row.includes(stop) : row[state.item] === stop);
          state = isThere ? scanSelect(rows, state) : scanNext(rows, state);
        }
        expect(rows[state.activated!.row]![state.activated!.item]).toBe(stop);
        expect(state.presses).toBe(presses);
      }
    }),
  );
});

test('scanning goes round, leaves a row at its end, and selects nothing before it has begun', () => {
  const rows = [['a', 'b'], ['c']];
  expect(scanSelect(rows, scanStart)).toEqual({ row: -1, presses: 1 });
  const walk = (keys: string) =>
    [...keys].reduce((state, key) => (key === 'n' ? scanNext : scanSelect)(rows, state), scanStart);
  expect(walk('nsnn')).toEqual({ row: 1, presses: 4 });
  expect(walk('nnn')).toEqual({ row: 0, presses: 3 });
  expect(walk('nns').activated).toEqual({ row: 1, item: 0 });
  expect(scanNext([], scanStart)).toEqual({ row: -1, presses: 1 });
});

const all = ['traits', 'values', 'headings', 'label-for', 'actions', 'gestures'] as const;
const rows = (count: number, of: Partial<UiNode> = {}) =>
  Array.from({ length: count }, (_, i) => label(10, i * 40, `Row ${i}`, of));
const field = (of: Partial<UiNode> = {}) =>
  ui([0, 100, 200, 50], { id: 'f', className: 'UITextField', traits: ['field'], ...of });
const choice = (ink: number, selected = false) =>
  [0, 1, 2].map((i) =>
    ui([i * 100, 700, 90, 60], {
      id: `tab${i}`,
      clickable: true,
      label: `T${i}`,
      selected: selected && i === ink,
    }),
  );

describe('checks', () => {
  test.each<[string, Check, UiNode[], string[], Parameters<typeof observeScreen>[1]?]>([
    [
      'an image of iOS without a name',
      unnamedControl,
      [ui([0, 0, 50, 50], { id: 'i', className: 'UIImageView', traits: ['image'], isElement: true })],
      ['failed i'],
      { carries: [...all] },
    ],
    [
      'a field that a text is tied to',
      unnamedControl,
      [label(0, 0, 'Name', { labelFor: 'f' }), field()],
      [],
      { carries: [...all] },
    ],
    [
      'a field that no text is tied to',
      unnamedControl,
      [label(0, 0, 'Name'), field()],
      ['failed f'],
      { carries: [...all] },
    ],
    ['focus outside of the screen', unseenFocus, [focusAt(-80, 0, 60, 60)], ['failed it']],
    ['focus on what has no size', unseenFocus, [focusAt(10, 10, 0, 60)], ['failed it']],
    [
      'focus outside of the screen, which a page may bring into sight',
      unseenFocus,
      [ui([0, 0, 400, 800], { className: 'android.webkit.WebView' }, focusAt(-80, 0, 60, 60))],
      ['cantTell it'],
    ],
    ['focus half in sight', unseenFocus, [focusAt(-30, 0, 60, 60)], []],
    [
      'focus that was scrolled away',
      unseenFocus,
      [ui([0, 0, 400, 400], { scrollable: true }, focusAt(0, 900, 60, 60))],
      [],
    ],
    ['the name of a file', meaninglessName, [tap({ label: 'logo_final.png' })], ['failed it']],
    ['the name of a resource', meaninglessName, [tap({ label: 'ic_close' })], ['failed it']],
    ['its own id', meaninglessName, [tap({ label: 'a_b', id: 'a_b' })], ['failed a_b']],
    [
      'the name of its role',
      meaninglessName,
      [tap({ label: 'Button', className: 'x.ImageButton' })],
      ['failed it'],
    ],
    ['a hyphen is no identifier', meaninglessName, [tap({ label: 'check-in' })], []],
    [
      'the role at the end',
      roleInName,
      [tap({ label: 'Save button', className: 'x.Button' })],
      ['failed it'],
    ],
    [
      'the role in German',
      roleInName,
      [tap({ label: 'Schaltfläche Senden', className: 'x.Button' })],
      ['failed it'],
    ],
    ['another role than its own', roleInName, [tap({ label: 'Share link', className: 'x.Button' })], []],
    ['written for all to see', roleInName, [tap({ text: 'Radio button', className: 'x.Button' })], []],
    [
      'two of one name',
      sameName,
      [tap({ label: 'Go', id: 'a' }), tap({ label: 'go!', id: 'b' })],
      ['cantTell a'],
    ],
    ['two of two names', sameName, [tap({ label: 'Go', id: 'a' }), tap({ label: 'Stay', id: 'b' })], []],
    [
      'what is written comes first',
      labelInName,
      [tap({ label: 'Pay now, 17 euros' }, label(12, 12, 'Pay now'))],
      [],
    ],
    [
      'something else is written',
      labelInName,
      [tap({ label: 'Confirm' }, label(12, 12, 'Pay now'))],
      ['failed it'],
    ],
    [
      'a part of it is',
      labelInName,
      [tap({ label: 'Pay now' }, label(12, 12, 'Pay now'), label(12, 30, 'Once'))],
      ['cantTell it'],
    ],
    ['a symbol is no label', labelInName, [tap({ label: 'Close' }, label(12, 12, '×'))], []],
    [
      'link and button',
      roleConflict,
      [tap({ label: 'x', traits: ['button', 'link'] })],
      ['failed it'],
      { carries: [...all] },
    ],
    [
      'a heading that can be tapped',
      roleConflict,
      [tap({ label: 'x', traits: ['button', 'heading'] })],
      [],
      { carries: [...all] },
    ],
    [
      'a value on a text',
      roleConflict,
      [label(0, 0, 'Seats', { id: 't', traits: ['text'], value: '5' })],
      ['failed t value'],
      { carries: [...all] },
    ],
    [
      'a switch that does not tell',
      unspokenState,
      [tap({ label: 'x', className: 'a.Switch' })],
      ['failed it'],
    ],
    ['a switch that does', unspokenState, [tap({ label: 'x', className: 'a.Switch', checkable: true })], []],
    ['a placeholder alone', fieldLabel, [field({ hint: 'Ada' })], ['failed f'], { carries: [...all] }],
    ['a label of its own', fieldLabel, [field({ label: 'Name' })], [], { carries: [...all] }],
    ['fifteen stops and no heading', noHeading, rows(15), ['failed screen'], { carries: [...all] }],
    [
      'fifteen stops and one heading',
      noHeading,
      [...rows(14), label(10, 600, 'Title', { heading: true })],
      [],
      { carries: [...all] },
    ],
    ['a short screen', noHeading, rows(14), [], { carries: [...all] }],
    [
      'one over another',
      overlappingTargets,
      [tap({ label: 'a', id: 'a' }), ui([40, 40, 60, 60], { label: 'b', id: 'b', clickable: true })],
      ['failed a'],
    ],
    [
      'one in another',
      overlappingTargets,
      [tap({ label: 'a' }, ui([20, 20, 30, 30], { label: 'b', id: 'b', clickable: true }))],
      [],
    ],
    [
      'one over what scrolls',
      overlappingTargets,
      [
        ui([0, 0, 400, 800], { className: 'a.List', scrollable: true }, tap({ label: 'a', id: 'a' })),
        ui([40, 40, 60, 60], { label: 'b', id: 'b', clickable: true }),
      ],
      [],
    ],
    [
      'two beside a list',
      overlappingTargets,
      [
        ui([0, 300, 400, 500], { className: 'a.List', scrollable: true }),
        tap({ label: 'a', id: 'a' }),
        ui([40, 40, 60, 60], { label: 'b', id: 'b', clickable: true }),
      ],
      ['failed a'],
    ],
    [
      'small and close',
      crowdedTarget,
      [
        ui([50, 50, 20, 20], { label: 'a', id: 'a', clickable: true }),
        ui([71, 50, 20, 20], { label: 'b', id: 'b', clickable: true }),
      ],
      ['failed a', 'failed b'],
    ],
    [
      'small with room',
      crowdedTarget,
      [
        ui([50, 50, 20, 20], { label: 'a', clickable: true }),
        ui([75, 50, 20, 20], { label: 'b', clickable: true }),
      ],
      [],
    ],
    [
      '24 and close',
      crowdedTarget,
      [
        ui([0, 0, 24, 24], { label: 'a', clickable: true }),
        ui([24, 0, 24, 24], { label: 'b', clickable: true }),
      ],
      [],
    ],
    [
      'hidden from assistive technology',
      unreachableControl,
      [ui([0, 0, 99, 99], { hidden: true }, tap({ label: 'a' }))],
      ['failed it'],
    ],
    [
      'a long press without an action',
      hiddenGesture,
      [tap({ label: 'a', longClickable: true })],
      ['failed it'],
      { carries: [...all] },
    ],
    [
      'a swipe with one',
      hiddenGesture,
      [tap({ label: 'a', swipeable: true, actions: ['Delete'] })],
      [],
      { carries: [...all] },
    ],
    ['a name of symbols', voiceName, [tap({ label: '···' })], ['failed it']],
    [
      'a name that is a speech',
      voiceName,
      [tap({ label: 'one two three four five six seven eight nine ten eleven twelve thirteen' })],
      ['cantTell it'],
    ],
  ])('%s', (_, check, nodes, expected, of = {}) => {
    expect(departures(run(check, observeScreen(screen(...nodes), of)))).toEqual(expected);
  });

  test('what a dump cannot carry is untested on it, never passed or failed', () => {
    const tree = screen(tap({ label: 'a', longClickable: true }), field({ hint: 'Ada' }), ...rows(20));
    for (const check of [roleConflict, fieldLabel, noHeading, hiddenGesture])
      expect(run(check, observeScreen(tree)).map(({ outcome }) => outcome)).toContain('untested');
  });

  test('one of several alike that is drawn otherwise must say that it is the one', () => {
    const facts = (selected: boolean) => {
      const seen = observeScreen(screen(...choice(1, selected)));
      return seen.map((fact) =>
        fact.kind === 'icon-contrast' || fact.kind === 'text-contrast'
          ? ({
              ...fact,
              unseen: undefined,
              foreground: fact.element.key === 'tab1' ? '#0b5563' : '#4a6066',
            } as typeof fact)
          : fact,
      );
    };
    expect(departures(run(unspokenState, facts(false)))).toEqual(['cantTell tab1 looks']);
    expect(departures(run(unspokenState, facts(true)))).toEqual([]);
  });

  test('the limit of a long screen is the team’s own', () => {
    const intent = anIntent();
    const strict = { ...intent, limits: { ...intent.limits, longScreenStops: 5 } };
    expect(
      departures(run(noHeading, observeScreen(screen(...rows(6)), { carries: [...all] }), strict)),
    ).toEqual(['failed screen']);
  });
});

test('colours for three kinds of colour blindness: grey stays grey, red and green come close', () => {
  const grey: Rgb = [120, 120, 120];
  for (const vision of visions)
    for (const [c, channel] of simulateVision(grey, vision).entries())
      expect(Math.abs(channel - grey[c]!)).toBeLessThan(3);
  // worked by hand from the matrix: 0.152286 of linear red is 0.1523, back in sRGB 109
  expect(simulateVision([255, 0, 0], 'protanopia')).toEqual([109, 95, 0]);
});

// the platform's own table goes beyond the scale by as much as a twentieth
test('large text is expected to grow less than small, and never to shrink', () => {
  expect([leastGrowth(14, 1), leastGrowth(8, 2), leastGrowth(30, 2), leastGrowth(100, 2)]).toEqual([
    1,
    2,
    38 / 30,
    1,
  ]);
  const size = fc.double({ min: 8, max: 100, noNaN: true });
  const scale = fc.double({ min: 1, max: 2, noNaN: true });
  fc.assert(
    fc.property(size, scale, (sp, by) => {
      expect(leastGrowth(sp, by)).toBeGreaterThanOrEqual(0.999);
      expect(leastGrowth(sp, by)).toBeLessThanOrEqual(by * 1.05);
    }),
  );
});

test('what a UI test alone tells of iOS shows nothing of the focus', () => {
  const seen = (carries: (typeof all)[number][]) =>
    run(unseenFocus, observeScreen(tap({ label: 'Pay' }), { platform: 'ios', carries })).map(
      ({ outcome }) => outcome,
    );
  expect([seen(['values']), seen([...all])]).toEqual([['untested'], ['passed']]);
});
