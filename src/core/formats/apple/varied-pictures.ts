/** Pictures of an iOS app that come in several scales: loose files, and those of compiled asset catalogues. */
import type { AppPackage, ResourceForm, VariedResource } from '../../model/app-package.ts';
import { readPictureSize } from '../picture-size.ts';
import type { Zip } from '../zip.ts';

const MAX_PICTURE_BYTES = 16 * 2 ** 20;

export async function findVariedPictures({ ios, pictures }: AppPackage, zip: Zip): Promise<VariedResource[]> {
  const byName = new Map<string, ResourceForm[]>();
  const add = (name: string, form: ResourceForm) => byName.set(name, [...(byName.get(name) ?? []), form]);
  for (const { density, file, name } of pictures) {
    if (file.endsWith('.car')) continue;
    // the same name in another folder, or for another kind of device, is another picture
    const place = file.slice(0, file.lastIndexOf('/') + 1).replace(/^Payload\/[^/]+\.app\//, '');
    const device = /~(\w+)\.\w+$/.exec(file)?.[0] ?? '';
    const bytes =
      (zip.entries.get(file)?.sizeBytes ?? 0) <= MAX_PICTURE_BYTES
        ? await zip.read(file).catch(() => undefined)
        : undefined;
    add(place + name + device.replace(/\.\w+$/, ''), {
      qualifiers: density,
      file,
      ...(bytes && readPictureSize(bytes)),
    });
  }
  for (const { file, pictures: own } of ios?.assetCatalogues ?? [])
    for (const { appearance, heightPx, idiom, isVector, name, scale, source, widthPx } of own) {
      if (isVector || scale === 0) continue;
      const kinds = [idiom, appearance === 'any' ? '' : appearance].filter(Boolean).join(', ');
      add(kinds ? `${name} (${kinds})` : name, {
        qualifiers: `@${scale}x`,
        file: `${file}, ${source}`,
        widthPx,
        heightPx,
      });
    }
  return [...byName].map(([name, forms]) => ({ name, forms }));
}
