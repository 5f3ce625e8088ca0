/** Files that were given elsewhere and are to be cleaned, until that place takes them. */
let waiting: readonly File[] = [];

export const handToMany = (files: readonly File[]): void => void (waiting = files);

/** The files that wait, once. */
export function takeHanded(): readonly File[] {
  const taken = waiting;
  waiting = [];
  return taken;
}
