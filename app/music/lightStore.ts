import { createSmallStore } from '@/ui/smallStore';

/** The step whose notes are lit in the editor, while its stop or its span is pointed at. */
const lit = createSmallStore<string | null>(null);

export const lightStep = lit.set;
export const useLitStep = lit.useValue;
