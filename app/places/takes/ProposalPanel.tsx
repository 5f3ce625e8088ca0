import type { Part, Session, Wanted } from '@ordle/core';
import { useAppDispatch } from '@/state/store';
import type { usePlayback } from '@/playback/usePlayback';
import { Button, LabelledRow, NumberField, Segmented, SliderField } from '@/ui';
import { counted } from '@/words/counts';
import { changeAssembly, withChoice, type StretchOf } from './takesActions';
import { spreadInWords } from './takeWords';
import type { Heard } from './useHeard';
import type { Proposal, useProposal } from './useProposal';

interface ProposalPanelProps {
  part: Part;
  session: Session;
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
  loudest: 'vel',
  nearest: 'vel',
};

/** A take for each bar as Ordle proposes it: heard and changed bar by bar before anything is accepted. */
export function ProposalPanel(props: ProposalPanelProps) {
  const { part, proposal, proposing, stretchOf, heard, playback, mayWrite } = props;
  const dispatch = useAppDispatch();
  const { settings, choice, changes, before, after } = proposal;
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
    <section aria-label="Proposal" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">Proposal</h2>
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
      <SliderField
        label="Cost of a change"
        value={settings.penalty}
        min={0}
        max={20}
        typedMax={1000}
        step={0.5}
        unit={UNITS[settings.by]}
        onChange={(penalty) => proposing.change({ penalty })}
        onAbandon={() => undefined}
      />
      {settings.by !== 'fullest' && (
        <SliderField
          label="Cost of a missing note"
          value={settings.missing}
          min={0}
          max={20}
          typedMax={1000}
          step={0.5}
          unit={UNITS[settings.by]}
          onChange={(missing) => proposing.change({ missing })}
          onAbandon={() => undefined}
        />
      )}
      <p data-testid="proposal">
        {changes === 0
          ? 'It would change nothing.'
          : `Changes ${counted(changes, 'bar')} of ${choice.length}, in dashed frames: ${spreadInWords(after)} instead of ${spreadInWords(before)}.`}
      </p>
      <p className="text-quiet text-ink-2">Click a cell to propose another take for a bar.</p>
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
