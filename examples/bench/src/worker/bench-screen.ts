/** What the page is told of a capture. Everything in picture pixels; no pixels, no trees. */
import type { Box, Cell, Finding, NameOrigin, View } from 'fenlok';

export interface BenchScreen {
  id: string;
  title: string;
  platform: 'android' | 'ios';
  cell: Cell;
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  stops: BenchStop[];
  /** Actionable, and yet no reader or switch comes to it. */
  unreachable: BenchStop[];
  elements: BenchElement[];
  findings: Finding[];
}

export interface BenchStop {
  key: string;
  boundsPx: Box;
  actionable: boolean;
  enabled: boolean;
  name: string;
  nameFrom: NameOrigin;
  /** States, role, hint: what is said after the name. */
  rest: string[];
  heading: boolean;
  drawn: string[];
}

/** An element as the measuring saw it, joined with its counterpart by `ref`. */
export interface BenchElement {
  /** Its key, and which of those that share the key: the same on the counterpart of this screen. */
  ref: string;
  boundsPx: Box;
  shown: string;
  contrast?: { ratio: number; interval: [number, number]; foreground: string; background: string };
  /** Height of the tallest glyph. */
  glyphDp?: number;
}

/** A capture as it was opened: its text and the picture's bytes. */
export interface CaptureParts {
  name: string;
  /** JSON of the capture. */
  capture: string;
  hierarchyXml: string;
  picture: Blob;
}

export interface Weighed {
  ratio: number;
  said: string;
  /** The nearest colours that pass, for each side. */
  text?: { colour: string; said: string };
  background?: { colour: string; said: string };
}

export interface PickedAt {
  x: number;
  y: number;
  side: 'text' | 'background';
  /** The colour of the other side. */
  other: string;
  required: number;
}

export interface BenchWorker {
  open(id: string, parts: CaptureParts): Promise<BenchScreen>;
  /** The picture as shown in a view, to be drawn. */
  picture(id: string, view: View): Promise<ImageBitmap>;
  /** The colour of a pixel in a view, as #rrggbb. */
  colourAt(id: string, view: View, x: number, y: number): Promise<string>;
  /** The colour of a pixel as one side of a pair, weighed at once. */
  pick(id: string, view: View, at: PickedAt): Promise<{ colour: string; weighed: Weighed }>;
  weigh(text: string, background: string, required: number): Promise<Weighed>;
  /** What the checks of pairs find on two captures of one screen. */
  compare(id: string, counterpart: string): Promise<Finding[]>;
}
