import { readFileSync, writeFileSync } from 'node:fs';
import { inkOf } from '../../src/core/areas/contrast/pixels/find-ink.ts';
import { matchText } from '../../src/core/areas/contrast/pixels/match-text.ts';
import { treeOf } from '../support/sheets/manners.ts';

test('probe', () => {
  const out: string[] = [];
  for (const name of ['phone', 'browser']) {
    const dir = `/tmp/cache/${name}-1-10-all`;
    const count = Number(readFileSync(`${dir}/done`, 'utf8'));
    for (let n = 0; n < count; n++) {
      const kept = JSON.parse(readFileSync(`${dir}/${n}.json`, 'utf8'));
      const pixels = {
        widthPx: kept.w,
        heightPx: kept.h,
        data: new Uint8Array(readFileSync(`${dir}/${n}.raw`)),
      };
      const tree = treeOf(kept.scene, 'views');
      const nodes: any[] = [];
      const walk = (x: any) => {
        nodes.push(x);
        x.children.forEach(walk);
      };
      walk(tree);
      for (const t of kept.truths) {
        if (t.part.kind !== 'text' || kept.scene.slots[t.slot].joined) continue;
        const c = [t.inkPx.x + t.inkPx.width / 2, t.inkPx.y + t.inkPx.height / 2];
        const node = nodes.filter(
          (x) =>
            x.text === t.part.text &&
            x.bounds.x <= c[0]! &&
            x.bounds.x + x.bounds.width > c[0]! &&
            x.bounds.y <= c[1]! &&
            x.bounds.y + x.bounds.height > c[1]!,
        )[0];
        if (!node) continue;
        const ink = inkOf(pixels, node.bounds, []);
        const fam = kept.scene.slots[t.slot].family;
        if (ink.kind !== 'flat') {
          out.push(`${ink.kind.padEnd(9)} ${fam} ${t.part.text}`);
          continue;
        }
        const m = matchText(ink.marked, t.part.text);
        if (!m) {
          out.push(`none ${fam} ${t.part.text}`);
          continue;
        }
        const l = Math.min(...m.words.map((w) => w.left)) + ink.area.left,
          r = Math.max(...m.words.map((w) => w.right)) + ink.area.left + 1;
        const iou =
          (Math.min(r, t.inkPx.x + t.inkPx.width) - Math.max(l, t.inkPx.x)) /
          (Math.max(r, t.inkPx.x + t.inkPx.width) - Math.min(l, t.inkPx.x));
        out.push(
          `${iou > 0.9 ? 'ok ' : 'BAD'} ${m.cost.toFixed(2)} rest ${m.rest.length} ${name} ${n} ${fam} "${t.part.text}" ${t.part.sizeDp} ${t.part.weight} ${l}-${r} true ${t.inkPx.x}-${t.inkPx.x + t.inkPx.width}`,
        );
      }
    }
  }
  writeFileSync('/tmp/match.txt', out.join('\n'));
});
