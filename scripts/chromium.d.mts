export const WITHOUT_WINDOWS: string;
/** The browser that is measured. */
export function wholeChromium(): string;
/** The browser of tests and pictures. */
export function chromiumPath(): string;
