import { createTheme, type MantineColorsTuple } from '@mantine/core';

const accent: MantineColorsTuple = [
  '#e6eef3',
  '#cfdfe9',
  '#aeccde',
  '#8fc1e3',
  '#5f9cc0',
  '#3a7ba2',
  '#22577a',
  '#1d4c6b',
  '#183f59',
  '#123247',
];

// what Mantine draws its dark theme with, from ink to paper
const dark: MantineColorsTuple = [
  '#e9e7df',
  '#c9cccb',
  '#a9b2ba',
  '#7f8a94',
  '#56616c',
  '#343d46',
  '#1b2229',
  '#14191e',
  '#10151a',
  '#0b0f13',
];

/** The sheet of paper on a workbench; the colours themselves stand in paper.css. */
export const theme = createTheme({
  colors: { accent, dark },
  primaryColor: 'accent',
  primaryShade: { light: 6, dark: 3 },
  autoContrast: true,
  fontFamily: '"Atkinson Hyperlegible Next Variable", "Noto Kufi Arabic Variable", system-ui, sans-serif',
  fontFamilyMonospace: '"Atkinson Hyperlegible Mono Variable", ui-monospace, monospace',
  defaultRadius: 'md',
  respectReducedMotion: true,
});
