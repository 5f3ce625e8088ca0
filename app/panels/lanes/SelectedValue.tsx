import { PEDAL_LANES, type LaneView, type TypedValue } from '@ordle/core';
import { pressesIn } from '@/editor';
import { TypedField } from '@/ui';
import { counted, figures } from '@/words/counts';
import { parseLaneValue, shownLaneValue } from './laneValues';

interface SelectedValueProps {
  lane: LaneView;
  selected: ReadonlySet<number>;
  onChange(value: TypedValue): void;
  onLeave(): void;
}

/** The value of the selected points, or the depth of the selected presses, to be typed; a shift moves each of them. */
export function SelectedValue({ lane, selected, onChange, onLeave }: SelectedValueProps) {
  const { points, low } = lane;
  const isPedal = PEDAL_LANES.has(lane.lane);
  const values = isPedal
    ? pressesIn(points)
        .filter(({ first, stop }) => {
          for (let row = first; row < stop; row++) if (selected.has(row)) return true;
          return false;
        })
        .map(({ depth }) => depth)
    : [...selected].filter((row) => row < points.length).map((row) => points.value[row]);
  if (values.length === 0) return null;
  const shown = [...new Set(values.map((value) => shownLaneValue(lane.lane, value)))];
  const commit = (text: string) => {
    const value = parseLaneValue(text, lane.lane, low);
    if (value) onChange(value);
  };
  return (
    <label className="flex items-center gap-1 text-ink-2">
      {isPedal ? 'depth' : 'value'}
      <TypedField
        label={isPedal ? 'Depth' : 'Value'}
        name={`value-${lane.lane}`}
        shown={shown.length === 1 ? shown[0] : null}
        title={
          lane.lane === 'bend'
            ? 'Semitones, or cents as 50c; +0.5 or --0.5 shifts each of them'
            : low < 0
              ? '+0.5 or --0.5 shifts each of them'
              : '+10 or -10 shifts each of them'
        }
        onCommit={commit}
        onLeave={onLeave}
      />
    </label>
  );
}

/** "692 points, 3 chosen"; of a pedal its presses, where `selected` counts their points. */
export function contentInWords(
  { lane, points }: Pick<LaneView, 'lane' | 'points'>,
  selected: ReadonlySet<number>,
): string {
  const [one, many, all, some] = PEDAL_LANES.has(lane)
    ? [
        'press',
        'presses',
        pressesIn(points).length,
        pressesIn(points).filter(({ first }) => selected.has(first)).length,
      ]
    : ['point', 'points', points.length, selected.size];
  const words = counted(all, one, many);
  return some > 0 ? `${words}, ${figures(some)} selected` : words;
}
