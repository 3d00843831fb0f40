/** The screen checks on captures that our painter did not draw, taken in and judged by the built command. */
import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser } from 'playwright-core';
import { contrastRatio, parseHex } from '../../src/core/areas/contrast/colour.ts';
import type { Finding } from '../../src/core/model/finding.ts';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { launchChromium } from '../support/browser.ts';
import { fenlok } from '../support/command.ts';
import { captureForeignScreen } from '../support/foreign-screen.ts';
import { demoApk, describeWith, scratchFolder } from '../support/paths.ts';

interface Screen {
  name: string;
  theme: 'light' | 'dark';
  css: string;
  body: string;
  /** `check subject outcome` of what is planted. */
  planted: string[];
}

const screens: Screen[] = [
  {
    name: 'list',
    theme: 'light',
    css: `body{background:#fdfdfb;color:#222} .row{display:flex;align-items:center;height:64px;padding:0 16px;border-bottom:1px solid #ddd}
      .row span{flex:1} .row button{width:48px;height:48px} #small{width:48px;height:30px;background:#1d4f8f;color:#fff;border-radius:15px;margin:20px}`,
    body: `<h1 id="heading" style="margin:16px;font-size:28px;font-weight:700;color:#8a8a8a">Harbours</h1>
      ${['Skerrin', 'Aldwick Quay', 'Fennholm'].map((name) => `<div class="row"><span id="name">${name}</span><button id="remove"><svg width="20" height="20"><path d="M3 3L17 17M17 3L3 17" stroke="#555" stroke-width="2"/></svg></button></div>`).join('')}
      <div class="row"><span id="faint" style="color:#c4c4c4">Not served in winter</span><button aria-label="Undo" id="undo">↺</button></div>
      <button id="small" aria-label="Add a harbour">Add</button>
      <p id="off" style="margin:16px"><button disabled id="disabled" style="color:#ccc;height:48px">Not yet</button></p>
      <p id="ghost" style="margin:0 16px;color:#fdfdfb">Same colour as the page</p>`,
    // three rows share one id: one finding; the heading is large, and 3.4 to 1 is enough for it
    planted: [
      'text-contrast ghost cantTell',
      'text-contrast faint failed',
      'unnamed-control remove failed',
      'small-target small failed',
    ],
  },
  {
    name: 'form',
    theme: 'dark',
    css: `body{background:#10161b;color:#e8e8e8;padding:16px} label{display:block;margin-top:18px;font-size:14px;color:#aab4bc}
      input{display:block;width:100%;height:52px;font:inherit;padding:0 14px;border-radius:10px;border:2px solid #4a5a66;background:#1a232a;color:#f2f2f2}
      input::placeholder{color:#48535b;opacity:1} .go{width:100%;height:52px;border-radius:26px;background:#7cc4e8;color:#06222f;font-weight:700;margin-top:24px}`,
    body: `<label id="l1">Name</label><input id="name" aria-label="Name" value="Ada Fjelde"><label id="l2">Note</label><input id="note" aria-label="Note" placeholder="Two kayaks, perhaps">
      <button class="go" id="pay">Pay now</button><button id="later" style="height:48px;color:#2f6f99;margin-top:12px">Remind me later</button><p id="legal" style="font-size:12px;color:#9aa6ae">Renews until you cancel it.</p>`,
    planted: ['text-contrast note failed', 'text-contrast later failed'],
  },
  {
    name: 'shop',
    theme: 'light',
    css: `body{background:#fff;color:#1a1a1a;padding:16px} #go{position:relative;height:52px;padding:0 14px 0 52px;border:1px solid #0000ee;border-radius:8px;color:#0000ee;font-size:13px;font-weight:800}
      #go i{position:absolute;left:14px;top:14px;width:24px;height:24px;border-radius:50%;background:#8e8e8e} #dots{margin:20px 0;padding:12px;color:#fff;background:radial-gradient(#202248 1px,transparent 1.5px) 0 0/11px 11px #171941}
      #list{height:240px;overflow-y:scroll} #list button{display:block;width:100%;height:56px} #add{position:absolute;right:24px;top:330px;width:56px;height:56px;border-radius:28px;background:#0b5563;color:#fff}`,
    body: `<button id="go">Inline + icon<i></i></button><p id="dots">Everything for a day at sea</p>
      <div id="list">${['Kayak', 'Rowing boat', 'Dinghy', 'Canoe'].map((name, n) => `<button id="boat${n}">${name}</button>`).join('')}</div><button id="add" aria-label="$180">+</button>`,
    // an icon's disc beside heavy letters, dots behind letters, a button over what scrolls, a price as a name
    planted: [],
  },
  {
    name: 'clean',
    theme: 'light',
    css: 'body{background:linear-gradient(#fff,#fff);color:#1a1a1a;padding:20px} .badge{display:inline-block;background:#0b5563;color:#fff;border-radius:12px;padding:4px 10px;font-size:13px;font-weight:600}',
    body: `<h2 id="t">A calm sea</h2><p id="p">Nothing is wrong on this screen, and nothing must be found.</p><span class="badge" id="b">On time</span>
      <div style="height:200px;overflow-y:scroll" id="scroller">${Array.from({ length: 8 }, (_, i) => `<button id="line" style="display:block;height:56px;width:100%">Line ${i + 1}</button>`).join('')}</div>`,
    planted: [],
  },
];

const onScreens = ['text-contrast', 'unnamed-control', 'small-target'];
const say = ({ check, identity, basis }: Finding) =>
  `${check} ${identity.subject} ${basis === 'measured' ? 'failed' : 'cantTell'}`;

describeWith('chromium')('pages laid out by a browser', () => {
  const scratch = scratchFolder();
  let browser: Browser;
  let judgement: Judgement;

  beforeAll(async () => {
    browser = await launchChromium();
    copyFileSync(demoApk, join(scratch, 'app.apk'));
    await fenlok(['add', 'app.apk'], scratch);
    for (const { name, theme, css, body } of screens) {
      const { hierarchyXml, png } = await captureForeignScreen(browser, css, body);
      writeFileSync(join(scratch, `${name}.png`), png);
      writeFileSync(join(scratch, `${name}.xml`), hierarchyXml);
      const run = await fenlok(
        ['add', `${name}.png`, '--screen', name, '--theme', theme, '--density', '320'],
        scratch,
      );
      if (run.code !== 0) throw new Error(run.err);
    }
    judgement = JSON.parse((await fenlok(['judge', '--json'], scratch)).out);
  });
  afterAll(() => browser.close());

  test.each(screens)('$name: what is planted is found, and nothing else', ({ name, planted }) => {
    const found = judgement.findings.filter(
      ({ check, identity }) => onScreens.includes(check) && identity.screen === name,
    );
    expect(found.map(say).sort()).toEqual([...planted].sort());
  });

  test('the measured colours are those of the style sheets', () => {
    const data = (subject: string) =>
      judgement.findings.find(
        ({ check, identity }) => check === 'text-contrast' && identity.subject === subject,
      )!.occurrences[0]!.data;
    for (const [subject, text, background] of [
      ['faint', '#c4c4c4', '#fdfdfb'],
      ['note', '#48535b', '#1a232a'],
      ['later', '#2f6f99', '#10161b'],
    ] as const) {
      const truth = contrastRatio(parseHex(text)!, parseHex(background)!);
      expect(data(subject).background).toBe(background);
      expect(Math.abs(Number(data(subject).ratio) / truth - 1)).toBeLessThan(0.02);
    }
  });

  test('three rows are one finding with three places, and captures without a build count as asserted', () => {
    expect(
      judgement.findings.find(({ identity }) => identity.subject === 'remove')!.occurrences,
    ).toHaveLength(3);
    expect(judgement.assertedEvidence).toBe(screens.length);
  });

  test('try contrast reads the same from the picture and a box', async () => {
    const [, x, y, right, bottom] = /resource-id="test:id\/faint"[^>]*bounds="\[(\d+),(\d+)\]\[(\d+),(\d+)\]"/
      .exec(readFileSync(join(scratch, 'list.xml'), 'utf8'))!
      .map(Number) as number[];
    const run = await fenlok(
      [
        'try',
        'contrast',
        '--picture',
        'list.png',
        '--box',
        `${x},${y},${right! - x!},${bottom! - y!}`,
        '--json',
      ],
      scratch,
    );
    expect(JSON.parse(run.out)).toMatchObject({
      text: [0xc4, 0xc4, 0xc4],
      background: [0xfd, 0xfd, 0xfb],
      passes: { text: false, largeText: false },
    });
  });
});
