import { drumName, type PartFacts, type Where } from '@ordle/core';
import { Button, Check, LabelledRow, NumberField, Segmented } from '@/ui';
import { OptionalNumber, OptionalRange } from './OptionalNumber';
import { settingOf } from './settingOf';

const KNOWN = {
  pitch: settingOf('where', 'pitch'),
  velocity: settingOf('where', 'velocity'),
  length: settingOf('where', 'length'),
  channel: settingOf('where', 'channel'),
};

interface WhereFieldProps {
  where: Where;
  /** Number of bars the part has. */
  lastBar: number;
  /** The bars a loop or the window suggests, [from, to). */
  suggested: [number, number];
  facts: PartFacts | null;
  /** The pieces of a drum part, by note number; none of other parts. */
  pieces: readonly number[];
  /** Ids of the notes selected in the editor, which a where can be limited to. */
  selected: readonly number[];
  disabled: boolean;
  /** Splits the step at the play line. */
  onSplit?(): void;
  onChange(where: Where): void;
}

/** Which bars a step touches. People count bars from first to last; a where ends before its second bar. */
export function WhereField(props: WhereFieldProps) {
  const { where, lastBar, suggested, facts, pieces, selected, disabled, onSplit, onChange } = props;
  const { bars, ...others } = where;
  const put = (change: Partial<Where>) =>
    onChange(
      Object.fromEntries(Object.entries({ ...where, ...change }).filter(([, value]) => value !== undefined)),
    );
  const most = Math.max(lastBar, bars ? bars[1] - 1 : 1);
  return (
    <div className="flex flex-col gap-1.5">
      <LabelledRow label="Where">
        <Segmented
          label="Where"
          setting="where"
          disabled={disabled}
          value={bars ? 'bars' : 'whole'}
          options={[
            { value: 'whole', label: 'whole part' },
            { value: 'bars', label: 'bars' },
          ]}
          onChange={(next) => onChange(next === 'whole' ? others : { ...others, bars: bars ?? suggested })}
        />
      </LabelledRow>
      {bars && (
        <div className="flex items-baseline gap-1 text-ink-2">
          from bar
          <NumberField
            label="First bar"
            value={bars[0]}
            min={1}
            max={most}
            className="w-11"
            disabled={disabled}
            onCommit={(from) => onChange({ ...others, bars: [from, Math.max(bars[1], from + 1)] })}
          />
          to bar
          <NumberField
            label="Last bar"
            value={bars[1] - 1}
            min={1}
            max={99999}
            className="w-11"
            disabled={disabled}
            onCommit={(last) => onChange({ ...others, bars: [Math.min(bars[0], last), last + 1] })}
          />
        </div>
      )}
      {onSplit && !disabled && (
        <div className="flex items-baseline justify-between gap-2 text-quiet text-ink-2">
          <span>or drag by the ruler or the keys</span>
          <Button look="quiet" className="h-6 shrink-0 px-1.5" onClick={onSplit}>
            split here
          </Button>
        </div>
      )}
      <details open={Object.keys(others).length > 0} className="text-ink-2">
        <summary className="cursor-pointer text-quiet">only some notes of it</summary>
        <div className="mt-1 flex flex-col gap-1 text-ink">
          <OptionalRange
            label="pitches"
            value={where.pitch}
            initial={facts?.pitches ?? [48, 72]}
            known={KNOWN.pitch}
            disabled={disabled}
            onChange={(pitch) => put({ pitch })}
          />
          {pieces.length > 0 && (
            <div role="group" aria-label="Drum pieces" className="flex flex-col">
              {pieces.map((piece) => (
                <Check
                  key={piece}
                  checked={where.drums?.includes(piece) ?? true}
                  disabled={disabled}
                  onChange={(on) => put({ drums: withPiece(where.drums ?? pieces, piece, on, pieces) })}
                >
                  {drumName(piece) ?? `note ${piece}`}
                </Check>
              ))}
            </div>
          )}
          <OptionalRange
            label="velocities"
            value={where.velocity}
            initial={[1, 64]}
            known={KNOWN.velocity}
            disabled={disabled}
            onChange={(velocity) => put({ velocity })}
          />
          <OptionalRange
            label="lengths, ticks"
            value={where.length}
            initial={[0, 240]}
            known={KNOWN.length}
            disabled={disabled}
            onChange={(length) => put({ length })}
          />
          <OptionalNumber
            label="channel"
            value={where.channel}
            known={KNOWN.channel}
            disabled={disabled}
            onChange={(channel) => put({ channel })}
          />
          <Segmented
            label="Voice"
            disabled={disabled}
            value={where.voice ?? 'any'}
            options={[
              { value: 'any', label: 'any voice' },
              { value: 'highest', label: 'highest' },
              { value: 'inner', label: 'inner' },
              { value: 'lowest', label: 'lowest' },
            ]}
            onChange={(voice) => put({ voice: voice === 'any' ? undefined : voice })}
          />
          {pieces.length === 0 && (
            <Segmented
              label="Hand"
              disabled={disabled}
              value={where.hand ?? 'both'}
              options={[
                { value: 'both', label: 'both hands' },
                { value: 'left', label: 'left' },
                { value: 'right', label: 'right' },
              ]}
              onChange={(hand) => put({ hand: hand === 'both' ? undefined : hand })}
            />
          )}
          {selected.length > 0 && selected.length !== where.notes?.length && (
            <Button
              look="quiet"
              className="h-6 justify-start px-0"
              disabled={disabled}
              onClick={() => put({ notes: [...selected] })}
            >
              only the {selected.length === 1 ? 'note' : `${selected.length} notes`} selected now
            </Button>
          )}
          {where.notes && (
            <Check checked disabled={disabled} onChange={() => put({ notes: undefined })}>
              {where.notes.length === 1 ? 'the 1 note selected' : `the ${where.notes.length} notes selected`}
            </Check>
          )}
        </div>
      </details>
    </div>
  );
}

/** The pieces with one more or one less; undefined for all of them, which need not be named. The last one stays. */
function withPiece(
  named: readonly number[],
  piece: number,
  on: boolean,
  all: readonly number[],
): number[] | undefined {
  const next = on ? [...named, piece] : named.filter((each) => each !== piece);
  if (next.length === 0) return [...named];
  return all.every((each) => next.includes(each)) ? undefined : next.sort((a, b) => a - b);
}
