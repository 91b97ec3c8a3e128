import { StrictMode, useEffect, type ComponentType } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from 'react-router';
import '@fontsource/aleo/400.css';
import '@fontsource/aleo/700.css';
import '@fontsource-variable/source-sans-3';
import './theme.scss';
import { Shell } from './app';
import { Broken, Whole } from './lib/broken';
import { restsMs } from './lib/ask/pace';
import { Reading } from './lib/ask/reading';
import { SettingsProvider } from './lib/settings';
import { FirstPage } from './first';
import { NotYet } from './notyet';
import { RoundPage } from './round/round';
import { TodayPage } from './today/today';

const fetches: (() => Promise<unknown>)[] = [];

/** A page whose script is fetched when it is first opened; what the hand and the morning need comes at once. */
function page<K extends string>(fetch: () => Promise<Record<K, ComponentType>>, name: K) {
  fetches.push(fetch);
  return { lazy: async () => ({ Component: (await fetch())[name] }), errorElement: <Trouble /> };
}

// The rest is fetched while the first page is being read, so that no page waits for a program that has stopped.
window.addEventListener('load', () => {
  window.setTimeout(() => {
    fetches.forEach((fetch) => void fetch().catch(() => undefined));
  }, 800);
  // The core comes last, when the page rests.
  window.setTimeout(() => void import('./lib/ask/core').then((core) => core.prepare()).catch(() => undefined), restsMs);
});

/** A page that cannot be shown. */
function Trouble() {
  const error = useRouteError();
  useEffect(() => console.error(error), [error]);
  return (
    <main className="page">
      <h2>This page could not be fetched</h2>
      <p>
        The program does not answer, or it was renewed since this window was opened. Nothing that you entered is lost.{' '}
        <button type="button" className="word" onClick={() => window.location.reload()}>
          Try again
        </button>
      </p>
    </main>
  );
}

/** A page, or what stands about every page, that cannot be drawn. */
const RouteBroken = () => <Broken error={useRouteError()} />;

const router = createBrowserRouter([
  { path: '/', element: <FirstPage />, errorElement: <RouteBroken /> },
  {
    path: '/line/:line',
    element: <Shell />,
    errorElement: <RouteBroken />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <Navigate to="today" replace /> },
      { path: 'today', element: <TodayPage /> },
      { path: 'ground', ...page(() => import('./ground/ground'), 'GroundPage') },
      { path: 'import', ...page(() => import('./ground/import'), 'ImportPage') },
      { path: 'weather', ...page(() => import('./ground/weather'), 'WeatherPage') },
      { path: 'shed', ...page(() => import('./shed/rack'), 'RackPage') },
      { path: 'shed/gauge', ...page(() => import('./shed/gauge'), 'GaugePage') },
      { path: 'shed/gauge/:trap', ...page(() => import('./shed/gauge'), 'GaugePage') },
      { path: 'shed/mixes', ...page(() => import('./shed/mixes'), 'MixesPage') },
      { path: 'shed/kit', ...page(() => import('./shed/kit'), 'KitPage') },
      { path: 'bench', ...page(() => import('./bench/bench'), 'BenchPage') },
      { path: 'bench/:design', ...page(() => import('./bench/bench'), 'BenchPage') },
      { path: 'round', element: <RoundPage /> },
      { path: 'round/:set', element: <RoundPage /> },
      { path: 'done', ...page(() => import('./book/done'), 'DonePage') },
      { path: 'phone', ...page(() => import('./phone/phone'), 'PhonePage') },
      { path: 'copies', ...page(() => import('./book/copies'), 'CopiesPage') },
      { path: 'book/:chapter?/:set?', ...page(() => import('./book/book'), 'BookPage') },
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
  { path: '/door', ...page(() => import('./door/door'), 'DoorPage') },
  { path: '*', element: <Navigate to="/" replace /> },
]);

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Whole>
        <Reading>
          <SettingsProvider>
            <RouterProvider router={router} />
          </SettingsProvider>
        </Reading>
      </Whole>
    </StrictMode>,
  );
}
