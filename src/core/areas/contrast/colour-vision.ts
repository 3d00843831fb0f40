/**
 * What a colour looks like to people with one of three kinds of colour blindness.
 *
 * Machado, Oliveira and Fernandes, *A Physiologically-based Model for Simulation of Color Vision Deficiency* (2009), table 1,
 * severity 1.0; the matrices are for linear light.
 */
import type { Pixels } from '../../model/ports.ts';
import type { Rgb } from './colour.ts';

export const visions = ['protanopia', 'deuteranopia', 'tritanopia'] as const;
export type Vision = (typeof visions)[number];

type Matrix = readonly [Row, Row, Row];
type Row = readonly [number, number, number];

const MATRICES: Record<Vision, Matrix> = {
  protanopia: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deuteranopia: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritanopia: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const TO_LINEAR = Float64Array.from({ length: 256 }, (_, i) =>
  i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4,
);

const to8Bits = (linear: number): number => {
  const held = Math.min(1, Math.max(0, linear));
  const value = held <= 0.0031308 ? held * 12.92 : 1.055 * held ** (1 / 2.4) - 0.055;
  return Math.round(value * 255);
};

export function simulateVision([red, green, blue]: Rgb, vision: Vision): Rgb {
  const light = [TO_LINEAR[red]!, TO_LINEAR[green]!, TO_LINEAR[blue]!] as const;
  return MATRICES[vision].map((row) =>
    to8Bits(row[0] * light[0] + row[1] * light[1] + row[2] * light[2]),
  ) as unknown as Rgb;
}

/** Colour inversion of the display, channel by channel. */
export const invert = ([red, green, blue]: Rgb): Rgb => [255 - red, 255 - green, 255 - blue];

/** How a display, or an eye, may show a picture: as it is, inverted, or to one of three kinds of colour blindness. */
export const views = ['plain', 'inverted', ...visions] as const;
export type View = (typeof views)[number];

export const viewColour = (colour: Rgb, view: View): Rgb =>
  view === 'plain' ? colour : view === 'inverted' ? invert(colour) : simulateVision(colour, view);

/** The whole picture in that view; a new one, alpha as it was. */
export function viewPicture({ data, heightPx, widthPx }: Pixels, view: View): Pixels {
  const shown = new Uint8ClampedArray(data);
  // screens have few colours, and mostly the same beside one another
  const known = new Map<number, Rgb>();
  let last = -1;
  let colour: Rgb = [0, 0, 0];
  for (let at = 0; at < shown.length; at += 4) {
    const key = (shown[at]! << 16) | (shown[at + 1]! << 8) | shown[at + 2]!;
    if (key !== last) {
      last = key;
      const seen = known.get(key);
      colour = seen ?? viewColour([shown[at]!, shown[at + 1]!, shown[at + 2]!], view);
      if (!seen) known.set(key, colour);
    }
    shown[at] = colour[0];
    shown[at + 1] = colour[1];
    shown[at + 2] = colour[2];
  }
  return { widthPx, heightPx, data: shown };
}
