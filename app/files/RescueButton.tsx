import { NO_TIME, legalName } from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { storage } from '@/saving/workspace';
import { Button } from '@/ui';
import { attempt } from '@/ui/attempt';
import { saveAs } from './saveAs';

/** Hands out every sound take of a session that cannot be opened, as MIDI files. */
export function RescueButton({ sessionId, name }: { sessionId: string; name: string }) {
  const [busy, setBusy] = useState(false);
  const rescue = async () => {
    setBusy(true);
    try {
      const [files, { zipSync }] = await Promise.all([storage.rescue(sessionId), import('fflate')]);
      const folder = Object.fromEntries(files.map((file) => [file.name, file.bytes]));
      saveAs(`${legalName(name)}, takes.zip`, zipSync(folder, { mtime: NO_TIME }), 'application/zip');
      toast(files.length === 1 ? '1 take was saved.' : `${files.length} takes were saved.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button disabled={busy} onClick={() => attempt(rescue)}>
      Save its takes as files
    </Button>
  );
}
