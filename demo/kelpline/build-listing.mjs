// Makes the pictures of Kelpline's store listing: screenshots from the stand-in phone, an icon and a banner. The texts are written by
// hand. Planted defects: see truth.yaml.
//   node demo/kelpline/build-listing.mjs       (needs the built library)
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { withPackage } from '../../dist/node/read-package.js';
import { kelpline, shapes, startPhone } from '../../dist/standins/index.js';

const here = dirname(fileURLToPath(import.meta.url));
const out = join(here, 'listing');
const put = async (name, image) => {
  mkdirSync(dirname(join(out, name)), { recursive: true });
  writeFileSync(join(out, name), await image.png({ palette: true, compressionLevel: 9 }).toBuffer());
};
const sea =
  '<rect width="100%" height="100%" fill="#0b5563"/><path d="M0 340 Q256 250 512 340 T1024 340 V512 H0Z" fill="#8fd3df"/><path d="M140 300 h232 l-40 70 h-152z" fill="#fffdf5"/>';
const drawing = (width, height) =>
  sharp(
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${sea}</svg>`),
  );
await put('icon.png', drawing(512, 512).removeAlpha());
await put('banner.png', drawing(1024, 500).removeAlpha());
// planted: the banner of the Arabic listing has an alpha channel
writeFileSync(
  join(out, 'banner-ar.png'),
  await drawing(1024, 500).ensureAlpha(0.9).png({ compressionLevel: 9 }).toBuffer(),
);
await withPackage(join(here, 'kelpline.apk'), async (apk) => {
  const phone = startPhone(shapes.common, apk, kelpline);
  for (const locale of ['en', 'de', 'nb', 'ar'])
    for (const screen of ['timetable', 'sailing']) {
      const cell = { screen, procedure: 'as-is', step: '', device: 'common', locale, theme: 'light' };
      const { png } = await phone.show({ ...cell, textScale: 1, orientation: 'portrait' });
      // planted: one English screenshot is as small as in a chat
      const isSmall = locale === 'en' && screen === 'sailing';
      // the store takes no picture that is more than twice as high as wide
      const image = sharp(png).extract({ left: 0, top: 0, width: 1080, height: 2160 }).removeAlpha();
      await put(`${locale}/${screen}.png`, isSmall ? image.resize({ width: 300 }) : image);
    }
});
