import { Provider } from 'react-redux';
import {
  createBrowserRouter,
  isRouteErrorResponse,
  Link,
  Outlet,
  RouterProvider,
  useRouteError,
} from 'react-router';
import { Toaster } from 'sonner';
import './commands';
import '@/places/commands';
import { Shelf } from '@/places/shelf';
import { store } from '@/state/store';
import { Actions } from './Actions';
import { ImportProvider } from '@/files/ImportProvider';
import { VersionBar } from './offline/VersionBar';
import { NotFetched } from './NotFetched';
import { Wordmark } from '@/ui/Wordmark';

function Root() {
  return (
    <ImportProvider>
      <div className="flex h-full flex-col">
        <div className="min-h-0 grow">
          <Outlet />
        </div>
        <VersionBar />
      </div>
      <Actions />
      {/* One at a time, in the room the transport leaves for them. */}
      <Toaster
        position="bottom-left"
        visibleToasts={1}
        toastOptions={{
          unstyled: true,
          classNames: {
            toast:
              'message flex items-center gap-2 rounded-medium border border-edge bg-sheet px-3 py-1 font-sans text-work leading-tight text-ink',
            actionButton: 'ml-auto shrink-0 rounded-medium border border-edge px-2 py-0.5 hover:bg-well',
          },
        }}
      />
    </ImportProvider>
  );
}

/** What a browser says of a part of the app that it could not fetch; each has words of its own. */
const NOT_FETCHED = /dynamically imported module|importing a module script failed|error loading dynamically/i;

function Mishap() {
  const error = useRouteError();
  const missing = isRouteErrorResponse(error) && error.status === 404;
  if (error instanceof TypeError && NOT_FETCHED.test(error.message)) return <NotFetched />;
  return (
    <main className="flex h-full flex-col items-center justify-center gap-4 p-8 text-center">
      <Wordmark />
      <p role="alert" className="max-w-md">
        {missing
          ? 'Page not found.'
          : 'This place could not be shown. Your work is stored; reload the page to go on.'}
      </p>
      {!missing && (
        <p className="max-w-md text-quiet text-ink-2">{error instanceof Error ? error.message : ''}</p>
      )}
      <Link to="/" className="underline">
        Back to the shelf
      </Link>
    </main>
  );
}

const Waiting = () => <main className="p-8 text-ink-2">Loading ...</main>;

const router = createBrowserRouter([
  {
    element: <Root />,
    errorElement: <Mishap />,
    HydrateFallback: Waiting,
    children: [
      { path: '/', element: <Shelf /> },
      {
        path: '/guide',
        lazy: async () => ({ Component: (await import('@/places/guide')).Guide }),
        HydrateFallback: Waiting,
      },
      {
        path: '/many',
        lazy: async () => ({ Component: (await import('@/places/many')).ManyFiles }),
        HydrateFallback: Waiting,
      },
      {
        path: '/s/:id',
        lazy: async () => ({ Component: (await import('./SessionFrame')).SessionFrame }),
        HydrateFallback: Waiting,
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await import('@/places/bench')).Bench }),
            HydrateFallback: Waiting,
          },
          {
            path: 'record',
            lazy: async () => ({ Component: (await import('@/places/record')).Record }),
            HydrateFallback: Waiting,
          },
          {
            path: 'takes',
            lazy: async () => ({ Component: (await import('@/places/takes')).Takes }),
            HydrateFallback: Waiting,
          },
          {
            path: 'tempo',
            lazy: async () => ({ Component: (await import('@/places/tempo')).Tempo }),
            HydrateFallback: Waiting,
          },
          {
            path: 'readings',
            lazy: async () => ({ Component: (await import('@/places/readings')).Readings }),
            HydrateFallback: Waiting,
          },
          {
            path: 'clean-up',
            lazy: async () => ({ Component: (await import('@/places/cleanup')).CleanUp }),
            HydrateFallback: Waiting,
          },
          {
            path: 'parts',
            lazy: async () => ({ Component: (await import('@/places/parts')).Parts }),
            HydrateFallback: Waiting,
          },
          {
            path: 'score',
            lazy: async () => ({ Component: (await import('@/places/score')).Score }),
            HydrateFallback: Waiting,
          },
          {
            path: 'export',
            lazy: async () => ({ Component: (await import('@/places/export')).Export }),
            HydrateFallback: Waiting,
          },
        ],
      },
    ],
  },
]);

export function App() {
  return (
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  );
}
