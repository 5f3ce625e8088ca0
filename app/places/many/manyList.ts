import { textField } from '@ordle/core';
import type { ManyFile } from '@/storage/manyFiles';

/** What the files can be put in order by. */
export type Column = 'path' | 'state' | 'notes' | 'changed';
export interface Order {
  by: Column;
  isUp: boolean;
}

const STATES = { failed: 0, waiting: 1, done: 2 };

const valueOf: Record<Column, (file: ManyFile) => string | number> = {
  path: ({ path }) => path,
  state: ({ state }) => STATES[state],
  notes: ({ made }) => made?.notes ?? -1,
  changed: ({ made }) => (made ? changesOf(made) : -1),
};

/** How much was changed: notes, or steps that were suggested. */
const changesOf = ({ changed, suggested }: NonNullable<ManyFile['made']>) =>
  changed + (suggested?.steps ?? 0);

const words = new Intl.Collator('en', { numeric: true });

/** The files whose path holds what is looked for, in order; equal ones as they came. */
export function listedFiles(files: readonly ManyFile[], search: string, { by, isUp }: Order): ManyFile[] {
  const wanted = search.trim().toLowerCase();
  const found = wanted === '' ? [...files] : files.filter(({ path }) => path.toLowerCase().includes(wanted));
  const value = valueOf[by];
  const sign = isUp ? 1 : -1;
  return found.sort((a, b) => {
    const [one, other] = [value(a), value(b)];
    const order =
      typeof one === 'string' && typeof other === 'string' ? words.compare(one, other) : +one - +other;
    return sign * order || a.index - b.index;
  });
}

const HEADER = 'file,state,reason,bytes,notes,changed,moved,steps_suggested,parts_with_steps,parts,repairs';

/** What was done and what failed as CSV (RFC 4180): a line a file in the order they came, empty where not known. */
export function filesAsCsv(files: readonly ManyFile[]): string {
  const lines = files.map(({ path, state, sentence, size, made }) =>
    [
      textField(path),
      state,
      textField(sentence ?? ''),
      size,
      ...(made
        ? [
            made.notes,
            ...(made.suggested ? ['', ''] : [made.changed, made.moved]),
            ...(made.suggested
              ? [made.suggested.steps, made.suggested.on, made.suggested.parts]
              : ['', '', '']),
            made.repairs,
          ]
        : Array<string>(7).fill('')),
    ].join(','),
  );
  return `${[HEADER, ...lines].join('\r\n')}\r\n`;
}

/** What came of a file, in few words. */
export function madeInWords({ made }: ManyFile, figures: (value: number) => string): string {
  if (!made) return '';
  const repairs = made.repairs > 0 ? `, ${made.repairs} repaired` : '';
  if (!made.suggested) return `${figures(made.changed)} changed${repairs}`;
  const { steps } = made.suggested;
  return `${steps === 0 ? 'no' : figures(steps)} step${steps === 1 ? '' : 's'}${repairs}`;
}
