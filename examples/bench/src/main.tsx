import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/noto-kufi-arabic';
import '@mantine/core/styles.css';
import './bench.css';
import { MantineProvider } from '@mantine/core';
import { createRoot } from 'react-dom/client';
import { Bench } from './bench.tsx';
import { theme } from './theme.ts';

createRoot(document.getElementById('bench')!).render(
  <MantineProvider theme={theme} defaultColorScheme="auto">
    <Bench />
  </MantineProvider>,
);
