import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Palette, ShortcutSheet, useCommandKeys, useCommands } from '@/commands';
import { useAppDispatch } from '@/state/store';
import { useImport } from '@/files/ImportProvider';
import { switchTheme } from '@/ui/ThemeButton';
import { entriesNow } from './finding/entriesNow';

/** The palette and the shortcut sheet, and the keys that reach every action. */
export function Actions() {
  const [open, setOpen] = useState<'palette' | 'shortcuts' | null>(null);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { pickFiles } = useImport();
  useCommandKeys();
  useCommands({
    palette: () => setOpen('palette'),
    shortcuts: () => setOpen('shortcuts'),
    'bring-in': pickFiles,
    theme: switchTheme,
    guide: () => void navigate('/guide'),
    'go-many': () => void navigate('/many'),
  });
  return (
    <>
      <Palette
        open={open === 'palette'}
        onClose={() => setOpen(null)}
        entries={() => entriesNow(dispatch, (path) => void navigate(path))}
      />
      <ShortcutSheet open={open === 'shortcuts'} onClose={() => setOpen(null)} />
    </>
  );
}
