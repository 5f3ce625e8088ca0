import { createContext, useContext } from 'react';

/** Names of the settings that differ among the things a form speaks of; a control of such a setting shows "mixed". */
export const MixedSettings = createContext<ReadonlySet<string>>(new Set());

/** Whether a control's setting differs among the things its form speaks of. */
export function useMixed(setting: string | undefined): boolean {
  const mixed = useContext(MixedSettings);
  return setting !== undefined && mixed.has(setting);
}
