import 'reflect-metadata';
import './styles.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router';
import { ApiProblem } from './data/api.ts';
import { applyTheme } from './parts/useTheme.ts';
import { router } from './router.tsx';

applyTheme();

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 2_000,
      retry: (failures, error) =>
        failures < 2 && !(error instanceof ApiProblem && error.status >= 400 && error.status < 500),
    },
  },
});

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
