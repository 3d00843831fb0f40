import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@fontsource-variable/noto-kufi-arabic';
import '@mantine/core/styles.css';
import '../../parts/paper.css';
import './bench.css';
import { MantineProvider } from '@mantine/core';
import { createRoot } from 'react-dom/client';
import { theme } from '../../parts/theme.ts';
import { Bench } from './bench.tsx';

createRoot(document.getElementById('bench')!).render(
  <MantineProvider theme={theme} defaultColorScheme="auto">
    <Bench />
  </MantineProvider>,
);
