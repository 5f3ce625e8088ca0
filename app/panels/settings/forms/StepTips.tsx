import type { Step } from '@ordle/core';
import { useCallback, type ReactNode } from 'react';
import { SettingTips } from '@/ui';
import { sentenceOn } from '@/words/settingTips';
import { initialOf } from './settingOf';

/** Lets the controls within tell what their settings of a step do, where there is a sentence on them. */
export function StepTips({ step, children }: { step: Step; children: ReactNode }) {
  const { kind } = step;
  const op = 'op' in step ? step.op : undefined;
  const tips = useCallback(
    (setting: string) => {
      const says = sentenceOn({ kind, op }, setting);
      return says === undefined ? null : { says, initial: initialOf({ kind, op }, setting) };
    },
    [kind, op],
  );
  return <SettingTips value={tips}>{children}</SettingTips>;
}
