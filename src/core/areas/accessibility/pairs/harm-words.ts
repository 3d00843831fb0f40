import { z } from 'zod';
import type { Words } from '../../../model/finding.ts';
import { quote } from '../../words.ts';
import { type HarmKind, harmKinds } from './harm-to-text.ts';

export const harmSchema = z.strictObject({
  harm: z.enum(harmKinds),
  text: z.string(),
  /** The text that it lies over, or under; empty otherwise. */
  other: z.string(),
  counterpart: z.string(),
});
export type HarmData = z.infer<typeof harmSchema>;

const HARM: Record<HarmKind, [what: string, measured: string]> = {
  lost: [
    'is not there any more',
    'it is in the first capture and not in the second, where what stands before and after it is',
  ],
  cut: ['is cut off by the edge of the screen', 'it ends beyond the picture'],
  clipped: [
    'does not fit into its box',
    'its letters end at the edge of the box, or are not drawn as high or as wide as they would be',
  ],
  ellipsized: ['ends in an ellipsis', 'three dots where the text goes on'],
  overlapped: ['lies over another text', 'its box and that of another share more than a tenth'],
};

/** What both captures of a pair were held against, in words. */
export function harmWords(data: HarmData, when: string, required: string, remedy: string): Words {
  const [what, measured] = HARM[data.harm];
  return {
    what: `${quote(data.text)} ${data.other ? what.replace('another text', quote(data.other)) : what} ${when}`,
    measured,
    required,
    why: `It is whole in ${data.counterpart}.`,
    remedy,
  };
}

export const ROOM = 'Let the box grow with its text: no fixed height, no single line; let the screen scroll.';
