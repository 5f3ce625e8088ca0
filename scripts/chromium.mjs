/**
 * The browser of the tests, benchmarks and pictures: Debian's Chromium without windows, which takes two thirds of the
 * time; the whole one where that is not there; or what CHROMIUM names.
 */
import { existsSync } from 'node:fs';

export const WITHOUT_WINDOWS = '/usr/bin/chromium-headless-shell';
const WHOLE = '/usr/bin/chromium';

export const chromiumPath = () =>
  process.env.CHROMIUM ?? (existsSync(WITHOUT_WINDOWS) || !existsSync(WHOLE) ? WITHOUT_WINDOWS : WHOLE);
