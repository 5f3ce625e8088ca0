import { listOf, programName, type Part, type PartContent, type Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useSame } from '@/ui/useSame';

/** What every part holds, by its id; empty until it is known. Asked for anew when a part is made of something else. */
export function usePartContents(session: Session | null): Readonly<Record<string, PartContent>> {
  const [contents, setContents] = useState<Readonly<Record<string, PartContent>>>({});
  const layers = useSame(session ? listOf(session.parts).map((part) => part.layers) : []);
  useEffect(() => {
    if (!session) return;
    let wanted = true;
    void engine.contents({ session }).then(
      (next) => wanted && setContents(next),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // The session is read as it is when the layers change; steps change nothing of it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [layers]);
  return contents;
}

/** What a part is, in words: its sound, or what it holds in place of notes. */
export function partInWords(part: Part, content: PartContent | undefined): string {
  if (content === 'controllers') return 'controllers only';
  if (content === 'text') return 'text only';
  if (content === 'nothing') return 'empty';
  return part.sound.drums ? 'Drum kit' : programName(part.sound.program);
}

/** Whether it is known that a part holds no notes. */
export const isWithoutNotes = (content: PartContent | undefined): boolean =>
  content !== undefined && content !== 'notes';
