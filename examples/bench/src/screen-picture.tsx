import type { Box } from 'fenlok';
import {
  type CSSProperties,
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
  useEffect,
  useRef,
} from 'react';
import type { Shown } from './use-screen.ts';

/** An outline on the picture. */
export interface Mark {
  id: string;
  boundsPx: Box;
  /** Stands at its corner. */
  label?: string;
  tone: 'quiet' | 'active' | 'failed' | 'trail';
}

export interface Point {
  x: number;
  y: number;
}

interface Props {
  shown: Shown;
  marks?: readonly Mark[];
  /** What the picture is, for those who do not see it. */
  name: string;
  /** Nothing is seen but this. */
  curtain?: ReactNode;
  crosshair?: Point;
  /** In picture pixels. */
  onPoint?(at: Point): void;
  onMove?(at: Point): void;
  onKeyDown?(event: KeyboardEvent): void;
}

/** The picture of a capture with outlines over it. */
export function ScreenPicture({
  crosshair,
  curtain,
  marks = [],
  name,
  onKeyDown,
  onMove,
  onPoint,
  shown,
}: Props) {
  const { bitmap, screen } = shown;
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current || !bitmap) return;
    canvas.current.width = bitmap.width;
    canvas.current.height = bitmap.height;
    canvas.current.getContext('2d')!.drawImage(bitmap, 0, 0);
  }, [bitmap]);
  if (!screen) return null;
  const { heightPx, widthPx } = screen;
  const percent = ({ height, width, x, y }: Box) => ({
    left: `${(x / widthPx) * 100}%`,
    top: `${(y / heightPx) * 100}%`,
    width: `${(width / widthPx) * 100}%`,
    height: `${(height / heightPx) * 100}%`,
  });
  const pointOf = (event: PointerEvent): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    const inside = (value: number, most: number) => Math.min(most - 1, Math.max(0, Math.floor(value)));
    return {
      x: inside(((event.clientX - box.left) / box.width) * widthPx, widthPx),
      y: inside(((event.clientY - box.top) / box.height) * heightPx, heightPx),
    };
  };
  const canBePointedAt = onPoint || onMove || onKeyDown;
  return (
    <div
      className="screen"
      style={{ '--ratio': widthPx / heightPx } as CSSProperties}
      {...(canBePointedAt
        ? {
            tabIndex: 0,
            role: 'application',
            'aria-label': name,
            onKeyDown,
            onPointerMove: (event: PointerEvent) => onMove?.(pointOf(event)),
            onPointerDown: (event: PointerEvent) => onPoint?.(pointOf(event)),
          }
        : { role: 'img', 'aria-label': name })}
    >
      <canvas ref={canvas} hidden={curtain !== undefined} />
      {curtain !== undefined && <div className="curtain">{curtain}</div>}
      {curtain === undefined &&
        marks.map(({ boundsPx, id, label, tone }) => (
          <span key={id} className={`mark ${tone}`} style={percent(boundsPx)} aria-hidden="true">
            {label && <b>{label}</b>}
          </span>
        ))}
      {crosshair && (
        <span
          className="crosshair"
          style={percent({ ...crosshair, width: 1, height: 1 })}
          aria-hidden="true"
        />
      )}
    </div>
  );
}
