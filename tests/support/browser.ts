import { type Browser, chromium } from 'playwright-core';
import { tools } from './paths.ts';

// A bound for what hangs: other work on the machine may slow a page down ten times.
const PATIENCE_MS = 120_000;

/** Debian's Chromium, with a profile of its own and nothing that asks the network. */
export async function launchChromium(): Promise<Browser> {
  const browser = await chromium.launch({
    executablePath: tools.chromium,
    headless: true,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-lcd-text',
    ],
  });
  const newContext = browser.newContext.bind(browser);
  browser.newContext = async (options) => {
    const context = await newContext(options);
    context.setDefaultTimeout(PATIENCE_MS);
    return context;
  };
  return browser;
}
