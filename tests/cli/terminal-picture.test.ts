/** Pictures of findings in a terminal: read back from what the terminal is sent. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { decode } from 'sixel';
import { drawInTerminal, type PictureWay, pictureWay } from '../../src/cli/terminal-picture.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';
import { openTerminal, testInTerminal } from '../support/terminal.ts';

const scratch = scratchFolder();

test.each<[env: Record<string, string>, way: PictureWay | undefined]>([
  [{ TERM: 'xterm-256color' }, undefined],
  [{ TERM: 'xterm-kitty' }, 'kitty'],
  [{ TERM: 'xterm-256color', KITTY_WINDOW_ID: '1' }, 'kitty'],
  [{ TERM: 'xterm-ghostty' }, 'kitty'],
  [{ TERM: 'xterm-256color', TERM_PROGRAM: 'iTerm.app' }, 'iterm'],
  [{ TERM: 'foot' }, 'sixel'],
  [{ TERM: 'tmux-256color', KITTY_WINDOW_ID: '1' }, undefined],
  [{ TERM: 'xterm-kitty', TMUX: '/tmp/t' }, undefined],
  [{ TERM: 'xterm-kitty', FENLOK_PICTURES: 'no' }, undefined],
  [{ TERM: 'xterm-256color', FENLOK_PICTURES: 'sixel' }, 'sixel'],
  [{ FENLOK_PICTURES: 'paper' }, undefined],
])('%j draws by %s', (env, way) => {
  expect(pictureWay({ env, outIsTerminal: true })).toBe(way);
  expect(pictureWay({ env, outIsTerminal: false })).toBeUndefined();
});

interface Raw {
  width: number;
  height: number;
  at(x: number, y: number): number[];
}

async function readBack(sent: string, way: PictureWay): Promise<Raw> {
  const raw = (data: Uint8Array, width: number, height: number): Raw => ({
    width,
    height,
    at: (x, y) => [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 3)],
  });
  if (way === 'sixel') {
    const [, body] = /^\u001bP0;0;q([^\u001b]*)\u001b\\\n$/.exec(sent)!;
    const { data32, height, width } = decode(body!);
    return raw(new Uint8Array(data32.buffer, data32.byteOffset, width * height * 4), width, height);
  }
  const parts = way === 'kitty' ? [...sent.matchAll(/\u001b_G([^;]*);([^\u001b]*)\u001b\\/g)] : [];
  // the first says what it is, the last that it is the last
  for (const [i, [, head]] of parts.entries())
    expect(head).toBe(`${i === 0 ? 'a=T,f=100,q=2,' : ''}m=${i === parts.length - 1 ? 0 : 1}`);
  const base64 =
    way === 'kitty'
      ? parts.map(([, , chunk]) => chunk).join('')
      : /^\u001b\]1337;File=inline=1;size=\d+;preserveAspectRatio=1:([^\u0007]*)\u0007\n$/.exec(sent)![1]!;
  const { data, info } = await sharp(Buffer.from(base64, 'base64'))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return raw(data, info.width, info.height);
}

const near = (colour: number[], rgb: number[]) => colour.every((level, i) => Math.abs(level - rgb[i]!) < 12);

test.each<[PictureWay]>([['kitty'], ['iterm'], ['sixel']])(
  'by %s the element stands there, outlined',
  async (way) => {
    const green = { r: 20, g: 120, b: 80 };
    // noise, so that it takes several chunks
    const noise = Buffer.from(
      Array.from({ length: 300 * 200 * 3 }, (_, i) => (i * 7919 + (i >> 3) * 31) % 251),
    );
    const picture = await sharp(noise, { raw: { width: 300, height: 200, channels: 3 } })
      .composite([
        { input: { create: { width: 100, height: 60, channels: 3, background: green } }, left: 80, top: 50 },
      ])
      .png()
      .toBuffer();
    const sent = await drawInTerminal(
      {
        dataUri: `data:image/png;base64,${picture.toString('base64')}`,
        // half the size of the screenshot, from its middle
        showsPx: { x: 1000, y: 400, width: 600, height: 400 },
        elementPx: { x: 1160, y: 500, width: 200, height: 120 },
      },
      way,
    );
    const drawn = await readBack(sent, way);
    expect([drawn.width, drawn.height]).toEqual([300, 200]);
    expect(near(drawn.at(130, 80), [20, 120, 80])).toBe(true);
    // a frame around it, half a pixel to two away
    expect(near(drawn.at(130, 48), [192, 38, 38])).toBe(true);
    expect(near(drawn.at(78, 80), [192, 38, 38])).toBe(true);
    expect(sent.endsWith('\n')).toBe(true);
  },
);

testInTerminal('fenlok rule shows the place that it asks about', async () => {
  const folder = join(scratch, 'rule');
  mkdirSync(folder);
  const png = await sharp({ create: { width: 720, height: 1280, channels: 3, background: '#ffffff' } })
    .png()
    .toBuffer();
  writeFileSync(join(folder, 'a.png'), png);
  writeFileSync(
    join(folder, 'a.xml'),
    '<hierarchy><node bounds="[0,0][720,1280]"><node class="android.widget.ImageButton" clickable="true" bounds="[500,100][540,140]"/></node></hierarchy>',
  );
  await fenlok(['add', demoApk], folder);
  await fenlok(['add', 'a.png', '--screen', 'home', '--density', '320'], folder);
  await fenlok(['judge'], folder);
  const terminal = openTerminal(['rule'], folder, { FENLOK_NAME: 'Ada', FENLOK_PICTURES: 'kitty' });
  await terminal.says('1/');
  // those of the package have no picture
  terminal.press('s'.repeat(60));
  expect(await terminal.ended).toBe(0);
  expect(terminal.said()).toContain('\u001b_Ga=T,f=100,q=2,m=');
});
