import { Button } from '@/ui';

interface BarsPanelProps {
  /** The looped bars in words; null while there is no loop. */
  bars: string | null;
  mayWrite: boolean;
  onBars(what: 'copy' | 'repeat' | 'delete' | 'insert'): void;
}

/** What can be done to a stretch of bars in all parts. */
export function BarsPanel({ bars, mayWrite, onBars }: BarsPanelProps) {
  return (
    <section aria-label="Bars of all parts" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">
        {bars === null ? 'Bars of all parts' : `All parts, ${bars}`}
      </h2>
      {bars === null ? (
        <p className="text-quiet text-ink-2">Drag over the ruler to say which bars.</p>
      ) : (
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => onBars('copy')}>Copy</Button>
          <Button disabled={!mayWrite} onClick={() => onBars('repeat')}>
            Repeat
          </Button>
          <Button disabled={!mayWrite} onClick={() => onBars('delete')}>
            Delete
          </Button>
          <Button disabled={!mayWrite} onClick={() => onBars('insert')}>
            Insert time before
          </Button>
        </div>
      )}
    </section>
  );
}
