import type { BuildKey, Platform } from './candidate.ts';
import type { Cell } from './cell.ts';
import type { Box } from './geometry.ts';

/** An element of a capture as facts name it. */
export interface ElementRef {
  /** Language-free, see `placeNodes`. */
  key: string;
  className: string;
  /** What a person would call it: its visible text, else its label. */
  shown: string;
  boundsPx: Box;
}

interface OfCapture {
  cell: Cell;
  /** Digest of the capture, so that proof can be cut from it again. */
  evidence: string;
  platform: Platform;
}

/** That a capture was looked at. */
export interface CaptureFact extends OfCapture {
  kind: 'capture';
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  elementCount: number;
  /** `seen`: the build was read from the device; `asserted`: a person says so. */
  buildBasis: 'seen' | 'asserted';
}

interface TextContrastBase extends OfCapture {
  kind: 'text-contrast';
  element: ElementRef;
  enabled: boolean;
  /** What hides a part of it. */
  cutBy?: 'screen' | 'scroll';
}

/** Contrast of one text element against what lies behind it, measured from the picture. */
export interface SeenTextFact extends TextContrastBase {
  unseen?: undefined;
  /** WCAG 2.2 contrast ratio, 1 to 21; and the interval in which the true ratio lies. */
  ratio: number;
  interval: [number, number];
  foreground: string;
  background: string;
  /** Share of inked pixels that reach the text's own colour, 0 to 1: thin text may never reach it. */
  reached: number;
  /** Text size as estimated from the glyphs, lowest and highest, in dp. */
  textSizeDp: [number, number];
}

/** A text that the tree holds and the picture does not show in a way that can be measured. */
export interface UnseenTextFact extends TextContrastBase {
  unseen: 'no-ink' | 'too-small' | 'covered' | 'busy-background';
}

export type TextContrastFact = SeenTextFact | UnseenTextFact;

/** A place where a screen reader stops, and what it has to say there. */
export interface StopFact extends OfCapture {
  kind: 'stop';
  element: ElementRef;
  actionable: boolean;
  enabled: boolean;
  name: string;
  nameFrom: 'label' | 'text' | 'gathered' | 'hint' | 'none';
}

/** The size of something that can be tapped. */
export interface TargetFact extends OfCapture {
  kind: 'target';
  element: ElementRef;
  enabled: boolean;
  widthDp: number;
  heightDp: number;
  /** One picture pixel in dp: the rounding that a size may carry. */
  pixelDp: number;
  /** What hides a part of it, so that its whole size is not known. */
  cutBy?: 'screen' | 'scroll';
}

/** Identity of the package and what it asks for. */
export interface PackageFact {
  kind: 'package';
  platform: Platform;
  evidence: string;
  build: BuildKey;
  minSdk?: number;
  targetSdk?: number;
  debuggable: boolean;
  permissions: string[];
  locales: string[];
}

/** One intent filter that names a scheme, as written, and the component that bears it. */
export interface LinkFilterFact {
  kind: 'link-filter';
  platform: Platform;
  evidence: string;
  component: string;
  componentType: 'activity' | 'activity-alias';
  /** Position of the filter in its component, from 1. */
  position: number;
  exported: boolean | 'unset';
  enabled: boolean;
  actions: string[];
  categories: string[];
  schemes: string[];
  hosts: string[];
  paths: string[];
  autoVerify: boolean;
}

/** One text of one locale in the package's tables. */
export interface CatalogueTextFact {
  kind: 'catalogue-text';
  platform: Platform;
  evidence: string;
  key: string;
  /** BCP 47, or `default` for the table's unqualified values. */
  locale: string;
  /** Plural category or list position, where the resource has several texts. */
  form?: string;
  text: string;
  /** Placeholders as canonical `position:conversion`, in order of position: `1:s`, `2:d`. */
  placeholders: string[];
}

export type Fact =
  | CaptureFact
  | TextContrastFact
  | StopFact
  | TargetFact
  | PackageFact
  | LinkFilterFact
  | CatalogueTextFact;
export type FactKind = Fact['kind'];
export type FactOf<K extends FactKind> = Extract<Fact, { kind: K }>;
