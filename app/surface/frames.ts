/** What waits for the next frame, in the order it was asked for. */
const waiting = new Set<() => void>();
let frame = 0;

function run() {
  frame = 0;
  const due = [...waiting];
  waiting.clear();
  for (const job of due) job();
}

/** Runs a job once in the next frame, however often it is asked for until then. All surfaces paint in one frame. */
export function onNextFrame(job: () => void): void {
  waiting.add(job);
  frame ||= requestAnimationFrame(run);
}

/** Takes a job back that has not run yet. */
export function cancelFrame(job: () => void): void {
  waiting.delete(job);
}
