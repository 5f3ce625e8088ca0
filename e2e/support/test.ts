import { test as separate, type Page } from '@playwright/test';

/**
 * Tests of one worker share a page, which has the scripts at hand; each begins with nothing stored and nothing loaded.
 * What changes the page itself (scripts put in, a second tab, the network) goes by `separate`, with a page of its own.
 */
export const test = separate.extend<object, { sharedPage: Page }>({
  sharedPage: [
    async ({ browser }, use, { project }) => {
      const { baseURL, viewport } = project.use;
      const context = await browser.newContext({ baseURL, viewport, serviceWorkers: 'block' });
      await use(await context.newPage());
      await context.close();
    },
    { scope: 'worker' },
  ],
  page: async ({ sharedPage, viewport, baseURL }, use) => {
    // Away from the app, whose workers, locks and connections end with its page.
    await sharedPage.goto('/health');
    const devtools = await sharedPage.context().newCDPSession(sharedPage);
    await devtools.send('Storage.clearDataForOrigin', {
      origin: baseURL ?? '',
      storageTypes: 'indexeddb,local_storage',
    });
    await devtools.detach();
    if (viewport) await sharedPage.setViewportSize(viewport);
    await use(sharedPage);
  },
});

export { separate };
export { expect, type Download, type Page } from '@playwright/test';
