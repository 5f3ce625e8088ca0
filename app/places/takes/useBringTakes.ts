import { otherTempo, sentenceOf, type Part, type Session, type TakeReference } from '@ordle/core';
import { useCallback, useEffect } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { FoundTakes } from '@/engine/protocol';
import { setFileTaker } from '@/files/fileTaker';
import { otherTempoInWords } from '@/files/otherTempoInWords';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, useAppDispatch, useAppSelector } from '@/state/store';
import { counted } from '@/words/counts';
import { addTakes } from './takesActions';

/** How takes come to a part. */
export interface Bringing {
  mayWrite: boolean;
  fromFiles(files: readonly File[]): Promise<void>;
  fromPart(other: Part): void;
  /** Performances of another session, which are shared with it. */
  fromSession(from: Session, takes: readonly TakeReference[]): void;
}

/**
 * Brings takes to a part from files (picked, or dropped while this place is shown) and from other parts, which stay
 * live.
 */
export function useBringTakes(part: Part): Bringing {
  const dispatch = useAppDispatch();
  const mayWrite = useAppSelector(selectMayWrite);
  const partId = part.id;
  const fromFiles = useCallback(
    async (files: readonly File[]) => {
      const failed: string[] = [];
      const told: string[] = [];
      const read: FoundTakes[] = [];
      for (const file of files) {
        try {
          const bytes = new Uint8Array(await file.arrayBuffer());
          const session = selectDocument(store.getState());
          if (!session) return;
          const found = await engine.takesOfFile({ session, partId, name: file.name, bytes });
          if (found.found.length === 0) failed.push(`${file.name} holds no notes.`);
          else {
            if (found.otherTempo) told.push(otherTempoInWords(file.name, found.otherTempo));
            read.push(found);
          }
        } catch (error) {
          failed.push(`${file.name}: ${sentenceOf(error)}`);
        }
      }
      const brought = read.flatMap(({ found }) => found);
      // However many files, it is one thing a person did.
      addTakes(
        dispatch,
        files.length === 1 ? `Add takes of ${files[0].name}` : `Add takes of ${files.length} files`,
        partId,
        brought.map(({ name, take, channel }) => ({
          name,
          source: { take },
          ...(channel !== null && { split: { by: 'channel', label: `ch${channel}` } }),
        })),
        read.flatMap(({ references }) => references),
      );
      if (brought.length > 0) toast(`${counted(brought.length, 'take')} brought in.`);
      for (const sentence of [...told, ...failed]) toast(sentence, { duration: 10000 });
    },
    [dispatch, partId],
  );
  useEffect(() => {
    if (!mayWrite) return;
    setFileTaker((files) => void fromFiles(files));
    return () => setFileTaker(null);
  }, [fromFiles, mayWrite]);
  return {
    mayWrite,
    fromFiles,
    fromPart: (other) =>
      addTakes(dispatch, `Add ${other.name} as a take`, partId, [
        { name: other.name, source: { part: other.id } },
      ]),
    fromSession(from, takes) {
      const session = selectDocument(store.getState());
      const tempo = session && part.lockedTo === 'beats' ? otherTempo(from, session) : null;
      if (tempo) toast(otherTempoInWords(from.name, tempo), { duration: 10000 });
      addTakes(
        dispatch,
        `Add takes of ${from.name}`,
        partId,
        takes.map(({ id, name }) => ({ name: name.trim() || from.name, source: { take: id } })),
        [...takes],
      );
    },
  };
}
