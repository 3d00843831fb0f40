import { imageSize } from 'image-size';

interface PictureSize {
  widthPx: number;
  heightPx: number;
  /** A nine-patch: its middle is stretched to whatever size is needed. */
  stretches?: true;
}

/** Width and height of a picture from its head, in pixels; undefined where it is none that is made of pixels. */
export function readPictureSize(bytes: Uint8Array): PictureSize | undefined {
  try {
    const { height, type, width } = imageSize(bytes);
    if (type === 'svg') return undefined;
    return {
      widthPx: width,
      heightPx: height,
      ...(type === 'png' && isNinePatch(bytes) && { stretches: true }),
    };
  } catch {
    return undefined;
  }
}

// AOSP `ResourceTypes.h`, `Res_png_9patch`: the packer writes what the border said into a chunk of its own.
const NINE_PATCH = 'npTc';
const PNG_HEAD_BYTES = 8;

/** Chunks of a PNG (W3C, *PNG*, 5.3) up to its pixels: u32 length · type · data · checksum. */
function isNinePatch(bytes: Uint8Array): boolean {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = PNG_HEAD_BYTES; at + 8 <= bytes.length; at += 12 + view.getUint32(at)) {
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    if (type === NINE_PATCH) return true;
    if (type === 'IDAT') return false;
  }
  return false;
}
