import './app/set-clock';
import '@fontsource-variable/source-serif-4';
import '@fontsource-variable/source-sans-3';
import { ChakraProvider } from '@chakra-ui/react';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { queryClient } from './api/query-client';
import { Frame } from './app/Frame';
import { Lost } from './app/Lost';
import { AlongPage } from './places/along/AlongPage';
import { AlongPlace } from './places/along/AlongPlace';
import { BenchPlace } from './places/bench/BenchPlace';
import { FirstDayPage } from './places/first-day/FirstDayPage';
import { ComparePage } from './places/ledger/ComparePage';
import { ImportPage } from './places/ledger/ImportPage';
import { LedgerPlace } from './places/ledger/LedgerPlace';
import { TakePage } from './places/ledger/TakePage';
import { TempoPage } from './places/ledger/TempoPage';
import { MaterialPlace } from './places/material/MaterialPlace';
import { PassagePage } from './places/material/PassagePage';
import { PatternsPage } from './places/material/PatternsPage';
import { RecordPage } from './places/material/RecordPage';
import { SetupPlace } from './places/setup/SetupPlace';
import { TodayPlace } from './places/today/TodayPlace';
import { system } from './theme';

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Lost />,
    children: [
      { path: '/', element: <TodayPlace /> },
      { path: '/first-day', element: <FirstDayPage /> },
      { path: '/bench', element: <BenchPlace /> },
      { path: '/bench/:passageId', element: <BenchPlace /> },
      { path: '/material', element: <MaterialPlace /> },
      { path: '/material/patterns', element: <PatternsPage /> },
      { path: '/material/record', element: <RecordPage /> },
      { path: '/material/along', element: <AlongPlace /> },
      { path: '/material/along/:accompanimentId', element: <AlongPage /> },
      { path: '/material/:passageId', element: <PassagePage /> },
      { path: '/ledger', element: <LedgerPlace /> },
      { path: '/ledger/measure-a-file', element: <ImportPage /> },
      { path: '/ledger/tempo/:passageId', element: <TempoPage /> },
      { path: '/ledger/:takeId', element: <TakePage /> },
      { path: '/ledger/:takeId/beside', element: <ComparePage /> },
      { path: '/setup', element: <SetupPlace /> },
      { path: '*', element: <Lost /> },
    ],
  },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <ChakraProvider value={system}>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>
  </StrictMode>,
);
