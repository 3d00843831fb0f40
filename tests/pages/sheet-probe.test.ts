import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { launchChromium } from '../support/browser.ts';
import { drawSheets } from '../support/sheets/draw.ts';
import { finish } from '../support/sheets/finish.ts';
import { manners } from '../support/sheets/manners.ts';
import { browserPainter, phonePainter } from '../support/sheets/painters.ts';
import {
  isFar,
  isHeld,
  isRight,
  isWrong,
  type Scored,
  scoreSheet,
  tabulate,
} from '../support/sheets/score.ts';

test('probe', async () => {
  const env = (globalThis as any).process.env;
  const names = env.NAMES ? env.NAMES.split(',') : undefined;
  const plan = { seed: Number(env.SEED ?? 1), count: Number(env.COUNT ?? 10), ...(names && { names }) };
  const all: Scored[] = [];
  const which = (env.PAINTERS ?? 'phone,browser').split(',');
  const mans = (env.MANNERS ? env.MANNERS.split(',') : manners) as any[];
  const lines: string[] = [];
  for (const name of which) {
    const dir = `/tmp/cache/${name}-${plan.seed}-${plan.count}-${(env.NAMES ?? 'all').replace(/\W/g, '_')}`;
    if (!existsSync(`${dir}/done`)) {
      mkdirSync(dir, { recursive: true });
      const browser = name === 'browser' ? await launchChromium() : undefined;
      const painter = name === 'phone' ? phonePainter : await browserPainter(browser!);
      let n = 0;
      for await (const sheet of drawSheets(plan, painter)) {
        writeFileSync(`${dir}/${n}.raw`, sheet.pixels.data as Uint8Array);
        await sharp(sheet.pixels.data, {
          raw: { width: sheet.pixels.widthPx, height: sheet.pixels.heightPx, channels: 4 },
        })
          .png()
          .toFile(`${dir}/${n}.png`);
        writeFileSync(
          `${dir}/${n}.json`,
          JSON.stringify({
            scene: sheet.scene,
            w: sheet.pixels.widthPx,
            h: sheet.pixels.heightPx,
            truths: sheet.truths.map((t) => ({ ...t, slot: sheet.scene.slots.indexOf(t.slot) })),
          }),
        );
        n += 1;
      }
      writeFileSync(`${dir}/done`, String(n));
      await browser?.close();
    }
    const count = Number(readFileSync(`${dir}/done`, 'utf8'));
    for (let n = 0; n < count; n++) {
      const kept = JSON.parse(readFileSync(`${dir}/${n}.json`, 'utf8'));
      const sheet = {
        scene: kept.scene,
        pixels: { widthPx: kept.w, heightPx: kept.h, data: new Uint8Array(readFileSync(`${dir}/${n}.raw`)) },
        truths: kept.truths.map((t: any) => ({ ...t, slot: kept.scene.slots[t.slot] })),
      };
      for (const how of (env.FINISH ? env.FINISH.split(',') : [])) { const px = await finish(sheet.pixels, how); for (const manner of mans) { const scored = scoreSheet(sheet as any, manner, name, px, how); all.push(...scored); for (const one of scored) if (isWrong(one) || !isHeld(one)) lines.push(JSON.stringify({ bad: isWrong(one) ? 'WRONG' : 'unheld', sheet: n, slot: one.family, ...one })); } }
      if (!env.FINISH) for (const manner of mans) {
        const scored = scoreSheet(sheet as any, manner, name);
        all.push(...scored);
        for (const one of scored)
          if (isWrong(one) || (isFar(one) && !isRight(one)) || !isHeld(one))
            lines.push(
              JSON.stringify({
                bad: isWrong(one) ? 'WRONG' : !isHeld(one) ? 'unheld' : 'undecided',
                sheet: n,
                ...one,
              }),
            );
      }
    }
  }
  writeFileSync(env.OUT ?? '/tmp/probe.jsonl', lines.join('\n'));
  (globalThis as any).process.stderr.write(
    tabulate(all, (of) => `${of.family} ${of.kind}`) + '\n' + tabulate(all, (of) => `${of.manner}`) + '\n',
  );
}, 1_600_000);
