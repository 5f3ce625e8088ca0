import type { Take } from '../model';
import { orderedOf, listOf, joinFile, sessionOfFile, type Part, type Session } from '../session';
import { eventLines, fileOfNotes } from '../testing/files';
import { takesIn, createEvaluator, exportSession } from '.';

/** A bell on channel 1 with a bank, a program and a pedal; what its track is written as after a change to the part. */
function written(change: Partial<Part>): string[] {
  const file = fileOfNotes([[5, 100, 60, 80]], 480, [
    [0, 0xb0, 0, 3],
    [0, 0xc0, 14],
    [10, 0xb0, 64, 127],
  ]);
  let next = 0;
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const changed: Session = { ...session, parts: orderedOf([{ ...listOf(session.parts)[0], ...change }]) };
  const source = (): Take => takes[0];
  const options = { format: 0 as const, version: 'cleaned' as const, parts: [listOf(changed.parts)[0].id] };
  return eventLines(exportSession(changed, options, createEvaluator(source), source).tracks[0].events);
}

describe('a sound or channel that a person chose', () => {
  it('stands instead of the programs and banks of the take', () => {
    const lines = written({ sound: { program: 20, drums: false, chosen: true } });
    expect(lines).toEqual(['0 c0 20 0 ', '5 90 60 80 ', '10 b0 64 127 ', '100 80 60 64 ']);
  });

  it('moves everything of the part to the channel', () => {
    expect(written({ channel: 5, rechannel: true })).toEqual([
      '0 b4 0 3 ',
      '0 c4 14 0 ',
      '5 94 60 80 ',
      '10 b4 64 127 ',
      '100 84 60 64 ',
    ]);
  });

  it('and without a choice nothing changes', () => {
    expect(written({})).toEqual(['0 b0 0 3 ', '0 c0 14 0 ', '5 90 60 80 ', '10 b0 64 127 ', '100 80 60 64 ']);
  });
});

it('a file joined to a session that has its take already adds a part but no second take', () => {
  const file = fileOfNotes([[0, 100, 60, 80]]);
  let next = 0;
  const newId = () => `id${next++}`;
  const { session } = sessionOfFile(file, 'Quay', newId, 0);
  const joined = joinFile(session, file, newId);
  expect(joined.references).toEqual([]);
  expect(joined.parts).toHaveLength(1);
  expect(takesIn(joined.parts[0])).toEqual([session.takes.order[0]]);
  expect(joined.parts[0].id).not.toBe(session.parts.order[0]);
});
