import { sentenceOf, type Session } from '@ordle/core';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import type { GivenScore } from '@/engine/protocol';
import { setFileTaker } from '@/files/fileTaker';
import { layBeside } from '@/files/layBeside';
import { selectDocument } from '@/state/sessionSlice';
import { store, useAppDispatch } from '@/state/store';

/** Laying a score beside parts: from a file, also one that is dropped here, or from another part. */
export function useLayScore(partIds: readonly string[], mayWrite: boolean, onLaid: () => void) {
  const dispatch = useAppDispatch();
  const [isBusy, setBusy] = useState(false);
  const ids = partIds.join('\n');
  const lay = useCallback(
    async (session: Session, given: GivenScore) => {
      setBusy(true);
      try {
        const { reference } = await engine.layScore({ session, parts: ids, given });
        layBeside(dispatch, ids.split('\n'), reference);
        onLaid();
      } catch (error) {
        toast.error(sentenceOf(error), { duration: 10000 });
      } finally {
        setBusy(false);
      }
    },
    [dispatch, ids, onLaid],
  );
  const layFile = useCallback(
    async (file: File) => {
      const session = selectDocument(store.getState());
      if (!session) return;
      const bytes = new Uint8Array(await file.arrayBuffer());
      await lay(session, { file: { name: file.name, bytes } });
    },
    [lay],
  );
  useEffect(() => {
    if (!mayWrite) return;
    setFileTaker((files) => void layFile(files[0]));
    return () => setFileTaker(null);
  }, [layFile, mayWrite]);
  return { isBusy, layFile, layPart: (session: Session, part: string) => void lay(session, { part }) };
}
