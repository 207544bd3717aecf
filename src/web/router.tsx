import { createBrowserRouter, type RouteObject } from 'react-router';
import { Shell } from './shell/Shell.tsx';
import { SignInPage } from './areas/session/SignInPage.tsx';
import { Failed } from './parts/States.tsx';

/** Loads an area's page when it is opened. */
const lazyPage =
  (load: () => Promise<Record<string, React.ComponentType>>, name: string): RouteObject['lazy'] =>
  async () => {
    const Component = (await load())[name];
    if (!Component) throw new Error(`no page ${name}`);
    return { Component };
  };

export const router = createBrowserRouter([
  { path: '/sign-in', Component: SignInPage },
  { path: '/first-account', lazy: lazyPage(() => import('./areas/session/FirstAccountPage.tsx'), 'FirstAccountPage') },
  {
    path: '/',
    Component: Shell,
    errorElement: <Failed error={new Error('This page could not be shown. Reload it.')} />,
    children: [
      { index: true, lazy: lazyPage(() => import('./areas/overview/OverviewPage.tsx'), 'OverviewPage') },
      {
        path: 'connections/new',
        lazy: lazyPage(() => import('./areas/connections/NewConnectionPage.tsx'), 'NewConnectionPage'),
      },
      {
        path: 'connections/own',
        lazy: lazyPage(() => import('./areas/connections/own/OwnServicePage.tsx'), 'OwnServicePage'),
      },
      {
        path: 'connections/:id?',
        lazy: lazyPage(() => import('./areas/connections/ConnectionsPage.tsx'), 'ConnectionsPage'),
      },
      { path: 'sources/:id?', lazy: lazyPage(() => import('./areas/sources/SourcesPage.tsx'), 'SourcesPage') },
      { path: 'routes/:id?', lazy: lazyPage(() => import('./areas/routes/RoutesPage.tsx'), 'RoutesPage') },
      { path: 'people/:id?', lazy: lazyPage(() => import('./areas/people/PeoplePage.tsx'), 'PeoplePage') },
      { path: 'consent/:id?', lazy: lazyPage(() => import('./areas/consent/ConsentPage.tsx'), 'ConsentPage') },
      { path: 'activity', lazy: lazyPage(() => import('./areas/activity/SubmissionsPage.tsx'), 'SubmissionsPage') },
      {
        path: 'activity/deliveries',
        lazy: lazyPage(() => import('./areas/activity/DeliveriesPage.tsx'), 'DeliveriesPage'),
      },
      {
        path: 'activity/chats/:id?',
        lazy: lazyPage(() => import('./areas/activity/chats/ChatsPage.tsx'), 'ChatsPage'),
      },
      { path: 'activity/changes', lazy: lazyPage(() => import('./areas/activity/ChangesPage.tsx'), 'ChangesPage') },
      { path: 'activity/:id', lazy: lazyPage(() => import('./areas/activity/TrailPage.tsx'), 'TrailPage') },
      { path: 'insight', lazy: lazyPage(() => import('./areas/insight/InsightPage.tsx'), 'InsightPage') },
      { path: 'account', lazy: lazyPage(() => import('./areas/account/AccountPage.tsx'), 'AccountPage') },
      { path: '*', lazy: lazyPage(() => import('./shell/NotFoundPage.tsx'), 'NotFoundPage') },
    ],
  },
]);
