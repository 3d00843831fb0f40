/** A web page taken as a capture, as a UI test would write it: what a screen reader is told, and the picture. */
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import type { CaptureEvidence } from '../../src/core/areas/observer.ts';
import { uiNodeSchema } from '../../src/core/model/ui-tree.ts';
import { screenEvidence } from './facts.ts';

/** @param page with one picture pixel a CSS pixel, which then is a point */
export async function capturePage(page: Page, theme: 'light' | 'dark'): Promise<CaptureEvidence> {
  const tree = uiNodeSchema.parse(await page.evaluate(writeTree));
  const { data, info } = await sharp(await page.screenshot())
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return screenEvidence(tree, {
    platform: 'ios',
    densityDpi: 160,
    cell: { screen: 'page', theme },
    pixels: { widthPx: info.width, heightPx: info.height, data },
    carries: ['traits', 'values', 'headings', 'label-for', 'actions', 'gestures'],
  });
}

/** Runs in the page. */
function writeTree(): unknown {
  const traitOf = (element: Element): string | undefined => {
    const role = element.getAttribute('role');
    const tag = element.tagName;
    if (role === 'tab') return 'tab';
    if (role === 'img' || role === 'application' || tag === 'IMG') return 'image';
    if (tag === 'BUTTON') return 'button';
    if (tag === 'A') return 'link';
    if (tag === 'SELECT') return 'menu';
    const type = (element as HTMLInputElement).type;
    if (tag === 'INPUT') return type === 'radio' ? 'radio' : type === 'checkbox' ? 'switch' : 'field';
    return /^H\d$/.test(tag) ? 'heading' : undefined;
  };
  const isBox = (element: Element): boolean => ['radio', 'switch'].includes(traitOf(element) ?? '');
  /** A radio button or a switch is pressed by its label as well, and what stands in the label stands on it. */
  const labelOfBox = (element: Element): HTMLElement | undefined =>
    isBox(element) ? (element as HTMLInputElement).labels?.[0] : undefined;
  const labelled = new Set([...document.querySelectorAll('input')].map(labelOfBox));
  const nameOf = (element: Element): string =>
    element.getAttribute('aria-label') ??
    // biome-ignore lint/performance/useDomNodeTextContent: what stands beside one another is not one word
    [...((element as HTMLInputElement).labels ?? [])].map((label) => label.innerText).join(' ');
  const ownText = (element: Element): string =>
    [...element.childNodes]
      .filter((child) => child.nodeType === 3)
      .map((child) => child.textContent)
      .join('')
      .trim();
  const textOf = (element: Element): string => {
    if (element instanceof HTMLSelectElement) return element.selectedOptions[0]?.label ?? '';
    if (element instanceof HTMLInputElement) return isBox(element) ? '' : element.value;
    return ownText(element);
  };
  const nodesOf = (element: Element): unknown[] => {
    if (labelled.has(element as HTMLElement))
      return [...element.children].filter((child) => child.tagName === 'INPUT').flatMap(nodesOf);
    const label = labelOfBox(element);
    const { height, left, top, width } = (label ?? element).getBoundingClientRect();
    const trait = traitOf(element);
    const style = getComputedStyle(element);
    const interactive = ['button', 'link', 'menu', 'radio', 'switch', 'tab', 'field'].includes(trait ?? '');
    const isDrawing = element.tagName.toLowerCase() === 'svg';
    const inside = element instanceof HTMLSelectElement || isDrawing ? [] : [...(label ?? element).children];
    const node = {
      className: isDrawing ? 'Image' : element.tagName,
      id: element.id,
      text: label ? ownText(label) : textOf(element),
      label: nameOf(element),
      ...(trait === 'menu' && { value: textOf(element) }),
      bounds: { x: left, y: top, width, height },
      clickable: interactive,
      enabled: !(element as HTMLButtonElement).disabled,
      scrollable: /auto|scroll/.test(style.overflowY),
      visible: style.visibility === 'visible' && style.display !== 'none',
      checkable: isBox(element) || element.hasAttribute('aria-pressed'),
      checked:
        (element as HTMLInputElement).checked === true || element.getAttribute('aria-pressed') === 'true',
      selected: element.getAttribute('aria-selected') === 'true',
      hidden: element.getAttribute('aria-hidden') === 'true' || isDrawing,
      heading: trait === 'heading',
      ...((interactive || trait === 'image') && { isElement: true }),
      textSizeDp: Number.parseFloat(style.fontSize),
      bold: Number(style.fontWeight) >= 700,
      ...(trait && { traits: [trait] }),
      children: inside.filter((child) => child !== element).flatMap(nodesOf),
    };
    return [node];
  };
  return nodesOf(document.body)[0];
}
