import { createSmallStore } from '@/ui/smallStore';

/** How far the selected notes are being dragged just now. */
interface Dragged {
  ticks: number;
  semitones: number;
}

const STILL: Dragged = { ticks: 0, semitones: 0 };
const dragged = createSmallStore(STILL, (a, b) => a.ticks === b.ticks && a.semitones === b.semitones);

export const dragBy = ({ ticks, semitones }: Dragged = STILL) => dragged.set({ ticks, semitones });
export const useDragged = dragged.useValue;
