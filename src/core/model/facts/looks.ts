/** Facts of how a capture looks, beside texts and icons: pictures, large light areas, edges of fields. */

import type { ElementRef, OfCapture } from './base.ts';

/** A picture that cannot be acted on, by itself or with what holds it. */
export interface PictureFact extends OfCapture {
  kind: 'picture';
  element: ElementRef;
  /** Given for readers; empty where they pass it by. */
  name: string;
  /** The app says that it is decoration, where the source tells. */
  isHidden: boolean;
  widthDp: number;
  heightDp: number;
  /** Texts in the same row, card or screen part. */
  beside: string[];
  /** Texts that are drawn over it: it is a ground. */
  over: number;
  /** It is of more than one colour. */
  isDrawn: boolean;
}

/** An area of one light colour on a screen of the dark theme. */
export interface LightAreaFact extends OfCapture {
  kind: 'light-area';
  element: ElementRef;
  colour: string;
  /** WCAG 2.2 relative luminance, 0 to 1. */
  luminance: number;
  /** Of the picture, 0 to 1. */
  share: number;
}

/** What shows where a field is, apart from what is written in it. */
export interface FieldEdgeFact extends OfCapture {
  kind: 'field-edge';
  element: ElementRef;
  enabled: boolean;
  /** Something is written in it, a hint too. */
  isWritten: boolean;
  /** WCAG 2.2 contrast ratio of its fill or its line, whichever shows it better, with what surrounds it. */
  ratio: number;
  shownBy: 'fill' | 'line';
  colour: string;
  around: string;
  cutBy?: 'screen' | 'scroll';
}
