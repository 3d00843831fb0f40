/** A page that others drew, opened from its folder at a phone's size, and painted with its letters, without them, and they alone. */
import { readFileSync, statSync } from 'node:fs';
import { resolve, sep } from 'node:path';
import type { Browser, Page, Route } from 'playwright-core';
import type { Pixels } from '../../../src/core/model/ports.ts';
import { decode } from '../sheets/painters.ts';
import { fontFaceCss } from '../sheets/typefaces.ts';
import type { RealPage } from './corpus.ts';
import { type WrittenPage, writePage } from './write-page.ts';

const SCALE = 3;
const [WIDTH, HEIGHT] = [390, 780];
// Answered from the folder; nothing leaves the browser.
const HOST = 'pages.example';

export interface PaintedPage extends WrittenPage {
  scale: number;
  pixels: Pixels;
  blank: Pixels;
  /** Each text in a colour of its own number, on black. */
  letters: Pixels;
}

// stronger than any class of the page
const ALL = ['', '::before', '::after', '::placeholder'].map((part) => `*:not(#a#b#c)${part}`).join(',');
const INK = ['', '::before', '::after'].map((part) => `[data-ink]:not(#a#b#c#d)${part}`).join(',');
const STILL = `${ALL}{animation:none!important;transition:none!important;caret-color:transparent!important;pointer-events:auto!important;scroll-behavior:auto!important}
*::-webkit-scrollbar{display:none}
:is(button,input,select,textarea):not(#a#b#c){appearance:none!important}`;
const NO_LETTERS = `${ALL}{-webkit-text-fill-color:transparent!important;text-decoration-color:transparent!important;-webkit-text-stroke-color:transparent!important}`;
const ONLY_LETTERS = `${ALL}{-webkit-text-fill-color:transparent!important;text-decoration:none!important;background:none!important;border-color:transparent!important;border-image:none!important;box-shadow:none!important;text-shadow:none!important;outline-color:transparent!important;opacity:1!important;filter:none!important;backdrop-filter:none!important}
${INK}{-webkit-text-fill-color:var(--ink)!important}
:is(img,svg,video,canvas,iframe,picture,object,hr):not(#a#b#c){visibility:hidden!important}
html:not(#a#b#c#d){background:#000!important}`;

// Names of typefaces that pages ask for and the machine has not, each drawn in one that it has.
const ALIASES: Record<string, string> = {
  Roboto: 'Open Sans,Helvetica Neue,Helvetica,Arial,Nunito,Poppins,Muli,Merriweather Sans',
  Inter: 'Segoe UI,Montserrat,Lato,Varela Round,Saira Extra Condensed,Source Sans Pro,Mulish',
  Bitter: 'Merriweather,Lora,Roboto Slab,Kaushan Script,Newsreader,Georgia,Times New Roman',
};
const typefacesCss = (): string =>
  Object.entries(ALIASES)
    .map(([name, aliases]) => {
      const css = fontFaceCss(name);
      return [name, ...aliases.split(',')].map((alias) => css.replaceAll(`"${name}"`, `"${alias}"`)).join('');
    })
    .join('');

/** Screen by screen from its head, as many as there are and are asked for; one that moves is left out. */
export async function* paintPage(
  browser: Browser,
  { file, folder }: RealPage,
  screens: number,
): AsyncGenerator<PaintedPage> {
  const context = await browser.newContext({
    viewport: { width: WIDTH, height: HEIGHT },
    deviceScaleFactor: SCALE,
  });
  try {
    const page = await context.newPage();
    page.on('dialog', (dialog) => void dialog.dismiss().catch(() => {}));
    await page.route('**/*', (route) => answer(route, folder));
    await page.goto(`http://${HOST}/${file}`, { waitUntil: 'load' });
    await page.addStyleTag({ content: STILL + typefacesCss() });
    await page.evaluate(() => Promise.all([...document.fonts].map((font) => font.load().catch(() => {}))));
    for (let n = 0; n < screens; n++) {
      const isThere = await page.evaluate((top) => {
        scrollTo(0, top);
        return Math.abs(scrollY - top) < 2;
      }, n * HEIGHT);
      if (!isThere) return;
      const painted = await paintScreen(page);
      if (painted) yield painted;
    }
  } finally {
    await context.close();
  }
}

async function answer(route: Route, folder: string): Promise<void> {
  const { hostname, pathname } = new URL(route.request().url());
  const path = resolve(folder, `.${decodeURIComponent(pathname)}`);
  const isOwn = hostname === HOST && path.startsWith(resolve(folder) + sep);
  if (isOwn && statSync(path, { throwIfNoEntry: false })?.isFile())
    await route.fulfill({ body: readFileSync(path), path });
  else await route.abort();
}

async function paintScreen(page: Page): Promise<PaintedPage | undefined> {
  const paint = async () => decode(await page.screenshot({ scale: 'device' }));
  const written = await page.evaluate(writePage, SCALE);
  const places = await page.evaluate(placesOfInk);
  let isStill = true;
  const paintWith = async (css: string) => {
    const sheet = await page.addStyleTag({ content: css });
    const pixels = await paint();
    if ((await page.evaluate(placesOfInk)) !== places) isStill = false;
    await sheet.evaluate((element) => (element as Element).remove());
    return pixels;
  };
  const pixels = await paint();
  const blank = await paintWith(NO_LETTERS);
  const letters = await paintWith(ONLY_LETTERS);
  const again = await paint();
  const isSame = pixels.data.every((value, i) => value === again.data[i]);
  return isStill && isSame ? { ...written, scale: SCALE, pixels, blank, letters } : undefined;
}

/** Runs in the page. */
const placesOfInk = (): string =>
  [...document.querySelectorAll('[data-ink]')]
    .map((element) => {
      const { height, width, x, y } = element.getBoundingClientRect();
      return [x, y, width, height].map(Math.round).join();
    })
    .join(' ');
