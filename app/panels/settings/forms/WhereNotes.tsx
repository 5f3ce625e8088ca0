import { drumName, drumSetsIn, type PartFacts, type Where } from '@ordle/core';
import { Button, Check, Segmented } from '@/ui';
import { OptionalNumber, OptionalRange } from './OptionalNumber';
import { settingOf } from './settingOf';

const KNOWN = {
  pitch: settingOf('where', 'pitch'),
  velocity: settingOf('where', 'velocity'),
  length: settingOf('where', 'length'),
  channel: settingOf('where', 'channel'),
};

interface WhereNotesProps {
  where: Where;
  /** What it opens by. */
  label?: string;
  facts: PartFacts | null;
  /** The pieces of a drum part, by note number; none of other parts. */
  pieces: readonly number[];
  /** Whether hands can be asked for although there are pieces: several parts are meant. */
  hasHands?: boolean;
  /** Ids of the notes selected in the editor, which a where can be limited to. */
  selected?: readonly number[];
  /** Whether it stands open from the start. */
  open?: boolean;
  disabled: boolean;
  onChange(where: Where): void;
}

/**
 * Which of the notes of a stretch are meant: by pitch, piece, loudness, length, channel, voice, hand, or one by one.
 */
export function WhereNotes(props: WhereNotesProps) {
  const {
    where,
    label = 'Only some notes',
    facts,
    pieces,
    hasHands = pieces.length === 0,
    selected = [],
    open = false,
    disabled,
    onChange,
  } = props;
  const sets = drumSetsIn(pieces);
  const isLimited = Object.keys(where).some((key) => key !== 'bars');
  const put = (change: Partial<Where>) =>
    onChange(
      Object.fromEntries(Object.entries({ ...where, ...change }).filter(([, value]) => value !== undefined)),
    );
  return (
    <details open={open || isLimited} className="text-ink-2">
      <summary className="cursor-pointer text-quiet">{label}</summary>
      <div className="mt-1 flex flex-col gap-1 text-ink">
        <OptionalRange
          label="pitches"
          value={where.pitch}
          initial={facts?.pitches ?? [48, 72]}
          known={KNOWN.pitch}
          disabled={disabled}
          onChange={(pitch) => put({ pitch })}
        />
        {sets.length > 0 && (
          <div role="group" aria-label="Sets of drum pieces" className="flex flex-wrap gap-1">
            {sets.map((set) => {
              const isOnly =
                where.drums?.length === set.pieces.length &&
                set.pieces.every((piece) => where.drums?.includes(piece));
              return (
                <Button
                  key={set.name}
                  className="h-6! px-1.5!"
                  aria-pressed={isOnly}
                  disabled={disabled}
                  onClick={() => put({ drums: isOnly ? undefined : set.pieces })}
                >
                  {isOnly ? `all, not only the ${set.name}` : `only the ${set.name}`}
                </Button>
              );
            })}
          </div>
        )}
        {pieces.length > 0 && (
          <div role="group" aria-label="Drum pieces" className="flex flex-col">
            {pieces.map((piece) => {
              const name = drumName(piece) ?? `note ${piece}`;
              const isOnly = where.drums?.length === 1 && where.drums[0] === piece;
              return (
                <span key={piece} className="flex items-center justify-between gap-2">
                  <Check
                    checked={where.drums?.includes(piece) ?? true}
                    disabled={disabled}
                    onChange={(on) => put({ drums: withPiece(where.drums ?? pieces, piece, on, pieces) })}
                  >
                    {name}
                  </Check>
                  {pieces.length > 1 && (
                    <button
                      type="button"
                      aria-label={isOnly ? 'All pieces' : `Only ${name}`}
                      disabled={disabled}
                      onClick={() => put({ drums: isOnly ? undefined : [piece] })}
                      className="shrink-0 text-quiet text-ink-2 hover:text-ink"
                    >
                      {isOnly ? 'all' : 'only this'}
                    </button>
                  )}
                </span>
              );
            })}
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
        {hasHands && (
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
