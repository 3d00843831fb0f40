/** What measuring a drawing in a picture gives. */
import type { Rgb } from '../colour.ts';

export interface PictureSeen {
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
  /** Around its edges are traces of packing with losses. */
  packed?: true;
}

export type PictureUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background' | 'photo';
