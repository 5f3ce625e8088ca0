import type { PointerEvent, ReactNode } from 'react';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { Sheet, useSheet } from './SidePanel';
import { PANEL_WIDTHS, panelChanged, type Panel } from '@/state/viewSlice';

interface FoldingPanelProps {
  /** Which of the panels beside the music it is. */
  panel: 'parts' | 'settings';
  label: string;
  /** What its edge says when it is folded. */
  title: string;
  children: ReactNode;
}

/** A panel beside the music: its inner edge is dragged to make it wider, and folds it away. Both are remembered. */
export function FoldingPanel({ panel, label, title, children }: FoldingPanelProps) {
  const dispatch = useAppDispatch();
  const { width, folded } = useAppSelector(({ view }) => view.panels[panel]);
  const isLeft = panel === 'parts';
  const change = (next: Partial<Panel>) => dispatch(panelChanged(panel, next));
  const { least, most } = PANEL_WIDTHS[panel];
  const held = (value: number) => Math.round(Math.min(most, Math.max(least, value)));
  const { isSheet, isOpen } = useSheet(label);
  if (isSheet) return isOpen ? <Sheet name={label}>{children}</Sheet> : null;
  if (folded)
    return (
      <aside aria-label={label} className={`flex shrink-0 ${isLeft ? 'border-r' : 'border-l'} border-rule`}>
        <button
          type="button"
          aria-expanded={false}
          onClick={() => change({ folded: false })}
          className="flex w-6 justify-center pt-2 text-quiet text-ink-2 hover:bg-well hover:text-ink"
        >
          <span className="[writing-mode:vertical-rl]">{title} ▸</span>
        </button>
      </aside>
    );
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    const [from, begun] = [event.clientX, width];
    const handle = event.currentTarget;
    handle.setPointerCapture(event.pointerId);
    const move = (now: globalThis.PointerEvent) =>
      change({ width: held(begun + (now.clientX - from) * (isLeft ? 1 : -1)) });
    const end = () => {
      handle.removeEventListener('pointermove', move);
      handle.removeEventListener('pointerup', end);
    };
    handle.addEventListener('pointermove', move);
    handle.addEventListener('pointerup', end);
  };
  return (
    <aside
      aria-label={label}
      style={{ width }}
      className={`relative flex shrink-0 flex-col ${isLeft ? 'border-r' : 'border-l'} border-rule`}
    >
      {children}
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label={`Width of ${title.toLowerCase()}`}
        aria-valuenow={width}
        aria-valuemin={least}
        aria-valuemax={most}
        tabIndex={0}
        title="Drag for the width; double-click folds it away"
        onPointerDown={drag}
        onDoubleClick={() => change({ folded: true })}
        onKeyDown={(event) => {
          const by = event.key === 'ArrowRight' ? 12 : event.key === 'ArrowLeft' ? -12 : 0;
          if (by === 0 && event.key !== 'Enter') return;
          event.preventDefault();
          event.stopPropagation();
          change(by === 0 ? { folded: true } : { width: held(width + by * (isLeft ? 1 : -1)) });
        }}
        className={`absolute inset-y-0 z-10 w-1.5 cursor-ew-resize hover:bg-rule-strong ${isLeft ? 'right-0' : 'left-0'}`}
      />
    </aside>
  );
}
