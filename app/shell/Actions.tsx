import { listOf } from '@ordle/core';
import { useState } from 'react';
import { Palette, ShortcutSheet, useCommandKeys, useCommands } from '@/commands';
import { selectDocument } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { useImport } from '@/files/ImportProvider';
import { switchTheme } from '@/ui/ThemeButton';

/** The palette and the shortcut sheet, and the keys that reach every action. */
export function Actions() {
  const [open, setOpen] = useState<'palette' | 'shortcuts' | null>(null);
  const dispatch = useAppDispatch();
  const session = useAppSelector(selectDocument);
  const { pickFiles } = useImport();
  useCommandKeys();
  useCommands({
    palette: () => setOpen('palette'),
    shortcuts: () => setOpen('shortcuts'),
    'bring-in': pickFiles,
    theme: switchTheme,
  });
  const parts = (session ? listOf(session.parts) : []).map((part) => ({
    group: 'Parts',
    title: part.name,
    run: () => dispatch(viewChanged({ partId: part.id })),
  }));
  return (
    <>
      <Palette open={open === 'palette'} onClose={() => setOpen(null)} extra={parts} />
      <ShortcutSheet open={open === 'shortcuts'} onClose={() => setOpen(null)} />
    </>
  );
}
