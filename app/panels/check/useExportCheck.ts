import type { ExportCheck, ExportOptions, Session } from '@ordle/core';
import { useEffect, useState } from 'react';
import { engine } from '@/engine/engineClient';

/** What there is to know before a file is written; null while it is looked for, or where it cannot be. */
export function useExportCheck(session: Session | null, options: ExportOptions): ExportCheck | null {
  const [found, setFound] = useState<{ key: string; session: Session; check: ExportCheck } | null>(null);
  const key = JSON.stringify(options);
  useEffect(() => {
    if (!session) return;
    let wanted = true;
    void engine.checkExport({ session, options }).then(
      (check) => wanted && setFound({ key, session, check }),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
    // The options are told apart by what they say.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [session, key]);
  return found !== null && found.key === key && found.session === session ? found.check : null;
}
