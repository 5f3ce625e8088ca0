import type { Part, Wanted } from '@ordle/core';
import { useRef } from 'react';
import { useAppDispatch } from '@/state/store';
import type { ProposalSettings } from '@/state/viewSlice';
import type { usePlayback } from '@/playback/usePlayback';
import { Button, LabelledRow, NumberField, Segmented, SliderField } from '@/ui';
import { counted } from '@/words/counts';
import { changeAssembly } from '@/edits/assemblyActions';
import { withChoice, type StretchOf } from './takesActions';
import { spreadInWords } from './takeWords';
import type { Heard } from './useHeard';
import type { Proposal, useProposal } from './useProposal';

interface ProposalPanelProps {
  part: Part;
  /** The spread of the part as it is and with the proposal accepted, in ms; null while they are not known. */
  before: number | null;
  after: number | null;
  proposal: Proposal;
  proposing: ReturnType<typeof useProposal>;
  stretchOf: StretchOf;
  heard: Heard;
  playback: ReturnType<typeof usePlayback>;
  mayWrite: boolean;
}

const KINDS: { value: Wanted['by']; label: string }[] = [
  { value: 'tightest', label: 'tightest' },
  { value: 'fullest', label: 'fullest' },
  { value: 'loudest', label: 'loudest' },
  { value: 'nearest', label: 'nearest' },
];
/** What costs are counted in. */
const UNITS: Record<Wanted['by'], string> = {
  tightest: 'ms',
  fullest: 'notes',
  loudest: 'in velocity',
  nearest: 'in velocity',
};

const COSTS = [
  { setting: 'penalty', label: 'Avoid switching takes' },
  { setting: 'missing', label: 'Avoid missing notes' },
] as const;

/** A take for each bar as Ordle proposes it: heard and changed bar by bar before anything is accepted. */
export function ProposalPanel(props: ProposalPanelProps) {
  const { part, before, after, proposal, proposing, stretchOf, heard, playback, mayWrite } = props;
  const dispatch = useAppDispatch();
  const { settings, choice, changes } = proposal;
  /** What a drag of a slider began with, to go back to when it is given up. */
  const begun = useRef<{ gesture: string; change: Partial<ProposalSettings> } | null>(null);
  const close = () => {
    heard.onProposal(false);
    proposing.close();
  };
  const accept = () => {
    changeAssembly(
      dispatch,
      `Accept the ${settings.by} takes, ${counted(changes, 'bar')}`,
      part.id,
      (now, session, numbers) => withChoice(now, session, choice, stretchOf, numbers),
    );
    close();
  };
  const hear = () => {
    heard.onProposal(!heard.isProposal);
    if (!heard.isProposal && !playback.playing) void playback.toggle();
  };
  return (
    <section aria-label="Suggestion" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">Suggestion</h2>
      <Segmented
        label="For each bar the take that is"
        value={settings.by}
        options={KINDS}
        onChange={(by) => proposing.change({ by })}
      />
      {settings.by === 'nearest' && (
        <LabelledRow label="to velocity">
          <NumberField
            label="Velocity to be near to"
            value={settings.velocity}
            min={1}
            max={127}
            onCommit={(velocity) => proposing.change({ velocity })}
          />
        </LabelledRow>
      )}
      {COSTS.filter(({ setting }) => setting === 'penalty' || settings.by !== 'fullest').map(
        ({ setting, label }) => (
          <SliderField
            key={setting}
            label={label}
            value={settings[setting]}
            min={0}
            max={20}
            typedMax={1000}
            step={0.5}
            unit={UNITS[settings.by]}
            onChange={(value, gesture) => {
              if (begun.current?.gesture !== gesture)
                begun.current = { gesture, change: { [setting]: settings[setting] } };
              proposing.change({ [setting]: value });
            }}
            onAbandon={(gesture) => {
              if (begun.current?.gesture === gesture) proposing.change(begun.current.change);
            }}
          />
        ),
      )}
      <p data-testid="proposal">
        {changes === 0
          ? 'No better takes found.'
          : `Changes ${counted(changes, 'bar')} of ${choice.length}, in dashed frames${after === null || before === null ? '' : `: ${spreadInWords(after)} instead of ${spreadInWords(before)}`}.`}
      </p>
      <p className="text-quiet text-ink-2">Click a cell to use that take in its bar.</p>
      <div className="flex gap-2">
        <Button look="main" disabled={!mayWrite || changes === 0} onClick={accept}>
          Accept
        </Button>
        <Button aria-pressed={heard.isProposal} onClick={hear}>
          {heard.isProposal ? 'Hear what is there' : 'Hear it'}
        </Button>
        <Button look="quiet" onClick={close}>
          Dismiss
        </Button>
      </div>
    </section>
  );
}
