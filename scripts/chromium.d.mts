export const WITHOUT_WINDOWS: string;
/** The path of the browser that tests, benchmarks and pictures drive. */
export function chromiumPath(): string;
