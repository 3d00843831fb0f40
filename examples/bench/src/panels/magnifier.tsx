import { useEffect, useRef } from 'react';
import type { Point } from '../screen-picture.tsx';

const SIDE_PX = 13;
const ZOOM = 11;

/** The pixels around a point, each as a square; the one in the middle is framed. */
export function Magnifier({ at, bitmap, colour }: { bitmap?: ImageBitmap; at: Point; colour: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context || !bitmap) return;
    const half = SIDE_PX >> 1;
    const size = SIDE_PX * ZOOM;
    context.imageSmoothingEnabled = false;
    context.clearRect(0, 0, size, size);
    context.drawImage(bitmap, at.x - half, at.y - half, SIDE_PX, SIDE_PX, 0, 0, size, size);
    for (const [style, inset] of [
      ['#ffffff', 0.5],
      ['#1c2630', -0.5],
    ] as const) {
      context.strokeStyle = style;
      context.strokeRect(half * ZOOM + inset, half * ZOOM + inset, ZOOM - 2 * inset, ZOOM - 2 * inset);
    }
  }, [at, bitmap]);
  return (
    <figure className="magnifier">
      <canvas
        ref={canvas}
        width={SIDE_PX * ZOOM}
        height={SIDE_PX * ZOOM}
        role="img"
        aria-label="The pixels around the crosshair"
      />
      <figcaption>
        <span className="swatch small" style={{ background: colour || 'transparent' }} />
        <code>{colour}</code>
      </figcaption>
    </figure>
  );
}
