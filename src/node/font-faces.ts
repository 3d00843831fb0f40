/** The fonts of the pages, as `@font-face` rules with data URIs. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

const FONTS = [
  {
    family: 'Atkinson Hyperlegible Next',
    file: '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    range: 'U+0000-00FF, U+2000-22FF, U+25A0-25FF',
  },
  {
    family: 'Atkinson Hyperlegible Next',
    file: '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2',
    range: 'U+0100-024F, U+1E00-1EFF',
  },
  {
    family: 'Atkinson Hyperlegible Mono',
    file: '@fontsource-variable/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2',
    range: 'U+0000-00FF, U+2000-22FF',
  },
  {
    family: 'Noto Kufi Arabic',
    file: '@fontsource-variable/noto-kufi-arabic/files/noto-kufi-arabic-arabic-wght-normal.woff2',
    range: 'U+0600-06FF, U+0750-077F, U+200C-200F',
  },
];

export async function fontFaces(): Promise<string> {
  const require = createRequire(import.meta.url);
  const rules = FONTS.map(async ({ family, file, range }) => {
    const data = (await readFile(require.resolve(file))).toString('base64');
    return `@font-face{font-family:"${family}";font-weight:200 800;src:url(data:font/woff2;base64,${data}) format("woff2");unicode-range:${range}}`;
  });
  return (await Promise.all(rules)).join('');
}
