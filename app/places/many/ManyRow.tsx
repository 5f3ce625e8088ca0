import { reachOfStrip } from '@ordle/core';
import { memo } from 'react';
import { TimingPicture } from '@/panels/TimingPicture';
import type { ManyFile } from '@/storage/manyFiles';
import { Button, MoreMenu } from '@/ui';
import { figures } from '@/words/counts';
import { useFilePictures, type Pictures } from './filePictures';
import { madeInWords } from './manyList';
import type { HeardFile } from './useHearFile';

interface ManyRowProps {
  file: ManyFile;
  pictures: Pictures;
  /** Which version of it is heard; null for none. */
  heard: HeardFile['which'] | null;
  /** While files are cleaned, pictures would hold them up. */
  isBusy: boolean;
  /** What was done, so that a picture is made anew when that is another. */
  turn: string;
  onHear(file: HeardFile): void;
  onOpen(file: ManyFile): void;
  onSave(file: ManyFile): void;
}

/** One of many files: as it came and as it was made beside each other, or why it was not. */
export const ManyRow = memo(function ManyRow(props: ManyRowProps) {
  const { file, pictures, heard, isBusy, turn, onHear, onOpen, onSave } = props;
  const { index, path, state, sentence, made } = file;
  const isDone = state === 'done';
  const shown = useFilePictures(pictures, index, isDone && !isBusy ? `${turn} ${index}` : null);
  const cut = path.lastIndexOf('/') + 1;
  return (
    <div
      role="row"
      className={`flex h-9 items-center gap-3 border-b border-rule pr-1 pl-2 ${isDone ? 'bg-well' : 'hover:bg-sheet'}`}
    >
      <span role="cell" className="flex min-w-32 grow basis-40 items-baseline truncate" title={path}>
        <span className="truncate">
          <span className="text-ink-2">{path.slice(0, cut)}</span>
          <span className="font-semibold">{path.slice(cut)}</span>
        </span>
      </span>
      {state === 'failed' ? (
        <span role="cell" className="min-w-0 grow-[3] truncate text-ink" title={sentence ?? ''}>
          <span className="font-semibold">Failed.</span> {sentence}
        </span>
      ) : (
        <>
          <span role="cell" className="w-20 shrink-0 narrow:hidden">
            {shown?.before && <TimingPicture strip={shown.before} as="as it came" />}
          </span>
          <span role="cell" className="w-20 shrink-0 narrow:hidden">
            {shown?.after && (
              <TimingPicture strip={shown.after} reach={reachOfStrip(shown.before ?? shown.after)} />
            )}
          </span>
          <span role="cell" className="w-24 shrink-0 text-right text-ink-2 max-sm:hidden">
            {made ? `${figures(made.notes)} notes` : ''}
          </span>
          <span role="cell" className="w-32 shrink-0 truncate text-right text-ink-2 max-sm:w-24">
            {isDone ? madeInWords(file, figures) : 'waits'}
          </span>
        </>
      )}
      <span role="cell" className="flex w-48 shrink-0 justify-end gap-1 max-sm:w-auto">
        {state !== 'failed' && (
          <Button
            look="quiet"
            aria-label={`${heard === 'given' ? 'Stop' : 'Hear'} ${path} as it came`}
            aria-pressed={heard === 'given'}
            className="max-sm:hidden"
            onClick={() => onHear({ index, which: 'given' })}
          >
            {heard === 'given' ? 'stop' : 'hear before'}
          </Button>
        )}
        {isDone && (
          <Button
            look="quiet"
            aria-label={`${heard === 'made' ? 'Stop' : 'Hear'} ${path} as cleaned`}
            aria-pressed={heard === 'made'}
            className="max-sm:hidden"
            onClick={() => onHear({ index, which: 'made' })}
          >
            {heard === 'made' ? 'stop' : 'after'}
          </Button>
        )}
        <MoreMenu
          name={path}
          className="h-7 w-6"
          items={[
            { label: 'Open as a session', hint: 'With what was done as steps', onSelect: () => onOpen(file) },
            ...(isDone ? [{ label: 'Save the cleaned file', onSelect: () => onSave(file) }] : []),
          ]}
        />
      </span>
    </div>
  );
});
