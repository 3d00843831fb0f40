/** What measuring a drawing in a picture gives. */
import type { Rgb } from '../colour.ts';

export interface PictureSeen {
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
  /** The picture was packed with losses, which the interval allows for. */
  packed?: true;
  /** What was measured may be noise, and not the drawing. */
  doubtful?: true;
}

export type PictureUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background' | 'photo';
