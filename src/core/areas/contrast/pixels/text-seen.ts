/** What measuring a text in a picture gives. */
import type { Box } from '../../../model/geometry.ts';
import type { Rgb } from '../colour.ts';
import type { EdgeLetters } from './measure-glyphs.ts';
import type { GlyphSize } from './text-size.ts';

/** How the background was seen: one colour; a gradient; or a picture, of which only the neighbourhood of glyphs counts. */
export type Behind = 'flat' | 'gradient' | 'picture';

export interface TextSeen extends GlyphSize {
  /** Of the faintest part, where it has several colours or an uneven background. */
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  /** Lowest and highest that the true ratio may be. */
  interval: [number, number];
  behind: Behind;
  /** On an uneven background: the ratio at its average place. */
  meanRatio: number;
  /** Share of inked pixels that have the foreground itself. */
  reached: number;
  /** Width of the upright strokes; 0 where it was not measured. */
  stemPx: number;
  /** Height of the level ones. */
  barPx: number;
  /** Parts in other colours have strokes of another width, so that the weight of the faintest one is not known. */
  hasWeights?: true;
  /** Colours of the text: more than one where a word stands out. */
  spanCount: number;
  /** Widths of all its words together; 0 where they were not told apart. */
  runPx: number;
  /** Of what was taken for its letters. */
  markCount: number;
  edge?: EdgeLetters | undefined;
  /** Of the letters, where it is not clear which of the marks they are. */
  otherSize?: GlyphSize;
  /** What is drawn beside the text in the same box, in pixels of the picture. */
  drawings: Box[];
  /** The marks that were measured are not as wide or as high as the text's letters would be. */
  doubtful?: true;
  /** On one colour, and doubtful: there are other colours, or marks that are no letters, among the letters. */
  looksUneven?: true;
  /** The picture was packed with losses, which the interval allows for. */
  packed?: true;
}

export type TextUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background';
