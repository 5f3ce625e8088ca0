/** Set while something else than the places decides what plays, and when: recording. */
let held = false;

export const setScoreHeld = (on: boolean): void => {
  held = on;
};
export const isScoreHeld = (): boolean => held;
