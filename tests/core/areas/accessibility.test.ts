import { smallTarget } from '../../../src/core/areas/accessibility/checks/small-target.ts';
import { unnamedControl } from '../../../src/core/areas/accessibility/checks/unnamed-control.ts';
import type { StopFact } from '../../../src/core/model/fact.ts';
import type { UiNode } from '../../../src/core/model/ui-tree.ts';
import { departures, observeScreen, run, ui } from '../../support/facts.ts';

const screen = (...children: UiNode[]) => ui([0, 0, 400, 800], { className: 'Frame' }, ...children);
const button = (of: Partial<UiNode>, ...children: UiNode[]) =>
  ui([10, 10, 60, 60], { id: 'it', className: 'android.widget.Button', clickable: true, ...of }, ...children);

describe('stops', () => {
  const stops = (tree: UiNode) =>
    observeScreen(tree).filter((fact): fact is StopFact => fact.kind === 'stop');

  test.each<[string, UiNode, Partial<StopFact>]>([
    ['a label comes before a text', button({ label: 'Buy', text: '€5' }), { name: 'Buy', nameFrom: 'label' }],
    ['a text of its own', button({ text: 'Buy' }), { name: 'Buy', nameFrom: 'text' }],
    [
      'the texts inside, in order',
      button({}, ui([10, 10, 9, 9], { text: 'Buy' }), ui([20, 10, 9, 9], { label: 'pass' })),
      { name: 'Buy, pass', nameFrom: 'gathered' },
    ],
    [
      'the hint of a field',
      button({ className: 'android.widget.EditText', hint: 'Your name' }),
      { name: 'Your name', nameFrom: 'hint' },
    ],
    ['nothing', button({ text: '  ' }), { name: '', nameFrom: 'none' }],
  ])('%s', (_, node, expected) => {
    expect(stops(screen(node))[0]).toMatchObject(expected);
  });

  test('an actionable child speaks for itself, a hidden one not at all', () => {
    const tree = screen(
      button(
        {},
        ui([10, 10, 20, 20], { text: 'row' }),
        ui([40, 10, 20, 20], { label: 'more', clickable: true }),
        ui([10, 30, 20, 20], { text: 'hidden', visible: false }),
      ),
    );
    expect(stops(tree).map(({ name }) => name)).toEqual(['row', 'more']);
  });

  test('a text outside of everything actionable is a stop of its own; one off the screen is none', () => {
    expect(
      stops(screen(ui([0, 0, 50, 20], { text: 'here' }), ui([0, 900, 50, 20], { text: 'below' }))).map(
        ({ name }) => name,
      ),
    ).toEqual(['here']);
  });
});

test('controls without a name are found; a field may be named by what the dump does not carry', () => {
  const tree = screen(
    button({ id: 'named', label: 'Buy' }),
    button({ id: 'bare' }),
    button({ id: 'inside' }, ui([12, 12, 9, 9], { text: 'ok' })),
    ui([100, 100, 48, 48], { className: 'android.widget.EditText', id: 'field' }),
    ui([0, 300, 50, 50], { id: 'picture' }),
  );
  expect(departures(run(unnamedControl, observeScreen(tree)))).toEqual(['failed bare']);
});

describe('touch targets', () => {
  const sized = (width: number, height: number, of: Partial<UiNode> = {}) =>
    ui([100, 100, width, height], { id: 'it', clickable: true, label: 'x', ...of });

  test.each<[string, UiNode, string[], Parameters<typeof observeScreen>[1]?]>([
    ['48 × 48 dp', sized(48, 48), []],
    ['47.67 dp, one pixel of rounding', sized(143, 143), [], { densityDpi: 480 }],
    ['47 dp at 480 dpi', sized(141, 144), ['failed it'], { densityDpi: 480 }],
    ['wide but low', sized(200, 32), ['failed it']],
    ['44 pt on iOS', sized(44, 44), [], { platform: 'ios' }],
    ['40 pt on iOS', sized(40, 60), ['failed it'], { platform: 'ios' }],
    ['a long press only', sized(30, 30, { clickable: false, longClickable: true }), ['failed it']],
    ['nothing that can be tapped', sized(10, 10, { clickable: false }), []],
    ['disabled', sized(20, 20, { enabled: false }), []],
  ])('%s', (_, node, expected, of = {}) => {
    expect(departures(run(smallTarget, observeScreen(screen(node), of)))).toEqual(expected);
  });

  test('what the screen edge or a scroller cuts cannot be told', () => {
    const atEdge = ui([100, 780, 60, 20], { id: 'edge', clickable: true });
    const list = ui(
      [0, 100, 400, 300],
      { scrollable: true },
      ui([0, 380, 400, 20], { id: 'row', clickable: true }),
    );
    expect(departures(run(smallTarget, observeScreen(screen(atEdge, list))))).toEqual([
      'cantTell edge',
      'cantTell row',
    ]);
  });

  test('a cut row is decided by one like it that is seen whole', () => {
    const rows = (whole: number) =>
      ui(
        [0, 100, 400, 300],
        { scrollable: true },
        ui([0, 200, 400, whole], { id: 'row', clickable: true }),
        ui([0, 380, 400, 20], { id: 'row', clickable: true }),
      );
    expect(departures(run(smallTarget, observeScreen(screen(rows(56)))))).toEqual([]);
    expect(departures(run(smallTarget, observeScreen(screen(rows(40)))))).toEqual(['failed row']);
  });
});
