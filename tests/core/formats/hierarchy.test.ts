import fc from 'fast-check';
import { readHierarchy } from '../../../src/core/formats/android/hierarchy.ts';
import { placeNodes, visibleBounds } from '../../../src/core/model/ui-tree.ts';

const dump = (...nodes: string[]) =>
  `<?xml version='1.0' encoding='UTF-8' standalone='yes' ?><hierarchy rotation="0">${nodes.join('')}</hierarchy>`;
const node = (attributes: string, ...children: string[]) => `<node ${attributes}>${children.join('')}</node>`;

async function read(xml: string) {
  const result = await readHierarchy('screen.xml', xml);
  if (!result.ok) throw new Error(`${result.problem.place}: ${result.problem.found}`);
  return result.value;
}

test('a node carries what the dump says of it', async () => {
  const tree = await read(
    dump(
      node(
        'index="0" text="A &amp; B&#10;C" resource-id="example.app:id/title" class="android.widget.TextView" content-desc="say" clickable="true" enabled="false" checkable="true" checked="true" selected="true" bounds="[10,20][110,70]" hint="type"',
      ),
    ),
  );
  expect(tree).toMatchObject({
    text: 'A & B\nC',
    id: 'title',
    className: 'android.widget.TextView',
    label: 'say',
    hint: 'type',
    clickable: true,
    enabled: false,
    checkable: true,
    checked: true,
    selected: true,
    bounds: { x: 10, y: 20, width: 100, height: 50 },
  });
});

test('the line that the dumping tool writes after the XML is no part of it', async () => {
  const xml = dump(node('bounds="[0,0][9,9]" text="a"'));
  expect(await read(`${xml}UI hierchary dumped to: /dev/tty\n`)).toEqual(await read(xml));
});

test('several windows hang under one root that spans them', async () => {
  const tree = await read(dump(node('bounds="[0,0][100,100]"'), node('bounds="[20,50][120,300]"')));
  expect(tree.children).toHaveLength(2);
  expect(tree.bounds).toEqual({ x: 0, y: 0, width: 120, height: 300 });
});

test('upside-down bounds have no size, and scrollers cut what sticks out of them', async () => {
  const tree = await read(
    dump(
      node(
        'bounds="[0,0][100,200]"',
        node(
          'scrollable="true" bounds="[0,50][100,150]"',
          node('resource-id="a:id/row" bounds="[0,140][100,190]"'),
          node('resource-id="a:id/gone" bounds="[0,300][100,250]"'),
        ),
      ),
    ),
  );
  const [, , row, gone] = placeNodes(tree);
  const screen = { x: 0, y: 0, width: 100, height: 200 };
  expect(visibleBounds(row!, screen)).toEqual({ x: 0, y: 140, width: 100, height: 10 });
  expect(visibleBounds(gone!, screen).height).toBe(0);
});

test('element keys hold no text: the same screen in two languages has the same keys', async () => {
  const screen = (title: string, action: string) =>
    dump(
      node(
        'bounds="[0,0][9,9]" class="a.Column"',
        node(`resource-id="x:id/title" text="${title}" bounds="[0,0][9,9]"`),
        node(`class="a.Button" content-desc="${action}" bounds="[0,0][9,9]"`),
        node('class="a.Button" bounds="[0,0][9,9]"'),
      ),
    );
  const keys = async (xml: string) => placeNodes(await read(xml)).map(({ key }) => key);
  expect(await keys(screen('Tickets', 'Buy'))).toEqual(await keys(screen('تذاكر', 'اشتر')));
  expect(await keys(screen('a', 'b'))).toEqual(['root', 'title', 'root > Button[1]', 'root > Button[2]']);
});

test.each([
  ['cut off', dump(node('bounds="[0,0][9,9]"')).slice(0, -20), 'hierarchy.xml', /line 1, column/],
  ['not closed', '<hierarchy><node>', 'hierarchy.xml', /line 1/],
  ['other XML', '<html><body/></html>', 'hierarchy.none', undefined],
  ['no XML', 'null root node returned', 'hierarchy.xml', /line 1/],
  ['bounds that are none', dump(node('bounds="0,0,9,9"')), 'hierarchy.bounds', /line 1/],
  ['nested too deep', dump('<node>'.repeat(600)), 'hierarchy.too-large', /line 1/],
])('%s is refused with its place', async (_, xml, code, place) => {
  const result = await readHierarchy('screen.xml', xml);
  expect(result).toMatchObject({
    ok: false,
    problem: { code, file: 'screen.xml', ...(place ? { place: expect.stringMatching(place) } : {}) },
  });
});

test('any text is read or refused, never thrown', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.oneof(
        fc.string(),
        fc.string().map((text) => dump(node(`text="${text}"`))),
      ),
      async (xml) => {
        expect(typeof (await readHierarchy('x', xml)).ok).toBe('boolean');
      },
    ),
    { numRuns: 300 },
  );
});
