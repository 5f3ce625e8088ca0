/** The earliest time a zip can tell: a file holds nothing that depends on the clock. */
export const NO_TIME = new Date(1980, 0, 1);
