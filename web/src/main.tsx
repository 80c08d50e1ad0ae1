import './app/set-clock';
import '@fontsource-variable/source-serif-4';
import '@fontsource-variable/source-sans-3';
import { ChakraProvider } from '@chakra-ui/react';
import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { queryClient } from './api/query-client';
import { AppFrame } from './app/AppFrame';
import { Lost } from './app/Lost';
import { PAGES, pageRoute } from './app/pages';
import { reportError } from './app/report-error';
import { system } from './theme';

const router = createBrowserRouter([
  {
    element: <AppFrame />,
    errorElement: <Lost />,
    // A page is there at once or not at all: nothing is worth flashing up before it.
    HydrateFallback: () => null,
    children: [...PAGES.map(pageRoute), { path: '*', element: <Lost /> }],
  },
]);

window.addEventListener('error', ({ error }) => error && reportError(error));
window.addEventListener('unhandledrejection', ({ reason }) => reportError(reason));

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <ChakraProvider value={system}>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </ChakraProvider>
  </StrictMode>,
);
