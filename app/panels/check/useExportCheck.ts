import { sentenceOf, type MidiOptions, type PartsChoice, type Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';
import type { CheckedExport } from '@/engine/protocol';

/** What there is to know before a file is written, or why that cannot be said; both null while it is looked for. */
export interface ExportLook {
  check: CheckedExport | null;
  fault: string | null;
}

const LOOKING: ExportLook = { check: null, fault: null };

export function useExportCheck(
  session: Session | null,
  choice: PartsChoice,
  options: MidiOptions,
): ExportLook {
  const [found, setFound] = useState<{ key: string; session: Session; look: ExportLook } | null>(null);
  const key = JSON.stringify([choice, options]);
  useEffect(() => {
    if (!session) return;
    let wanted = true;
    const show = (look: ExportLook) => wanted && setFound({ key, session, look });
    void engine.checkExport({ session, choice, options }).then(
      (check) => show({ check, fault: null }),
      (error: unknown) => show({ check: null, fault: sentenceOf(error) }),
    );
    return () => {
      wanted = false;
    };
    // The options are told apart by what they say.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [session, key]);
  return found !== null && found.key === key && found.session === session ? found.look : LOOKING;
}
