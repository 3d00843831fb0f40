import type { Box } from '../../model/geometry.ts';

/** A picture as a data URI, the part of the screenshot that it shows, and the outlined element, both in screenshot pixels. */
export interface ProofPicture {
  dataUri: string;
  showsPx: Box;
  elementPx: Box;
}

/** What a reader of the report sees beside a finding. */
export interface Proof {
  /** The whole screen, small. */
  screen: ProofPicture;
  /** The element and what surrounds it. */
  crop: ProofPicture;
  /** Relative address of the whole screenshot beside the page. */
  pictureHref: string;
}
