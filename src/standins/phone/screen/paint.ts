/** Draws a laid-out screen the way the phone's display would show it: SVG, then pixels by resvg. */
import { renderAsync } from '@resvg/resvg-js';
import sharp from 'sharp';
import { area, type Box, intersect } from '../../../core/model/geometry.ts';
import type { Vector } from '../resources.ts';
import { type LayoutSettings, lineHeight, lineWidth, type Placed, sizeDp, weightOf } from './layout.ts';

interface Paints {
  colour(name: string): string;
  vector(name: string): Promise<Vector>;
  /** `#rrggbb` of the clock and the icons in the status bar. */
  statusInk: string;
  background: string;
}

// Painting costs about half a second, and the same screen is often asked for again.
const KEPT_PICTURES = 16;
const painted = new Map<string, Promise<Uint8Array>>();

/**
 * The display's contents as PNG bytes, as large as the phone's shape.
 *
 * @param windows from the lowest to the topmost; those below are dimmed
 */
export async function paintScreen(
  windows: readonly Placed[],
  settings: LayoutSettings,
  paints: Paints,
): Promise<Uint8Array> {
  const svg = await drawScreen(windows, settings, paints);
  const png = painted.get(svg) ?? rasterize(svg, settings);
  painted.delete(svg);
  painted.set(svg, png);
  if (painted.size > KEPT_PICTURES) painted.delete(painted.keys().next().value!);
  return png;
}

async function drawScreen(
  windows: readonly Placed[],
  settings: LayoutSettings,
  paints: Paints,
): Promise<string> {
  const { shape, typeface } = settings;
  const parts: string[] = [];
  const clips = { next: 0 };
  for (const [i, root] of windows.entries()) {
    if (i > 0)
      parts.push(`<rect width="${shape.widthPx}" height="${shape.heightPx}" fill="#000" opacity="0.5"/>`);
    const display = { x: 0, y: 0, width: shape.widthPx, height: shape.heightPx };
    await paintElement(root, settings, paints, parts, clips, display);
  }
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${shape.widthPx}" height="${shape.heightPx}" font-family="${typeface.family}">`,
    `<rect width="${shape.widthPx}" height="${shape.heightPx}" fill="${paints.background}"/>`,
    ...parts,
    statusBar(settings, paints),
    '</svg>',
  ].join('\n');
}

async function rasterize(svg: string, { typeface }: LayoutSettings): Promise<Uint8Array> {
  const rendered = await renderAsync(svg, {
    font: { fontFiles: typeface.files, loadSystemFonts: false, defaultFontFamily: typeface.family },
    logLevel: 'off',
  });
  const raw = { width: rendered.width, height: rendered.height, channels: 4 as const };
  // packed beside the drawing of the next one
  return sharp(rendered.pixels, { raw }).png({ compressionLevel: 4 }).toBuffer();
}

/**
 * @param visible the part of the display that its scrollers leave: what lies wholly beyond it is not drawn, and the renderer ends
 *   the whole process over a group that is clipped to nothing
 */
async function paintElement(
  placed: Placed,
  settings: LayoutSettings,
  paints: Paints,
  out: string[],
  clips: { next: number },
  visible: Box,
): Promise<void> {
  const { element, boundsPx } = placed;
  const scale = settings.shape.densityDpi / 160;
  const shown = intersect(boundsPx, visible);
  const isShown = area(shown) > 0;
  if (isShown) {
    out.push(frame(placed, scale, paints));
    if (element.style.toEdge) out.push(frame(toEdge(placed, settings.shape), scale, paints));
    if (element.kind === 'text')
      out.push(clipTo(shown, clips), ...textLines(placed, settings, paints), '</g>');
    if (element.kind === 'picture') {
      const tint = element.tint && paints.colour(element.tint);
      out.push(
        vectorShapes(
          await paints.vector(element.drawable),
          boundsPx,
          tint,
          settings.rtl && DIRECTIONAL.has(element.drawable),
        ),
      );
    }
  }
  if (!element.scrollable) {
    for (const child of placed.children) await paintElement(child, settings, paints, out, clips, visible);
  } else if (isShown) {
    out.push(clipTo(shown, clips));
    for (const child of placed.children) await paintElement(child, settings, paints, out, clips, shown);
    out.push('</g>');
  }
  if (isShown && element.showsFocus) out.push(focusHighlight(shown));
}

/** What lies between it and the lower edge of the display. */
function toEdge(placed: Placed, { heightPx }: LayoutSettings['shape']): Placed {
  const { height, y } = placed.boundsPx;
  return { ...placed, boundsPx: { ...placed.boundsPx, y: y + height, height: heightPx - y - height } };
}

/** Over what is in focus by a keyboard (AOSP, View.drawDefaultFocusHighlight). */
const focusHighlight = ({ height, width, x, y }: Box): string =>
  `<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="#808080" opacity="0.25"/>`;

/** Begins a group in which nothing is drawn beyond the box, as a view's canvas ends at its bounds. */
function clipTo({ height, width, x, y }: Box, clips: { next: number }): string {
  const id = `clip${clips.next++}`;
  return `<clipPath id="${id}"><rect x="${x}" y="${y}" width="${width}" height="${height}"/></clipPath><g clip-path="url(#${id})">`;
}

/** Drawables that point somewhere are mirrored in right-to-left layouts (`android:autoMirrored`). */
const DIRECTIONAL = new Set(['ic_back', 'ic_chevron']);

function frame(
  { element, boundsPx: { x, y, width, height } }: Placed,
  scale: number,
  paints: Paints,
): string {
  const { background, border, radius = 0 } = element.style;
  if (!background && !border) return '';
  const inset = border ? scale / 2 : 0;
  const fill = background ? paints.colour(background) : 'none';
  const stroke = border ? ` stroke="${paints.colour(border)}" stroke-width="${scale}"` : '';
  return `<rect x="${x + inset}" y="${y + inset}" width="${width - 2 * inset}" height="${height - 2 * inset}" rx="${radius * scale}" fill="${fill}"${stroke}/>`;
}

function textLines(
  { element, contentPx, lines }: Placed,
  settings: LayoutSettings,
  paints: Paints,
): string[] {
  if (element.kind !== 'text') return [];
  const scale = settings.shape.densityDpi / 160;
  const { ascent, descent } = settings.typeface;
  const sizePx = sizeDp(element, settings) * scale;
  const linePx = lineHeight(element, settings) * scale;
  const firstBaseline = contentPx.y + (linePx - (ascent + descent) * sizePx) / 2 + ascent * sizePx;
  return lines.map((line, i) => {
    const widthPx = lineWidth(line, element, settings) * scale;
    const spare = contentPx.width - widthPx;
    const x = contentPx.x + (element.style.align === 'center' ? spare / 2 : settings.rtl ? spare : 0);
    return `<text x="${x.toFixed(2)}" y="${(firstBaseline + i * linePx).toFixed(2)}" font-size="${sizePx}" font-weight="${weightOf(element, settings.extraWeight)}" fill="${paints.colour(element.colour)}" xml:space="preserve">${escapeXml(settings.rtl ? `${RIGHT_TO_LEFT_EMBEDDING}${line}${POP_EMBEDDING}` : line)}</text>`;
  });
}

// the renderer takes a line's base direction from nowhere else (Unicode Standard Annex 9, 2.1)
const RIGHT_TO_LEFT_EMBEDDING = '\u202b';
const POP_EMBEDDING = '\u202c';

function vectorShapes(
  vector: Vector,
  { x, y, width, height }: Box,
  tint: string | undefined,
  mirrored: boolean,
): string {
  const sx = width / vector.viewportWidth;
  const sy = height / vector.viewportHeight;
  const transform = mirrored
    ? `translate(${x + width} ${y}) scale(${-sx} ${sy})`
    : `translate(${x} ${y}) scale(${sx} ${sy})`;
  const paths = vector.paths.map(({ data, fill, stroke, strokeWidth }) => {
    const strokes = stroke
      ? ` stroke="${tint ?? stroke}" stroke-width="${strokeWidth}" stroke-linecap="round" stroke-linejoin="round"`
      : '';
    return `<path d="${data}" fill="${fill ? (tint ?? fill) : 'none'}"${strokes}/>`;
  });
  return `<g transform="${transform}">${paths.join('')}</g>`;
}

function statusBar({ shape, typeface }: LayoutSettings, { statusInk }: Paints): string {
  const scale = shape.densityDpi / 160;
  const right = shape.widthPx / scale - 16;
  const baseline = shape.statusBarDp / 2 + 5;
  const handle =
    shape.navigationBarDp > 0
      ? `<rect x="${shape.widthPx / scale / 2 - 54}" y="${shape.heightPx / scale - 12}" width="108" height="4" rx="2" fill="${statusInk}"/>`
      : '';
  return [
    `<g transform="scale(${scale})" fill="${statusInk}" font-family="${typeface.family}">`,
    `<text x="18" y="${baseline}" font-size="13" font-weight="600">9:41</text>`,
    `<rect x="${right - 22}" y="${baseline - 9}" width="19" height="9.5" rx="2.5" fill="none" stroke="${statusInk}" stroke-width="1.2"/>`,
    `<rect x="${right - 20.3}" y="${baseline - 7.3}" width="12" height="6.1" rx="1.2"/>`,
    ...[0, 1, 2, 3].map(
      (bar) =>
        `<rect x="${right - 46 + bar * 4.4}" y="${baseline - 3 - bar * 2.1}" width="3" height="${3 + bar * 2.1}" rx="0.8"/>`,
    ),
    handle,
    '</g>',
  ].join('');
}

const ESCAPES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escapeXml = (text: string): string => text.replace(/[&<>"]/g, (c) => ESCAPES[c]!);
