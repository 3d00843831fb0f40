/** A lookout's tree, in points, becomes elements in pixels of the picture; what is none is refused with its place. */
import fc from 'fast-check';
import { parseLookoutScreen, treeOfLookout } from '../../../src/core/formats/apple/lookout-tree.ts';
import { treeOfDump } from '../../../src/core/formats/trace.ts';
import { UnreadableError } from '../../../src/core/model/problem.ts';
import { placeNodes } from '../../../src/core/model/ui-tree.ts';

const frame = { x: 10, y: 20.4, width: 30, height: 10 };
const screenOf = (tree: object, scale = 3) => JSON.stringify({ front: 'a.b', owner: 'a.b', scale, tree });
const nodeOf = (node: object) => treeOfLookout(parseLookoutScreen('t', screenOf({ frame, ...node })));

test.each([
  [
    { kind: 'staticText', label: 'Hello' },
    { className: 'UILabel', text: 'Hello', label: '' },
  ],
  [
    { kind: 'button', label: 'Pay', identifier: 'pay' },
    { id: 'pay', label: 'Pay', clickable: true },
  ],
  [
    { kind: 'textField', value: 'Ada', placeholder: 'Name' },
    { text: 'Ada', hint: 'Name', label: '' },
  ],
  [{ kind: 'secureTextField', value: '•••' }, { password: true }],
  [
    { kind: 'switch', value: '1', label: 'Offline' },
    { checkable: true, checked: true, value: '1' },
  ],
  [
    { kind: 'switch', value: '0' },
    { checkable: true, checked: false },
  ],
  [
    { kind: 'switch', label: 'Tells nothing' },
    { checkable: false, checked: false },
  ],
  [
    { kind: 'navigationBar', identifier: 'Tickets' },
    { id: '', label: '', value: 'Tickets' },
  ],
  [{ kind: 'scrollView' }, { scrollable: true }],
  [
    { kind: 'cell', enabled: false, selected: true },
    { enabled: false, selected: true, clickable: true },
  ],
  [
    { kind: 'somethingNew', label: 'x' },
    { className: 'UIView', label: 'x', clickable: false },
  ],
])('%j', (node, wanted) => {
  expect(nodeOf(node)).toMatchObject(wanted);
  expect(nodeOf(node).bounds).toEqual({ x: 30, y: 61, width: 90, height: 30 });
});

test('no edge of an element moves by more than half a pixel, whatever the scale', () => {
  const side = fc.double({ min: 0, max: 1200, noNaN: true });
  fc.assert(
    fc.property(
      fc.record({ x: side, y: side, width: side, height: side }),
      fc.constantFrom(1, 2, 3),
      (of, scale) => {
        const { bounds } = treeOfLookout(
          parseLookoutScreen('t', screenOf({ kind: 'other', frame: of }, scale)),
        );
        expect(Math.abs(bounds.x - of.x * scale)).toBeLessThanOrEqual(0.5);
        expect(Math.abs(bounds.x + bounds.width - (of.x + of.width) * scale)).toBeLessThanOrEqual(0.5);
        expect(Math.abs(bounds.y + bounds.height - (of.y + of.height) * scale)).toBeLessThanOrEqual(0.5);
      },
    ),
  );
});

test('a trace holds it as it was told; anything else is refused, and nothing throws otherwise', async () => {
  const inner = { kind: 'button', frame, label: 'Go' };
  const tree = await treeOfDump('trace, line 3', screenOf({ kind: 'window', frame, children: [inner] }));
  expect(placeNodes(tree).map(({ node }) => node.label)).toContain('Go');
  await fc.assert(
    fc.asyncProperty(fc.json(), async (text) => {
      await treeOfDump('t', text).catch((error: unknown) => expect(error).toBeInstanceOf(UnreadableError));
    }),
  );
  expect(() => parseLookoutScreen('f', screenOf({ kind: 'window', frame: { x: 1 } }))).toThrow(/tree\.frame/);
});
