import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { measurePicture } from './measure-picture.ts';
import { measureText } from './measure-text.ts';
import type { PictureSeen } from './picture-seen.ts';
import type { TextSeen, TextUnseen } from './text-seen.ts';

// An icon falls into fewer marks than a text of a word or two.
const MOST_ICON_MARKS = 5;

/**
 * What stands in a box of a picture, as a judgement measures it: a text by its letters, anything else as an icon on what
 * carries it.
 *
 * @param text what is written there; empty where nobody says, and then few marks are taken for an icon
 */
export function measureSpot(pixels: Pixels, box: Box, text: string): TextSeen | PictureSeen | TextUnseen {
  const written = measureText(pixels, box, [], text);
  const isText =
    text !== '' ||
    (typeof written !== 'string' && (written.markCount > MOST_ICON_MARKS || written.behind !== 'flat'));
  if (isText) return written;
  const drawn = measurePicture(pixels, box, []);
  return typeof drawn === 'string' ? written : drawn;
}
