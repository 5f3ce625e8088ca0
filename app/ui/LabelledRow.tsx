import type { ReactNode } from 'react';

/** A quiet label with its control beside it. */
export function LabelledRow({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex items-center gap-2">
      <span className="w-13 shrink-0 text-ink-2">{label}</span>
      <div className="min-w-0 grow">{children}</div>
    </div>
  );
}
