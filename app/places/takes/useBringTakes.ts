import { otherTempo, sentenceOf, type Part, type Session, type TakeReference } from '@ordle/core';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { cancelEngine, Cancelled } from '@/engine/engineClient';
import { bytesOf } from '@/files/bringIn';
import type { Reading } from '@/files/ReadingDialog';
import { beginWork } from '@/ui/underWay';
import { setFileTaker } from '@/files/fileTaker';
import { addTakesOfFiles } from '@/files/takesHere';
import { otherTempoInWords } from '@/files/otherTempoInWords';
import { selectDocument, selectMayWrite } from '@/state/sessionSlice';
import { store, useAppDispatch, useAppSelector } from '@/state/store';
import { counted } from '@/words/counts';
import { addTakes } from './takesActions';

/** Reading that takes longer than this is told. */
const SHOWN_AFTER_MS = 300;

/** How takes come to a part. */
export interface Bringing {
  mayWrite: boolean;
  /** Files that are being read, and the way to stop that. */
  reading: Reading | null;
  stop(): void;
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
  const [reading, setReading] = useState<Reading | null>(null);
  const fromFiles = useCallback(
    async (files: readonly File[]) => {
      if (files.length === 0) return;
      // What is done at once needs no word of it.
      const show = () => setReading({ name: files[0].name, done: 0, count: files.length });
      const timer = setTimeout(show, SHOWN_AFTER_MS);
      const isOver = beginWork('the import');
      try {
        const brought = await addTakesOfFiles(dispatch, partId, await bytesOf(files), true);
        const { otherTempo, failed, silent } = brought;
        if (brought.brought.length > 0) toast(`${counted(brought.brought.length, 'take')} added, lined up.`);
        const told = [
          ...(otherTempo ? [otherTempoInWords(otherTempo.name, otherTempo.tempo)] : []),
          ...silent.map((name) => `${name} holds no notes.`),
          ...failed.map(({ name, why }) => `${name}: ${why}`),
        ];
        for (const sentence of told) toast(sentence, { duration: 10000 });
      } catch (error) {
        if (error instanceof Cancelled) toast('Nothing was added.');
        else toast(sentenceOf(error), { duration: 10000 });
      } finally {
        clearTimeout(timer);
        isOver();
        setReading(null);
      }
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
    reading,
    stop: cancelEngine,
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
