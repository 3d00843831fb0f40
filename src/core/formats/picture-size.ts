import { imageSize } from 'image-size';

/** Width and height of a picture from its head, in pixels; undefined where it is none that is made of pixels. */
export function readPictureSize(bytes: Uint8Array): { widthPx: number; heightPx: number } | undefined {
  try {
    const { height, type, width } = imageSize(bytes);
    return type === 'svg' ? undefined : { widthPx: width, heightPx: height };
  } catch {
    return undefined;
  }
}
