import { laneName, lineOf, tickAtPosition, withEnd, type DrawnLine, type LaneView } from '@ordle/core';
import { readOut } from '@/editor';
import { parsePosition } from '@/edits/typedValues';
import { useOpenBench } from '@/music/useBench';
import { placeInWords } from '@/panels/notes/noteColumns';
import { TypedField } from '@/ui';
import { parseLaneValue, shownLaneValue } from './laneValues';

interface LineListProps {
  lane: LaneView;
  lines: readonly DrawnLine[];
  mayWrite: boolean;
  onReshape(line: DrawnLine, next: DrawnLine): void;
}

/** The lines drawn in a lane as a table: shaped by typing what a pointer drags. */
export function LineList({ lane, lines, mayWrite, onReshape }: LineListProps) {
  const { timeline, view } = useOpenBench();
  const value = (was: number, label: string, onCommit: (value: number) => void) => (
    <TypedField
      label={label}
      className="w-14"
      disabled={!mayWrite}
      shown={shownLaneValue(lane.lane, Math.round(was))}
      title={readOut(lane.lane, Math.round(was))}
      onCommit={(text) => {
        const typed = parseLaneValue(text, lane.lane, lane.low);
        if (typed) onCommit(typed.relative ? was + typed.value : typed.value);
      }}
    />
  );
  const end = (line: DrawnLine, which: 'from' | 'to', name: string) => {
    const { at, value: was } = line[which];
    const move = (place: { at: number; value: number }) => onReshape(line, withEnd(line, which, place));
    const words = which === 'from' ? 'Start' : 'End';
    return (
      <>
        <td className="px-2 py-0.5">
          <TypedField
            label={`${words} of ${name}, place`}
            className="w-24"
            disabled={!mayWrite}
            shown={placeInWords(at, { timeline, time: view.time })}
            onCommit={(text) => {
              const typed = parsePosition(text, (place) => tickAtPosition(timeline.meter, place));
              if (!typed) return;
              const to = typed.relative ? at + typed.value : typed.value;
              // An end never passes the other.
              const held = which === 'from' ? Math.min(to, line.to.at - 1) : Math.max(to, line.from.at + 1);
              move({ at: Math.max(0, held), value: was });
            }}
          />
        </td>
        <td className="px-2 py-0.5">
          {value(was, `${words} of ${name}, value`, (next) => move({ at, value: next }))}
        </td>
      </>
    );
  };
  return (
    <div className="max-h-40 overflow-auto border-t border-rule" tabIndex={0}>
      {lines.length === 0 ? (
        <p className="px-3 py-1 text-ink-2">
          No lines that can still be shaped. Draw one with Shift held, or put one at the play line by the menu
          of the lane.
        </p>
      ) : (
        <table aria-label={`Lines drawn in ${laneName(lane.lane)}`} className="text-left">
          <thead className="text-quiet text-ink-2">
            <tr>
              {['line', 'starts', 'at value', 'half-way', 'ends', 'at value'].map((words, at) => (
                <th
                  key={at}
                  scope="col"
                  className={`px-2 py-0.5 font-normal ${at === 0 ? '' : 'text-right'}`}
                >
                  {words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map((line, index) => {
              const name = `line ${index + 1}`;
              return (
                <tr key={index} className="border-t border-rule">
                  <th scope="row" className="px-2 py-0.5 font-normal text-ink-2">
                    {index + 1}
                  </th>
                  {end(line, 'from', name)}
                  <td className="px-2 py-0.5">
                    {value(line.through.value, `Half-way of ${name}, value`, (next) =>
                      onReshape(line, lineOf(line.from, line.to, { ...line.through, value: next })),
                    )}
                  </td>
                  {end(line, 'to', name)}
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </div>
  );
}
