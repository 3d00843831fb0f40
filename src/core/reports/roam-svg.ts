/** The map of a roam as a picture: screens in columns by their distance from the first, moves between them as lines. */
import type { RoamMap, RoamScreen } from '../model/roam-map.ts';
import { escapeMarkup as esc } from './escape.ts';

const WIDTH = 210;
const HEIGHT = 74;
const COLUMN = 290;
const ROW = 100;
const LEFT = 30;
const TOP = 84;

/**
 * SVG text, about 300 px to a step from the first screen.
 *
 * @param titled whether its own title stands above it
 */
export function roamSvg(map: RoamMap, titled = true): string {
  const places = placeScreens(map.screens);
  const columns = Math.max(1, ...[...places.values()].map(({ column }) => column + 1));
  const rows = Math.max(1, ...[...places.values()].map(({ row }) => row + 1));
  const never = map.neverReached.map((name) => name.split('.').at(-1)!);
  const width = Math.max(760, LEFT * 2 + (columns - 1) * COLUMN + WIDTH);
  const top = titled ? 0 : 42;
  const height = TOP + rows * ROW + (never.length > 0 ? 46 : 16);
  const crashes = map.crashes.length;
  const summary = `${map.screens.length} screens, ${map.stepsTaken} acts${crashes > 0 ? `, ▲ ${crashes} ${crashes === 1 ? 'crash' : 'crashes'}` : ''}${map.finished ? '' : ', not finished'}`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 ${top} ${width} ${height - top}" width="${width}" height="${height - top}" font-family="'Atkinson Hyperlegible Next', system-ui, sans-serif" font-size="15" role="img" aria-label="${esc(`Map of ${map.build.appId}: ${summary}`)}">`,
    `<rect width="${width}" height="${height}" fill="#faf9f5"/>`,
    `<text x="${LEFT}" y="36" font-size="20" font-weight="700" fill="#1c2630">What a walk found in ${esc(map.build.appId)}</text>`,
    `<text x="${LEFT}" y="60" fill="#56616c">${esc(summary)} on ${esc(map.device)}; columns are taps from the first screen</text>`,
    ...movesOf(map).map(({ from, to }) => line(places.get(from), places.get(to))),
    ...map.screens.map((screen) => box(screen, places.get(screen.id)!, map)),
    never.length > 0
      ? `<text x="${LEFT}" y="${height - 18}" fill="#7d5700">◐ never in front: ${esc(never.join(', '))}</text>`
      : '',
    '</svg>',
    '',
  ].join('\n');
}

interface Place {
  column: number;
  row: number;
}

function placeScreens(screens: readonly RoamScreen[]): Map<string, Place> {
  const rows = new Map<number, number>();
  const places = new Map<string, Place>();
  for (const { depth, id } of [...screens].sort((a, b) => a.depth - b.depth)) {
    const row = rows.get(depth) ?? 0;
    rows.set(depth, row + 1);
    places.set(id, { column: depth, row });
  }
  return places;
}

/** Moves that lead further; the ways back would hide them. */
function movesOf({ screens }: RoamMap): { from: string; to: string }[] {
  const moves = new Map<string, { from: string; to: string }>();
  const depth = new Map(screens.map((screen) => [screen.id, screen.depth]));
  for (const { actions, id } of screens)
    for (const { to } of actions)
      if (to !== undefined && depth.get(to)! > depth.get(id)!) moves.set(`${id}|${to}`, { from: id, to });
  return [...moves.values()];
}

const cornerOf = ({ column, row }: Place) => ({ x: LEFT + column * COLUMN, y: TOP + row * ROW });

function line(from: Place | undefined, to: Place | undefined): string {
  if (!from || !to) return '';
  const [a, b] = [cornerOf(from), cornerOf(to)];
  const [x1, y1, x2, y2] = [a.x + WIDTH, a.y + HEIGHT / 2, b.x, b.y + HEIGHT / 2];
  const bend = Math.min(60, (x2 - x1) / 2);
  return `<path d="M${x1} ${y1}C${x1 + bend} ${y1} ${x2 - bend} ${y2} ${x2} ${y2}" fill="none" stroke="#22577a" stroke-width="1.5" opacity="0.6"/>`;
}

function box({ actions, id, title }: RoamScreen, place: Place, map: RoamMap): string {
  const { x, y } = cornerOf(place);
  const crashed = map.crashes.filter(({ screen }) => screen === id).length;
  const count = (outcome: RoamScreen['actions'][number]['outcome']) =>
    actions.filter((action) => action.outcome === outcome).length;
  const tried = actions.length - count('untried') - count('avoided');
  const words = [
    `${tried} of ${actions.length} tried`,
    ...(count('avoided') > 0 ? [`${count('avoided')} avoided`] : []),
  ].join(', ');
  return [
    `<rect x="${x}" y="${y}" width="${WIDTH}" height="${HEIGHT}" rx="10" fill="#ffffff" stroke="${crashed > 0 ? '#a5341b' : '#22577a'}" stroke-width="${crashed > 0 ? 2 : 1}"/>`,
    `<text x="${x + 14}" y="${y + 25}" font-weight="700" fill="#1c2630">${esc(id)}</text>`,
    `<text x="${x + 14}" y="${y + 44}" font-size="13" fill="#56616c">${esc(cut(title))}</text>`,
    `<text x="${x + 14}" y="${y + 63}" font-size="13" fill="${crashed > 0 ? '#a5341b' : '#56616c'}">${crashed > 0 ? `▲ crashes; ${words}` : words}</text>`,
  ].join('');
}

const cut = (text: string): string => (text.length > 26 ? `${text.slice(0, 25)}…` : text);
