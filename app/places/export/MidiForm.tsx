import type { MidiOptions, Session } from '@ordle/core';
import type { CheckedExport } from '@/engine/protocol';
import { Check, NumberField, Segmented } from '@/ui';
import { Row } from './Row';

interface MidiFormProps {
  options: MidiOptions;
  change(change: Partial<MidiOptions>): void;
  session: Session;
  check: CheckedExport | null;
  /** Whether the tracks it came in are others than a track for each part. */
  hasTracks: boolean;
}

/** How a Standard MIDI File is laid out. */
export function MidiForm({ options, change, session, check, hasTracks }: MidiFormProps) {
  const { layout, division, apart, overlaps, programs, names } = options;
  const { division: own } = session;
  const isOneTrack = session.sourceFormat === 0;
  const layouts = [
    ...(hasTracks
      ? [
          {
            value: 'came' as const,
            label: 'tracks as they came',
            title: 'Format 1: the tracks of the imported file',
          },
        ]
      : []),
    {
      value: 'parts' as const,
      label: 'one track per part',
      title: 'Format 1: a track for each part, and one for tempo, meter and markers',
    },
    {
      value: 'one' as const,
      label: 'one track',
      title: 'Format 0: everything in one track, parts told apart by channel',
    },
  ];
  // Where it came as one of the others, that is what it came as.
  const shown = layout === 'came' && !hasTracks ? (isOneTrack ? 'one' : 'parts') : layout;
  return (
    <>
      <Segmented
        label="Format"
        value={shown}
        options={layouts}
        onChange={(next) =>
          change({ layout: next === (hasTracks ? 'came' : isOneTrack ? 'one' : 'parts') ? 'came' : next })
        }
      />
      <Row name="Overlaps">
        <Segmented
          label="Overlapping notes of one pitch"
          disabled={
            overlaps === 'keep' &&
            !check?.concerns.some(({ kind }) => kind === 'overlap' || kind === 'nested')
          }
          value={overlaps}
          options={[
            {
              value: 'keep',
              label: 'as they are',
              title:
                'A note may begin before the last of its pitch ended; some instruments then cut it short',
            },
            {
              value: 'cut',
              label: 'end the earlier',
              title: 'A note ends where the next of its pitch begins',
            },
          ]}
          onChange={(next) => change({ overlaps: next })}
        />
      </Row>
      {own.kind === 'metrical' && (
        <Row name="Division">
          <span className="flex items-baseline gap-1.5 text-ink-2">
            <NumberField
              label="Ticks to a quarter"
              value={division ?? own.ticksPerQuarter}
              min={1}
              max={32767}
              className="w-14"
              initial={own.ticksPerQuarter}
              tip="How finely the file tells time; a coarser one moves notes"
              onCommit={(ticks) => change({ division: ticks === own.ticksPerQuarter ? null : ticks })}
            />
            ticks to a quarter
          </span>
        </Row>
      )}
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        <Check checked={apart} onChange={(on) => change({ apart: on })}>
          A file for each part
        </Check>
        <Check checked={programs} onChange={(on) => change({ programs: on })}>
          Sounds
        </Check>
        <Check checked={names} onChange={(on) => change({ names: on })}>
          Names
        </Check>
      </div>
    </>
  );
}
