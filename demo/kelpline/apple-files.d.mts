/** See apple-files.mjs. */
export function assetCatalogue(
  pictures: { name: string; scale: number; width: number; height: number }[],
  colours: { name: string; dark?: boolean; rgb: number[] }[],
): Buffer;
export function interfaceFile(
  objects: [className: string, values: Record<string, string | { object: number }>][],
): Buffer;
