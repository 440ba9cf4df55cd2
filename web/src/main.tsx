import './document/workers/zodWithoutEval.ts';
import '@fontsource/atkinson-hyperlegible-next/latin-400.css';
import '@fontsource/atkinson-hyperlegible-next/latin-600.css';
import '@fontsource/atkinson-hyperlegible-next/latin-700.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-400.css';
import '@fontsource/atkinson-hyperlegible-mono/latin-700.css';
import '@fontsource/young-serif/latin-400.css';
import { CssBaseline, ThemeProvider } from '@mui/material';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { SnackbarProvider } from 'notistack';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { NotFound } from './screens/NotFound.tsx';
import { ShutOut } from './screens/ShutOut.tsx';
import { Confirm } from './ui/Confirm.tsx';
import { startPhotographs } from './document/photographs.ts';
import { startRecords } from './document/records.ts';
import { startOutbox } from './document/outbox.ts';
import { theme } from './ui/theme.ts';

const pieceScreen = () => import('./screens/piece/PieceScreen.tsx');

const router = createBrowserRouter([
  {
    ErrorBoundary: NotFound,
    HydrateFallback: () => null,
    children: [
      { path: '/', lazy: () => import('./screens/shelf/Shelf.tsx') },
      { path: '/pieces/:id/:view?', lazy: pieceScreen },
      { path: '/shop/:what?', lazy: () => import('./screens/shop/ShopScreen.tsx') },
      { path: '/days', lazy: () => import('./screens/days/DaysScreen.tsx') },
      { path: '/trainer', lazy: () => import('./screens/trainer/TrainerScreen.tsx') },
      { path: '/instruments', lazy: () => import('./screens/instruments/InstrumentsScreen.tsx') },
      { path: '*', Component: NotFound },
    ],
  },
]);

const client = new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1 } } });

/** Shown once the type is there, so that nothing on the first screen is measured twice. */
const TYPE = [
  '400 1em "Atkinson Hyperlegible Next"',
  '600 1em "Atkinson Hyperlegible Next"',
  '700 1em "Atkinson Hyperlegible Next"',
  '400 1em "Atkinson Hyperlegible Mono"',
  '700 1em "Atkinson Hyperlegible Mono"',
  '400 1em "Young Serif"',
];
await Promise.allSettled(TYPE.map((font) => document.fonts.load(font)));

startRecords();
startPhotographs();
startOutbox(() => void client.invalidateQueries({ queryKey: ['projects'] }));

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <QueryClientProvider client={client}>
        <SnackbarProvider maxSnack={3} anchorOrigin={{ vertical: 'bottom', horizontal: 'center' }}>
          <Confirm>
            <RouterProvider router={router} />
            <ShutOut />
          </Confirm>
        </SnackbarProvider>
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);

/** What is opened next is fetched, and its painter begun, while the first screen is looked at. Failing, it is fetched when asked for. */
const ahead = async (): Promise<void> => {
  try {
    await pieceScreen();
    const { beginAhead } = await import('./document/workers/host.ts');
    beginAhead('painting');
  } catch {
    // Nothing is lost by it.
  }
};
if ('requestIdleCallback' in window) requestIdleCallback(() => void ahead());
else setTimeout(() => void ahead(), 1000);
