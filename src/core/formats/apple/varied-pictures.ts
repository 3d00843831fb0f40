/** Loose picture files of an iOS bundle that come in several scales; those in compiled catalogues are not read. */
import type { AppPackage, ResourceForm, VariedResource } from '../../model/app-package.ts';
import { readPictureSize } from '../picture-size.ts';
import type { Zip } from '../zip.ts';

const MAX_PICTURE_BYTES = 16 * 2 ** 20;

export async function findVariedPictures({ pictures }: AppPackage, zip: Zip): Promise<VariedResource[]> {
  const byName = new Map<string, ResourceForm[]>();
  for (const { density, file, name } of pictures) {
    // the same name in another folder, or for another kind of device, is another picture
    const place = file.slice(0, file.lastIndexOf('/') + 1).replace(/^Payload\/[^/]+\.app\//, '');
    const device = /~(\w+)\.\w+$/.exec(file)?.[0] ?? '';
    const key = place + name + device.replace(/\.\w+$/, '');
    const bytes =
      (zip.entries.get(file)?.sizeBytes ?? 0) <= MAX_PICTURE_BYTES
        ? await zip.read(file).catch(() => undefined)
        : undefined;
    const form = { qualifiers: density, file, ...(bytes && readPictureSize(bytes)) };
    byName.set(key, [...(byName.get(key) ?? []), form]);
  }
  return [...byName].map(([name, forms]) => ({ name, forms }));
}
