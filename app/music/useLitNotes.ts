import { useEffect, type RefObject } from 'react';
import type { RollEditor } from '@/editor';
import { engine } from '@/engine/engineClient';
import { useLitStep } from './lightStore';
import type { BenchState } from './useBench';

/** Has the editor light the notes of the step that is pointed at. */
export function useLitNotes({ session, part }: BenchState, editor: RefObject<RollEditor | null>) {
  const stepId = useLitStep();
  useEffect(() => {
    if (stepId === null || !part?.steps.order.includes(stepId)) {
      editor.current?.setLit(null, new Set());
      return;
    }
    let wanted = true;
    void engine.touchedNotes({ session, partId: part.id, stepId }).then(
      (ids) => wanted && editor.current?.setLit(stepId, new Set(ids)),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [stepId, session, part, editor]);
}
