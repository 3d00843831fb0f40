import '@fontsource-variable/atkinson-hyperlegible-next';
import '@fontsource-variable/atkinson-hyperlegible-mono';
import '@mantine/core/styles.css';
import '../../parts/paper.css';
import './rehearsal.css';
import { MantineProvider } from '@mantine/core';
import { createRoot } from 'react-dom/client';
import { theme } from '../../parts/theme.ts';
import { RehearsalPage } from './rehearsal-page.tsx';

createRoot(document.getElementById('rehearsal')!).render(
  <MantineProvider theme={theme} defaultColorScheme="auto">
    <RehearsalPage />
  </MantineProvider>,
);
