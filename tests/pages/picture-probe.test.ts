import { readFileSync } from 'node:fs';
import { observeIconContrast } from '../../src/core/areas/contrast/observe-icon-contrast.ts';
import { observeTextContrast } from '../../src/core/areas/contrast/observe-text-contrast.ts';
import { screenEvidence } from '../support/facts.ts';
import { treeOf } from '../support/sheets/manners.ts';

test('probe', () => {
  const wanted = JSON.parse((globalThis as any).process.env.CASES);
  for (const [name, n, x, y, manner] of wanted) {
    const dir = `/tmp/cache/${name}-${(globalThis as any).process.env.SET ?? '1-10-all'}`;
    const kept = JSON.parse(readFileSync(`${dir}/${n}.json`, 'utf8'));
    const pixels = {
      widthPx: kept.w,
      heightPx: kept.h,
      data: new Uint8Array(readFileSync(`${dir}/${n}.raw`)),
    };
    const ev = screenEvidence(treeOf(kept.scene, manner), { pixels, densityDpi: 160 * kept.scene.scale });
    for (const f of [...observeIconContrast.observe(ev), ...observeTextContrast.observe(ev)] as any[]) {
      const b = f.element.boundsPx;
      if (b.x <= x && b.y <= y && b.x + b.width > x && b.y + b.height > y)
        console.log(
          name,
          n,
          manner,
          JSON.stringify({
            kind: f.kind,
            key: f.element.key,
            shown: f.element.shown,
            b: Object.values(b).join(),
            fg: f.foreground,
            bg: f.background,
            ratio: f.ratio,
            interval: f.interval,
            unseen: f.unseen,
            doubtful: f.doubtful,
            behind: f.behind,
            size: f.textSizeDp,
            stem: f.stemDp,
            bold: f.bold,
          }),
        );
    }
    const near = kept.truths
      .filter((t: any) => Math.abs(t.inkPx.x - x) < 250 && Math.abs(t.inkPx.y - y) < 150)
      .map((t: any) =>
        [t.part.kind, t.part.text, t.part.paint, t.ratio.toFixed(2), Object.values(t.inkPx).join()].join(' '),
      );
    console.log(near.join('\n'));
  }
});
