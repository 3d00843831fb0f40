/** An ad that fills the screen. */
export interface ShownAd {
  placement: string;
  network: string;
  words: string;
}
