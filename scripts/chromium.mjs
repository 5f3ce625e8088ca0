/** The browsers that the project drives, Debian's; or what CHROMIUM names. */
import { existsSync } from 'node:fs';

export const WITHOUT_WINDOWS = '/usr/bin/chromium-headless-shell';
const WHOLE = '/usr/bin/chromium';

/** As people have it: for measuring. */
export const wholeChromium = () => process.env.CHROMIUM ?? WHOLE;

/** Without windows, which takes two thirds of the time: for tests and pictures. The whole one where that is missing. */
export const chromiumPath = () =>
  process.env.CHROMIUM ?? (existsSync(WITHOUT_WINDOWS) || !existsSync(WHOLE) ? WITHOUT_WINDOWS : WHOLE);
