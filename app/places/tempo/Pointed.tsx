import type { FoundBeats } from '@ordle/core';
import { Button, LabelledRow, NumberField } from '@/ui';
import type { BeatActions } from './useBeatActions';

export interface PointedActions extends Pick<BeatActions, 'place'> {
  out(): void;
  forget(): void;
}

/** What a person says of the note or beat that was pointed at. */
export function Pointed(props: {
  found: FoundBeats;
  second: number;
  isBeat: boolean;
  mayWrite: boolean;
  actions: PointedActions;
}) {
  const { found, second, isBeat, mayWrite, actions } = props;
  const after = found.beats.findIndex((at) => at > second + 0.03);
  const beat = (after < 0 ? found.beats.length : after) - 1;
  const bar = found.downbeats.findLastIndex((each) => each <= beat);
  const place = bar < 0 ? null : { bar: bar + (found.firstBar ?? 1), beat: beat - found.downbeats[bar] + 1 };
  return (
    <section aria-label="What was pointed at" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.05rem] font-semibold">{isBeat ? 'This beat' : 'This note'}</h2>
      <p className="text-ink-2">
        at {second.toFixed(3)} s
        {place && `, ${isBeat ? 'beat' : 'in beat'} ${place.beat} of bar ${place.bar}`}
      </p>
      <LabelledRow label="It is beat">
        <NumberField
          label="Beat of its bar"
          unit="of bar"
          value={place?.beat ?? 1}
          min={1}
          max={found.beatsPerBar}
          disabled={!mayWrite}
          className="w-9"
          onCommit={(wanted) => actions.place(second, wanted)}
        />
        <NumberField
          label="Number of its bar"
          value={place?.bar ?? 1}
          min={1}
          max={9999}
          className="w-11"
          disabled={!mayWrite}
          onCommit={(wanted) => actions.place(second, place?.beat ?? 1, wanted)}
        />
      </LabelledRow>
      {isBeat ? (
        <div className="flex gap-2">
          <Button disabled={!mayWrite} onClick={actions.out}>
            Delete this beat
          </Button>
          <Button disabled={!mayWrite} onClick={actions.forget}>
            Find again
          </Button>
        </div>
      ) : (
        <Button
          className="justify-center"
          disabled={!mayWrite}
          onClick={() => actions.place(second, place?.beat ?? 1)}
        >
          A beat is here
        </Button>
      )}
    </section>
  );
}
