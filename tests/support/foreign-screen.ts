/** Screens that our painter did not draw: pages laid out by Chromium, with the OS-like hierarchy written beside. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Browser } from 'playwright-core';

const require = createRequire(import.meta.url);
const font = (file: string) => readFileSync(require.resolve(file)).toString('base64');
const FONT_CSS = `@font-face{font-family:Test;font-weight:200 800;src:url(data:font/woff2;base64,${font('@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2')})}`;

export interface ForeignScreen {
  png: Uint8Array;
  hierarchyXml: string;
}

/** 360 × 640 dp at 320 dpi. Ids become resource ids, aria-labels descriptions, buttons and inputs what can be tapped. */
export async function captureForeignScreen(
  browser: Browser,
  css: string,
  body: string,
): Promise<ForeignScreen> {
  const page = await browser.newPage({ viewport: { width: 360, height: 640 }, deviceScaleFactor: 2 });
  try {
    await page.setContent(
      `<style>${FONT_CSS}*{box-sizing:border-box}body{margin:0;height:640px;display:flow-root;overflow:hidden;font:16px/1.4 Test}button{font:inherit;border:0;padding:0;background:none}${css}</style>${body}`,
    );
    await page.evaluate(() => document.fonts.ready);
    const hierarchyXml = await page.evaluate(writeHierarchy);
    return { png: await page.screenshot(), hierarchyXml };
  } finally {
    await page.close();
  }
}

/** Runs in the page. Written without a look at the painter's own writer, by what the platform documents. */
function writeHierarchy(): string {
  const encode = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
  const nodeOf = (element: Element): string => {
    const { left, top, right, bottom } = element.getBoundingClientRect();
    const own = [...element.childNodes]
      .filter((child) => child.nodeType === 3)
      .map((child) => child.textContent ?? '')
      .join('')
      .trim();
    const field = element instanceof HTMLInputElement;
    const tag = field ? 'EditText' : element.tagName === 'BUTTON' ? 'Button' : own ? 'TextView' : 'View';
    const scrolls = getComputedStyle(element).overflowY === 'scroll';
    const attributes = {
      text: field ? element.value || element.placeholder : own,
      'resource-id': element.id ? `test:id/${element.id}` : '',
      class: `android.widget.${tag}`,
      'content-desc': element.getAttribute('aria-label') ?? '',
      clickable: field || element.tagName === 'BUTTON',
      enabled: !(element as HTMLButtonElement).disabled,
      scrollable: scrolls,
      bounds: `[${Math.round(left * 2)},${Math.round(top * 2)}][${Math.round(right * 2)},${Math.round(bottom * 2)}]`,
    };
    const head = Object.entries(attributes)
      .map(([name, value]) => `${name}="${encode(String(value))}"`)
      .join(' ');
    return `<node ${head}>${[...element.children].map(nodeOf).join('')}</node>`;
  };
  return `<?xml version="1.0"?><hierarchy rotation="0">${nodeOf(document.body)}</hierarchy>`;
}
