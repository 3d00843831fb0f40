/** Pages that others drew, by the package that they come in (`scripts/corpora.mjs`). */
import { readdirSync } from 'node:fs';
import { sourceFolder } from '../../../scripts/corpora.mjs';

export interface RealPage {
  /** Of the corpus. */
  name: string;
  folder: string;
  /** Below the folder. */
  file: string;
}

/** Which pages of each, by their paths. */
const PAGES: Record<string, RegExp> = {
  'pages-creative': /^dist\/index\.html$/,
  'pages-agency': /^dist\/index\.html$/,
  'pages-grayscale': /^dist\/index\.html$/,
  'pages-landing': /^dist\/index\.html$/,
  'pages-blog': /^dist\/(about|contact|index|post)\.html$/,
  'pages-admin': /^(blank|buttons|cards|charts|forgot-password|index|login|register|tables)\.html$/,
  'pages-soft': /^pages\/(billing|dashboard|profile|sign-in|sign-up|tables)\.html$/,
  'pages-soft-sections':
    /^(pages|sections\/(attention-catchers|elements|input-areas|page-sections))\/[^/]+\.html$/,
  'pages-black': /^examples\/(dashboard|map|notifications|rtl|tables|user)\.html$/,
  'pages-ios-lists': /examples\/.*\.html$/,
  'pages-argon': /^(index|examples\/(landing|login|profile|register))\.html$/,
  'pages-paper': /^(index|examples\/.*)\.html$/,
  'pages-material': /^(index|examples\/.*)\.html$/,
  'pages-material-admin': /^pages\/(billing|dashboard|notifications|profile|sign-in|sign-up|tables)\.html$/,
  'pages-mobile':
    /^dist\/demos\/(button|controlgroup|forms|listview|navbar|panel|toolbar|theme-default|slider)\/index\.html$/,
  'pages-tabler':
    /^dist\/(blog|cards|charts|email|empty|form-elements|index|login|pricing-cards|profile|register|store)\.html$/,
  'pages-gentelella':
    /^production\/(calendar|contacts|form|general_elements|index|login|pricing_tables|profile)\.html$/,
};

export const corpora: readonly string[] = Object.keys(PAGES);

/** @returns nothing where the package cannot be had here */
export function pagesOf(name: string): RealPage[] {
  const folder = sourceFolder(name);
  if (!folder) return [];
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => PAGES[name]!.test(file))
    .sort()
    .map((file) => ({ name, folder, file }));
}
