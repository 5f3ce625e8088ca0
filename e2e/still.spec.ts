import { expect, test } from './support/test';
import { addStep, openDemo, stops } from './support/app';

/** Notes every control that is seen elsewhere than it was when it could be pressed first, from the first frame on. */
function watchControls() {
  const seen = new Map<Element, { x: number; y: number }>();
  const moved: string[] = [];
  let changed = performance.now();
  const look = () => {
    for (const each of document.querySelectorAll(
      'main button, main input, main select, header button, nav a',
    )) {
      const { x, y, width } = each.getBoundingClientRect();
      if (each.matches(':disabled') || width < 2) continue;
      const was = seen.get(each);
      if (was && Math.hypot(x - was.x, y - was.y) > 3) {
        moved.push(
          `${each.ariaLabel ?? each.textContent} by ${Math.round(x - was.x)}, ${Math.round(y - was.y)}`,
        );
        changed = performance.now();
      }
      seen.set(each, { x, y });
    }
    requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
  new MutationObserver(() => (changed = performance.now())).observe(document, {
    subtree: true,
    childList: true,
    attributes: true,
    characterData: true,
  });
  Object.assign(window, { moved, quietFor: () => performance.now() - changed });
}
interface Watched {
  moved: string[];
  quietFor(): number;
}

test('controls stay where they are once they can be pressed, while figures and pictures come', async ({
  page,
}) => {
  await openDemo(page);
  const session = page.url();
  await page.addInitScript(watchControls);
  const quiet = () => page.waitForFunction(() => (window as unknown as Watched).quietFor() > 1200);
  const moved = () => page.evaluate(() => (window as unknown as Watched).moved.splice(0));
  for (const place of ['/record', '/takes', '/tempo', '/parts', '/readings', '/export', '/clean-up', '']) {
    await page.goto(`${session}${place}`);
    await page.locator('main').first().waitFor();
    await quiet();
    expect({ place, moved: await moved() }).toEqual({ place, moved: [] });
  }
  // What a step does is told above its settings: its figures come when they are worked out.
  await addStep(page, 'Humanize');
  await expect(stops(page)).toHaveCount(3);
  await moved();
  await page.goto(session);
  await quiet();
  expect(await moved()).toEqual([]);
});
