import { storage } from '@/saving/workspace';
import { createSmallStore } from '@/ui/smallStore';
import { whenOver } from '@/ui/underWay';
import { TAKE_OVER } from './messages';

/**
 * How a newer version of the app stands for this page: none known; to be had; put off; accepted here; or in force
 * because another page accepted it, while this one goes on with what it has.
 */
export type NewVersion = 'none' | 'offered' | 'later' | 'accepted' | 'elsewhere';

const version = createSmallStore<NewVersion>('none');
export const useNewVersion = version.useValue;

/** A newer version is looked for this often while the page stays open, besides at every visit. */
const LOOK_EVERY_MS = 60 * 60 * 1000;

let registration: ServiceWorkerRegistration | null = null;

/**
 * Has the app kept in this browser, and a newer one offered when there is one. Nothing is loaded anew by itself: only
 * the page that accepts is, and not before what is under way in it has ended. The browser's own events are listened to:
 * whatever page or visit finds the newer version, each page of the app hears of it.
 */
export function keepOffline(): void {
  if (!('serviceWorker' in navigator)) return;
  const { serviceWorker } = navigator;
  let hadOne = serviceWorker.controller !== null;
  serviceWorker.addEventListener('controllerchange', () => {
    if (version.get() === 'accepted') void reloadWhenIdle();
    // The first one of all takes up a page that came from the server and is the same.
    else if (hadOne) version.set('elsewhere');
    hadOne = true;
  });
  serviceWorker.register('/serviceWorker.js').then(
    (registered: ServiceWorkerRegistration | undefined) => {
      // A browser that was told to have none gives none.
      if (!registered) return;
      registration = registered;
      const watch = (worker: ServiceWorker | null) =>
        worker?.addEventListener('statechange', () => offerWaiting(registered));
      offerWaiting(registered);
      watch(registered.installing);
      registered.addEventListener('updatefound', () => watch(registered.installing));
      setInterval(() => void registered.update().catch(() => undefined), LOOK_EVERY_MS);
    },
    // Without a server, or where the browser refuses, the app is as it was.
    () => undefined,
  );
}

function offerWaiting({ waiting, active }: ServiceWorkerRegistration) {
  if (waiting && active && version.get() === 'none') version.set('offered');
}

/** Nothing more is said of it until the next visit, which has it anyway once no page of the older one is left. */
export const putOffNewVersion = (): void => version.set('later');

/** Has this page loaded anew in the newer version, as soon as nothing is under way in it. */
export function acceptNewVersion(): void {
  if (version.get() === 'elsewhere') return void reloadWhenIdle();
  version.set('accepted');
  whenOver(() => {
    // Another page may have been quicker.
    if (registration?.waiting) registration.waiting.postMessage({ type: TAKE_OVER });
    else void reloadWhenIdle();
  });
}

/** What is unsaved is stored first. */
async function reloadWhenIdle() {
  storage.saver.flush();
  await Promise.all(storage.saver.allUnsaved().map(({ work }) => storage.saver.settled(work.document.id)));
  whenOver(() => window.location.reload());
}
