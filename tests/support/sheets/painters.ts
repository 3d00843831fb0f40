/** Two painters of the same scenes: a browser, and what the stand-in phone paints with. */
import { renderAsync } from '@resvg/resvg-js';
import type { Browser } from 'playwright-core';
import sharp from 'sharp';
import type { Pixels } from '../../../src/core/model/ports.ts';
import type { Painter } from './scene.ts';
import { fontFaceCss, fontFiles } from './typefaces.ts';

export const phonePainter: Painter = async (svg) => {
  const { height, pixels, width } = await renderAsync(svg, {
    font: { fontFiles, loadSystemFonts: false, defaultFontFamily: 'Roboto' },
    logLevel: 'off',
  });
  return { widthPx: width, heightPx: height, data: new Uint8Array(pixels) };
};

/** One page, in which each painting replaces the one before. */
export async function browserPainter(browser: Browser): Promise<Painter> {
  const page = await browser.newPage();
  await page.setContent(`<style>${fontFaceCss()}body{margin:0}svg{display:block}</style><div id="it"></div>`);
  await page.evaluate(() => Promise.all([...document.fonts].map((font) => font.load())));
  return async (svg, width, height) => {
    await page.setViewportSize({ width, height });
    await page.evaluate((source) => {
      document.getElementById('it')!.innerHTML = source;
      return document.fonts.ready;
    }, svg);
    return decode(await page.screenshot());
  };
}

export async function decode(picture: Uint8Array): Promise<Pixels> {
  const { data, info } = await sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, data: new Uint8Array(data) };
}
