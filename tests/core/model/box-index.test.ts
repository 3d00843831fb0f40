import fc from 'fast-check';
import { indexBoxes } from '../../../src/core/model/box-index.ts';
import { area, type Box, intersect } from '../../../src/core/model/geometry.ts';

const aBox = fc.record({
  x: fc.integer({ min: -300, max: 2000 }),
  y: fc.integer({ min: -300, max: 3000 }),
  width: fc.integer({ min: 0, max: 1500 }),
  height: fc.integer({ min: 0, max: 400 }),
});

test('whatever shares a part with a box is near it, once and in order', () => {
  fc.assert(
    fc.property(fc.array(aBox, { maxLength: 60 }), aBox, (boxes, asked) => {
      const near = indexBoxes(boxes, (box: Box) => box).near(asked);
      const touching = boxes.filter((box) => area(intersect(box, asked)) > 0);
      expect(near.filter((box) => touching.includes(box))).toEqual(touching);
      expect(new Set(near).size).toBe(near.length);
    }),
  );
});
