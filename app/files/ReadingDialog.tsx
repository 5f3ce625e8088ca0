import { useEffect, useState } from 'react';
import { onProgress } from '@/engine/progress';
import { Button, Dialog } from '@/ui';

/** Files that are being read: which one, and how many are done before it; null while none are. */
export interface Reading {
  name: string;
  done: number;
  count: number;
}

/** How far files are read, with the way to stop; nothing of them is added then. */
export function ReadingDialog({ reading, onStop }: { reading: Reading | null; onStop(): void }) {
  return (
    <Dialog open={reading !== null} title="Reading" onClose={onStop}>
      {reading && <HowFar reading={reading} onStop={onStop} />}
    </Dialog>
  );
}

function HowFar({ reading: { name, done, count }, onStop }: { reading: Reading; onStop(): void }) {
  /** What is told of files that are taken together, of which the first stands for all. */
  const [share, setShare] = useState(0);
  useEffect(() => onProgress(setShare), []);
  const far = Math.max(share, (done + 0.5) / count);
  return (
    <>
      <p>
        {name}
        {count > 1 &&
          ` (${share > 0 ? `${Math.round(100 * share)} % of ${count}` : `${done + 1} of ${count}`})`}
      </p>
      <div
        className="h-1 bg-well"
        role="progressbar"
        aria-label="Files read"
        aria-valuenow={Math.round(far * count)}
        aria-valuemax={count}
      >
        <div className="h-1 bg-ink" style={{ width: `${far * 100}%` }} />
      </div>
      <Button className="self-end" onClick={onStop}>
        Cancel
      </Button>
    </>
  );
}
