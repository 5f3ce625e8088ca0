import type { ReactNode } from 'react';

/** A setting with its name before it. */
export function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] items-baseline gap-x-3">
      <span className="text-ink-2">{name}</span>
      <div className="min-w-0">{children}</div>
    </div>
  );
}
