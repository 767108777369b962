import '@fontsource-variable/archivo/index.css';
import '@fontsource-variable/jetbrains-mono/index.css';
import '@mantine/core/styles.css';
import '@mantine/notifications/styles.css';
import '@mantine/spotlight/styles.css';
import './theme/tokens.css';
import './theme/base.css';
import './theme/badge.css';
import { MantineProvider } from '@mantine/core';
import { ModalsProvider } from '@mantine/modals';
import { Notifications } from '@mantine/notifications';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider, Navigate } from 'react-router';
import { Shelf } from './pages/shelf/Shelf.tsx';
import { Loading, RouteProblem } from './pages/RouteState.tsx';
import { cssVariables, theme } from './theme/theme.ts';

/** Pages of a map load their code when they are opened: the Shelf needs none of it. */
const router = createBrowserRouter([
  { path: '/', element: <Shelf />, errorElement: <RouteProblem /> },
  {
    path: '/materials',
    hydrateFallbackElement: <Loading />,
    errorElement: <RouteProblem />,
    lazy: async () => ({ Component: (await import('./pages/materials/Materials.tsx')).Materials }),
  },
  {
    path: '/props',
    hydrateFallbackElement: <Loading />,
    errorElement: <RouteProblem />,
    lazy: async () => ({ Component: (await import('./pages/props/Props.tsx')).Props }),
  },
  {
    path: '/projects/:projectId/findings',
    hydrateFallbackElement: <Loading />,
    errorElement: <RouteProblem />,
    lazy: async () => ({ Component: (await import('./pages/findings/Findings.tsx')).Findings }),
  },
  {
    path: '/maps/:mapId',
    hydrateFallbackElement: <Loading />,
    errorElement: <RouteProblem />,
    lazy: async () => ({ Component: (await import('./pages/MapShell.tsx')).MapShell }),
    children: [
      { index: true, element: <Navigate to="shape" replace /> },
      { path: 'shape', lazy: async () => ({ Component: (await import('./pages/shape/Shape.tsx')).Shape }) },
      { path: 'build', lazy: async () => ({ Component: (await import('./pages/build/Build.tsx')).Build }) },
      { path: 'sight', lazy: async () => ({ Component: (await import('./pages/sight/Sight.tsx')).SightPage }) },
      { path: 'play', lazy: async () => ({ Component: (await import('./pages/play/Play.tsx')).Play }) },
    ],
  },
]);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <MantineProvider theme={theme} cssVariablesResolver={cssVariables} defaultColorScheme="light">
      <ModalsProvider>
        <Notifications position="bottom-right" limit={3} />
        <RouterProvider router={router} />
      </ModalsProvider>
    </MantineProvider>
  </StrictMode>,
);
