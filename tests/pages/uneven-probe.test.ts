import { readFileSync } from 'node:fs';
import { measureOnUneven } from '../../src/core/areas/contrast/pixels/measure-on-uneven.ts';
import { measureText } from '../../src/core/areas/contrast/pixels/measure-text.ts';
import { sampleArea } from '../../src/core/areas/contrast/pixels/sample-area.ts';
import { treeOf } from '../support/sheets/manners.ts';

test('probe', () => {
  const wanted = JSON.parse((globalThis as any).process.env.CASES);
  for (const [name, n, x, y] of wanted) {
    const dir = `/tmp/cache/${name}-${(globalThis as any).process.env.SET ?? '1-10-all'}`;
    const kept = JSON.parse(readFileSync(`${dir}/${n}.json`, 'utf8'));
    const pixels = {
      widthPx: kept.w,
      heightPx: kept.h,
      data: new Uint8Array(readFileSync(`${dir}/${n}.raw`)),
    };
    const nodes: any[] = [];
    const walk = (q: any) => {
      nodes.push(q);
      q.children.forEach(walk);
    };
    walk(treeOf(kept.scene, 'views'));
    const node = nodes.filter(
      (q) =>
        q.text &&
        q.bounds.x <= x &&
        q.bounds.y <= y &&
        q.bounds.x + q.bounds.width > x &&
        q.bounds.y + q.bounds.height > y,
    )[0];
    (globalThis as any).DEBUG = 1;
    console.log(node.text, JSON.stringify(node.bounds));
    measureOnUneven(sampleArea(pixels, node.bounds, []), node.text);
    (globalThis as any).DEBUG = 0;
    const s: any = measureText(pixels, node.bounds, [], node.text);
    console.log(JSON.stringify({ ...s, glyphHeightsPx: 0 }));
  }
});
