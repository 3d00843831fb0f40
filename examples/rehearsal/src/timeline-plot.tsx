import { NativeSelect } from '@mantine/core';
import * as Plot from '@observablehq/plot';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { formatInstant } from './clock-bar.tsx';
import type { LookedAt } from './looked-at.ts';
import { type Band, drawBands, type Mark, STORE } from './model/bands.ts';

const HOUR_MS = 3600_000;
const WINDOWS: readonly [number, string][] = [
  [Number.POSITIVE_INFINITY, 'all of it'],
  [HOUR_MS, 'the last hour'],
  [24 * HOUR_MS, 'the last day'],
  [31 * 24 * HOUR_MS, 'the last 31 days'],
];

const ROW_PX = 13;

const SAYS: Record<Band['is'], string> = {
  paid: 'paid for',
  grace: 'unpaid, kept for a while',
  given: 'given by the app',
  missing: 'paid for and not given',
  unpaid: 'given and not paid for',
};

interface Props {
  lookedAt: LookedAt;
  products: readonly { id: string; kind: string }[];
}

/** Entitlements over time: what the store says, what the app says on each phone, and where they differ. */
export function TimelinePlot({ lookedAt, products }: Props) {
  const { account, devices, lines, nowMs } = lookedAt;
  const [windowMs, setWindowMs] = useState(Number.POSITIVE_INFINITY);
  const place = useRef<HTMLDivElement>(null);
  const width = useWidth(place);
  const picture = drawBands(lines, { account, devices, nowMs, products });
  const startMs = Math.max(Date.parse(lines[0]?.at ?? new Date(nowMs).toISOString()), nowMs - windowMs);
  const spanMs = Math.max(nowMs - startMs, 60_000);
  const x: [Date, Date] = [new Date(startMs), new Date(nowMs + spanMs * 0.12)];

  useEffect(() => {
    const cut = (band: Band) => ({
      ...band,
      from: new Date(Math.max(band.fromMs, startMs)),
      to: new Date(Math.min(band.toMs, x[1].getTime())),
    });
    const inside = (band: Band) => band.toMs > startMs && band.fromMs < x[1].getTime();
    const bands = picture.bands.filter(inside).map(cut);
    // a short one must be seen, too
    const leastMs = (x[1].getTime() - startMs) / 200;
    const differences = picture.differences
      .filter(inside)
      .map((band) => cut({ ...band, toMs: Math.max(band.toMs, band.fromMs + leastMs) }));
    const title = (d: ReturnType<typeof cut>) =>
      `${d.product}, ${d.who}: ${SAYS[d.is]}\n${formatInstant(d.fromMs)} to ${
        Number.isFinite(d.toMs) ? formatInstant(d.toMs) : 'ever'
      }`;
    const svg = Plot.plot({
      width,
      height: 36 + products.length * (devices.length + 1) * ROW_PX,
      marginLeft: 54,
      marginRight: 92,
      marginTop: 4,
      x: { type: 'utc', domain: x, label: null, ticks: 5, tickFormat: (at: Date) => formatTick(at, spanMs) },
      y: {
        domain: [STORE, ...devices],
        label: null,
        padding: 0.15,
        tickSize: 0,
        // the ids of real devices are long
        tickFormat: (who: string) => (who.length > 8 ? `…${who.slice(-5)}` : who),
      },
      fy: { domain: products.map(({ id }) => id), label: null, padding: 0.16 },
      style: { background: 'none', color: 'inherit', fontFamily: 'inherit', fontSize: '11.5px' },
      ariaLabel: 'Entitlements over time',
      marks: [
        Plot.frame({ stroke: 'var(--line)', fill: 'var(--sheet)' }),
        // every product has its rows, whatever happened to it
        Plot.dot(products, { fy: 'id', x: new Date(startMs), y: STORE, r: 0 }),
        Plot.barX(bands, {
          fy: 'product',
          y: 'who',
          x1: 'from',
          x2: 'to',
          title,
          fill: ({ is, who }: Band) =>
            is === 'grace' ? 'url(#grace)' : who === STORE ? 'var(--accent)' : 'var(--given)',
        }),
        Plot.barX(differences, {
          fy: 'product',
          y: 'who',
          x1: 'from',
          x2: 'to',
          title,
          fill: 'url(#differs)',
          stroke: 'var(--failed)',
          strokeWidth: 1.5,
        }),
        Plot.dot(
          picture.marks.filter(({ atMs }) => atMs >= startMs),
          {
            fy: 'product',
            y: 'who',
            x: ({ atMs }: Mark) => new Date(atMs),
            r: 3,
            fill: 'var(--sheet)',
            stroke: 'var(--ink)',
            strokeWidth: 1.5,
            title: ({ atMs, product, says, who }: Mark) =>
              `${product}, ${who}: ${says}\n${formatInstant(atMs)}`,
          },
        ),
        Plot.ruleX([new Date(nowMs)], { stroke: 'var(--ink)', strokeDasharray: '3 2' }),
      ],
    });
    place.current?.replaceChildren(svg);
  });

  return (
    <section className="timeline" aria-label="Timeline">
      <div ref={place} />
      <svg width="0" height="0" aria-hidden="true">
        <Stripes id="differs" paper="var(--sheet)" ink="var(--failed)" />
        <Stripes id="grace" paper="var(--sheet)" ink="var(--accent)" />
      </svg>
      <div className="legend">
        <span>
          <i className="store" /> paid for (store)
        </span>
        <span>
          <i className="app" /> given (app)
        </span>
        <span className={picture.differences.length > 0 ? 'failed' : ''}>
          <i className="differs" /> ▲ differ: {formatProducts(picture.differences)}
        </span>
        <NativeSelect
          label="Shown"
          data={WINDOWS.map(([ms, label]) => ({ value: String(ms), label }))}
          value={String(windowMs)}
          onChange={({ currentTarget }) => setWindowMs(Number(currentTarget.value))}
        />
      </div>
    </section>
  );
}

/** As fine as what is shown is long. */
function formatTick(at: Date, spanMs: number): string {
  const [day = '', time = ''] = at.toISOString().split('T');
  if (spanMs < 5 * 60_000) return time.slice(0, 8);
  return spanMs < 3 * 24 * HOUR_MS ? time.slice(0, 5) : day;
}

const Stripes = ({ id, ink, paper }: { id: string; paper: string; ink: string }) => (
  <pattern id={id} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
    <rect width="6" height="6" fill={paper} />
    <rect width="3" height="6" fill={ink} />
  </pattern>
);

const formatProducts = (differences: readonly Band[]): string =>
  [...new Set(differences.map(({ product }) => product))].join(', ') || 'never';

function useWidth(place: RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(720);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => entry && setWidth(Math.round(entry.contentRect.width)));
    if (place.current) observer.observe(place.current);
    return () => observer.disconnect();
  }, [place]);
  return width;
}
