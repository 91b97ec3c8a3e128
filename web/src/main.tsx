import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import '@fontsource/aleo/400.css';
import '@fontsource/aleo/700.css';
import '@fontsource-variable/source-sans-3';
import './theme.scss';
import { Shell } from './app';
import { BenchPage } from './bench/bench';
import { BookPage } from './book/book';
import { GroundPage } from './ground/ground';
import { ImportPage } from './ground/import';
import { WeatherPage } from './ground/weather';
import { Refused } from './lib/api';
import { SettingsProvider } from './lib/settings';
import { FirstPage } from './first';
import { NotYet } from './notyet';
import { RoundPage } from './round/round';
import { TodayPage } from './today/today';

const client = new QueryClient({
  defaultOptions: { queries: { retry: (n, error) => !(error instanceof Refused) && n < 3, networkMode: 'always' } },
});

const router = createBrowserRouter([
  { path: '/', element: <FirstPage /> },
  {
    path: '/line/:line',
    element: <Shell />,
    children: [
      { index: true, element: <Navigate to="today" replace /> },
      { path: 'today', element: <TodayPage /> },
      { path: 'ground', element: <GroundPage /> },
      { path: 'import', element: <ImportPage /> },
      { path: 'weather', element: <WeatherPage /> },
      {
        path: 'shed',
        element: <NotYet page="Shed" will="Traps on their rack, the gauge, mixes and tomorrow’s kit will be kept here." />,
      },
      { path: 'bench', element: <BenchPage /> },
      { path: 'bench/:design', element: <BenchPage /> },
      { path: 'round', element: <RoundPage /> },
      { path: 'round/:set', element: <RoundPage /> },
      { path: 'book', element: <BookPage /> },
      {
        path: 'practice',
        element: (
          <NotYet
            page="Practice"
            will="Made-up scenes to read will stand here, each choice judged by the same computation as your own sets."
          />
        ),
      },
      {
        path: 'rules',
        element: (
          <NotYet
            page="Rules"
            will="Your rule card, permissions, cautions and schools will be kept here; until then a look every calendar day is our habit, not a rule."
          />
        ),
      },
      {
        path: '*',
        element: <NotYet page="No such page" will="The pages of the work stand along the ground line above." />,
      },
    ],
  },
  { path: '*', element: <Navigate to="/" replace /> },
]);

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <SettingsProvider>
          <RouterProvider router={router} />
        </SettingsProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
