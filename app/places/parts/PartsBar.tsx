import { listOf, nameOfNoteValue, type NoteValue, type Part, type Session } from '@ordle/core';
import type { RefObject } from 'react';
import type { PartsEditor } from '@/editor';
import { BarsZoom } from '@/panels/BarsZoom';
import { useAppDispatch } from '@/state/store';
import { Button, Menu, Segmented } from '@/ui';
import { useRoving } from '@/ui/useRoving';
import { counted } from '@/words/counts';
import { addEmptyPart } from '@/edits/addEmptyPart';

/** What blocks are held to while they are dragged. */
export type PartsSnap = 'bars' | 'beats' | 'grid' | 'free';
export type PartsDialog = 'merge' | 'separate' | 'bring';

interface PartsBarProps {
  session: Session;
  snap: PartsSnap;
  /** The grid that is shown, which blocks can be held to as well. */
  grid: NoteValue;
  merging: readonly Part[];
  separating: Part | null;
  mayWrite: boolean;
  editor: RefObject<PartsEditor | null>;
  onSnap(snap: PartsSnap): void;
  onDialog(dialog: PartsDialog): void;
}

/** Over the parts: how many there are, what blocks are moved by, and what is done with whole parts. */
export function PartsBar({ session, snap, grid, merging, separating, mayWrite, ...props }: PartsBarProps) {
  const bar = useRoving<HTMLDivElement>();
  const dispatch = useAppDispatch();
  const setAside = listOf(session.parts).filter((part) => part.setAside).length;
  return (
    <div
      ref={bar}
      role="toolbar"
      aria-label="Parts"
      className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule-strong bg-ground px-3 narrow:max-h-[30vh] narrow:overflow-y-auto narrow:gap-x-2 narrow:py-1"
    >
      <span className="font-semibold">{counted(session.parts.order.length, 'part')}</span>
      {setAside > 0 && <span className="text-ink-2">{setAside} set aside</span>}
      <span className="grow" />
      <span className="text-ink-2">move by</span>
      <span className="w-56 shrink-0">
        <Segmented
          label="Blocks are moved by"
          value={snap}
          options={[
            { value: 'bars', label: 'bars', title: 'Blocks go to bar lines' },
            { value: 'beats', label: 'beats', title: 'Blocks go to beats' },
            {
              value: 'grid',
              label: nameOfNoteValue(grid),
              title: 'Blocks go to the grid shown on the Bench',
            },
            { value: 'free', label: 'freely', title: 'Blocks go wherever they are put' },
          ]}
          onChange={props.onSnap}
        />
      </span>
      <Button disabled={!mayWrite || merging.length < 2} onClick={() => props.onDialog('merge')}>
        Merge
      </Button>
      <Button disabled={!mayWrite || !separating} onClick={() => props.onDialog('separate')}>
        Separate
      </Button>
      <Menu
        trigger={
          <Button disabled={!mayWrite} aria-label="New part">
            New part ▾
          </Button>
        }
        items={[
          { label: 'Empty part', onSelect: () => addEmptyPart(dispatch) },
          {
            label: 'From another session',
            hint: 'Parts with their takes, or their steps alone',
            onSelect: () => setTimeout(() => props.onDialog('bring'), 60),
          },
        ]}
      />
      <BarsZoom editor={props.editor} />
    </div>
  );
}
