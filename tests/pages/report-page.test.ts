/** The report page in a browser without a network, with hostile words in every place that a user can fill. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { launchChromium } from '../support/browser.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, describeWith, scratchFolder } from '../support/paths.ts';

const HOSTILE = '</script><img src=x onerror="document.title=\'owned\'">&"\'\u202e';
const escaped = HOSTILE.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

describeWith('chromium')('the report page', () => {
  const scratch = scratchFolder();
  const problems: string[] = [];
  let browser: Browser;
  let page: Page;

  beforeAll(async () => {
    const png = await sharp({ create: { width: 720, height: 1280, channels: 3, background: '#ffffff' } })
      .composite([
        {
          input: Buffer.from(
            '<svg width="300" height="60"><rect x="20" y="20" width="8" height="30" fill="#ddd"/><rect x="40" y="20" width="8" height="30" fill="#ddd"/></svg>',
          ),
          left: 40,
          top: 100,
        },
      ])
      .png()
      .toBuffer();
    writeFileSync(join(scratch, 'a.png'), png);
    writeFileSync(
      join(scratch, 'a.xml'),
      `<hierarchy><node bounds="[0,0][720,1280]"><node text="${escaped}" resource-id="a:id/${escaped}" bounds="[40,100][340,160]"/><node class="android.widget.ImageButton" clickable="true" bounds="[500,100][540,140]"/></node></hierarchy>`,
    );
    await fenlok(['add', demoApk], scratch);
    await fenlok(
      ['add', 'a.png', '--screen', `home ${HOSTILE}`, '--density', '320', '--device', HOSTILE],
      scratch,
    );
    const judged = await fenlok(['judge', '--json'], scratch);
    const [finding] = JSON.parse(judged.out).findings;
    await fenlok(['rule', finding.id, '--as', 'accepted', '--why', HOSTILE, '--by', HOSTILE], scratch);
    await fenlok(['judge'], scratch);

    browser = await launchChromium();
    const context = await browser.newContext({ offline: true, viewport: { width: 1280, height: 800 } });
    page = await context.newPage();
    page.on('console', (message) => problems.push(`${message.type()}: ${message.text()}`));
    page.on('pageerror', (error) => problems.push(error.message));
    page.on('request', (request) => {
      if (!/^(file|data):/.test(request.url())) problems.push(`request ${request.url()}`);
    });
    await page.goto(pathToFileURL(join(scratch, 'dossier/report/index.html')).href);
  });
  afterAll(() => browser.close());

  test('loads without a console message, a request, or anything of the hostile words coming alive', async () => {
    expect(await page.title()).toBe('Kelpline 2.4.0: blocked');
    expect(await page.locator('img, iframe, object, link').count()).toBe(0);
    expect(await page.getByText('onerror=').count()).toBeGreaterThan(1);
    expect(problems).toEqual([]);
  });

  test('each finding of a screen shows the picture with the element outlined, and links to the whole', async () => {
    const card = page.locator('.finding', { hasText: 'ImageButton' }).first();
    expect(await card.locator('svg image').count()).toBe(2);
    const outline = await card.locator('svg .outline').last().boundingBox();
    const picture = await card.locator('svg').last().boundingBox();
    expect(outline!.x).toBeGreaterThan(picture!.x);
    expect(outline!.x + outline!.width).toBeLessThan(picture!.x + picture!.width);
    expect(await card.locator('a').first().getAttribute('href')).toMatch(/^pictures\/[0-9a-f]{16}\.png$/);
    const widths = await card
      .locator('svg image')
      .evaluateAll((images) => images.map((image) => (image as SVGGraphicsElement).getBBox().width));
    expect(Math.min(...widths)).toBeGreaterThan(100);
  });

  test('filters by outcome and area, from the keyboard, and says how many are shown', async () => {
    const shown = () => page.locator('.item:visible').count();
    const all = await shown();
    await page.getByRole('button', { name: 'failed' }).focus();
    await page.keyboard.press('Enter');
    expect(await shown()).toBeLessThan(all);
    expect(await page.locator('.item:visible:not([data-outcome="failed"])').count()).toBe(0);
    await page.getByLabel('Area').selectOption('links');
    const left = await page.locator('.item:visible').count();
    expect(left).toBeGreaterThan(0);
    expect(await page.locator('.item:visible:not(#area-links .item)').count()).toBe(0);
    expect(await page.getByRole('status').textContent()).toBe(`${left} items shown`);
    // a link to something that is filtered out shows everything again
    await page.locator('.next a').first().click();
    await page.waitForFunction(() => document.querySelectorAll('.item[hidden]').length === 0);
    expect(await shown()).toBe(all);
  });

  test('texts stand in light and in dark side by side; a theme that was not captured is said to be', async () => {
    const fold = page.locator('.theme-pairs details');
    expect(await fold.count()).toBe(1);
    expect(await fold.locator('table').isVisible()).toBe(false);
    await fold.locator('summary').focus();
    await page.keyboard.press('Enter');
    const row = fold.locator('tbody tr').first();
    expect(await row.getByRole('cell').last().textContent()).toContain('not captured');
    const target = await row.locator('td a').first().getAttribute('href');
    expect(await page.locator(target!).count()).toBe(1);
    await fold.locator('summary').click();
  });

  test('fits a phone: nothing is wider than the screen, and what can be tapped is large enough', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    const small = await page
      .locator('.filters button, .filters select')
      .evaluateAll(
        (elements) => elements.filter((element) => element.getBoundingClientRect().height < 43.5).length,
      );
    expect(small).toBe(0);
  });

  test('a page whose style was changed after the fact is refused by its own policy', async () => {
    const html = await page.content();
    expect(html).toMatch(
      /default-src 'none'; style-src 'sha256-[^']+'; script-src 'sha256-[^']+'; img-src data:; font-src data:/,
    );
    await page.evaluate(() => {
      const script = document.createElement('script');
      script.textContent = "document.title = 'owned'";
      document.body.append(script);
    });
    expect(await page.title()).not.toBe('owned');
  });
});
