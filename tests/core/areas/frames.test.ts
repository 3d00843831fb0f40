/** What is writing in a box, and what only frames it. Drawn by hand, a letter a pixel. */
import { inkOf } from '../../../src/core/areas/contrast/pixels/find-ink.ts';
import { findWords } from '../../../src/core/areas/contrast/pixels/find-words.ts';
import { canvas } from '../../support/facts.ts';

const SCALE = 3;

/** `#` is ink, `.` the background; each becomes a square of three pixels. */
function draw(rows: readonly string[]) {
  const [widthPx, heightPx] = [rows[0]!.length * SCALE, rows.length * SCALE];
  const pixels = canvas(widthPx, heightPx, [250, 249, 245]);
  rows.forEach((row, y) => {
    [...row].forEach((char, x) => {
      if (char === '#')
        pixels.fill({ x: x * SCALE, y: y * SCALE, width: SCALE, height: SCALE }, [28, 38, 48]);
    });
  });
  const found = inkOf(pixels, { x: 0, y: 0, width: widthPx, height: heightPx }, []);
  return found.kind === 'flat' ? found.marked.marks.length : found.kind;
}

test.each<[name: string, marks: number, rows: string[]]>([
  [
    'three letters',
    3,
    ['...............', '.##..#..#..###.', '.#...#..#..#...', '.##..####..###.', '...............'],
  ],
  [
    'three letters that hang together and fill their box',
    1,
    [
      '.##.#..#.###..',
      '#...#..#.#..#.',
      '.#########..#.',
      '...##..#.###.#',
      '#..#######....',
      '.##....#.#....',
    ],
  ],
  [
    'a frame around two letters',
    2,
    [
      '################',
      '#..............#',
      '#...##....#.#..#',
      '#...#.....###..#',
      '#...##....#.#..#',
      '#..............#',
      '################',
    ],
  ],
  [
    'a rounded frame that stands off the edge',
    2,
    [
      '........................',
      '...##################...',
      '..#..................#..',
      '.#.....##....#.#......#.',
      '.#.....#.....###......#.',
      '.#.....##....#.#......#.',
      '..#..................#..',
      '...##################...',
      '........................',
    ],
  ],
  [
    'a line of the neighbour, below and at the right',
    2,
    [
      '...............#',
      '..##...#.#.....#',
      '..#....###.....#',
      '..##...#.#.....#',
      '...............#',
      '...............#',
      '################',
    ],
  ],
  [
    'corners rounded off onto what lies behind',
    1,
    [
      '##...........##',
      '#.............#',
      '......##.......',
      '......#........',
      '......##.......',
      '#.............#',
      '##...........##',
    ],
  ],
  [
    'joined letters that hold their dots',
    3,
    [
      '......................',
      '.#..................#.',
      '.#.....#.#..........#.',
      '.#..................#.',
      '.#..................#.',
      '.####################.',
      '......................',
    ],
  ],
])('%s: %i marks', (_, marks, rows) => {
  expect(draw(rows)).toBe(marks);
});

const mark = (left: number, right: number, top = 0, bottom = 19, label = left + 1) => ({
  left,
  right,
  top,
  bottom,
  count: 40,
  label,
});

test.each<[name: string, text: string, marks: ReturnType<typeof mark>[], words: number, runPx: number]>([
  ['two words', 'ab cd', [mark(0, 9), mark(12, 21), mark(34, 43), mark(46, 55)], 2, 44],
  [
    'an icon before a short word',
    'To go',
    [mark(0, 19), mark(40, 49), mark(51, 60), mark(72, 81), mark(84, 93)],
    2,
    43,
  ],
  [
    'an icon behind a long word',
    'Lines',
    [...[0, 12, 24, 36, 48].map((x) => mark(x, x + 9)), mark(80, 99)],
    1,
    58,
  ],
  // where letters hang together, any of the marks may be a word
  ['joined letters and what may be an icon', 'نص', [mark(0, 40), mark(70, 90)], 1, 62],
  [
    'an icon before words whose letters a line joins, and which stand close',
    'टिकट खरीदें',
    [mark(0, 19), mark(36, 80), mark(83, 125)],
    2,
    108,
  ],
])('%s: %s', (_, text, marks, words, runPx) => {
  const found = findWords(
    { widthPx: 200, heightPx: 20, ink: new Uint8Array(), labels: new Int32Array(), marks },
    text,
  );
  expect([found.words.length, found.runPx]).toEqual([words, runPx]);
});
