import { type Browser, chromium } from 'playwright-core';
import { tools } from './paths.ts';

/** Debian's Chromium, with a profile of its own and nothing that asks the network. */
export const launchChromium = (): Promise<Browser> =>
  chromium.launch({
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
