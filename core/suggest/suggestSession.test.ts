import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import { listOf, mapItems, orderedOf, sessionOfFile, type Part } from '../session';
import { createStep } from '../steps';
import { chanceOf } from '../steps/random';
import { fileOfNotes } from '../testing/files';
import { playedAsWritten, scoredSession } from '../testing/scoredSession';
import { suggestFile } from './suggestFile';
import { suggestSession, withSuggested } from './suggestSession';

type Row = [start: number, end: number, pitch: number, velocity: number, channel: number];

/** Eighths of 240 ticks at 120 bpm (0.96 ticks a ms), `late` ticks after their lines and up to `loose` from that. */
function eighths(late: number, loose: number, channel: number, count = 64): Row[] {
  return Array.from({ length: count }, (_, at): Row => {
    const start = Math.round(480 + at * 240 + late + (2 * chanceOf(1, at, channel) - 1) * loose);
    return [start, start + 180, 60 + (at % 5), 80, channel];
  });
}

/** A tune in a time of its own, of 66 beats a minute on the whole. */
function free(channel: number, count = 96): Row[] {
  let at = 500;
  return Array.from({ length: count }, (_, beat): Row => {
    const start = Math.round(at);
    at += (960 * 60 * (1 + 0.12 * Math.sin(beat / 7))) / 66;
    return [start, start + 300, 60 + ((beat * 3) % 8), beat % 4 === 0 ? 100 : 70, channel];
  });
}

function opened(rows: readonly Row[]) {
  const { file } = readMidi(
    writeMidi(
      fileOfNotes(
        rows.toSorted(([a], [b]) => a - b),
        480,
      ),
    ),
  );
  let next = 0;
  const newId = () => `id${next++}`;
  const { session, takes } = sessionOfFile(file, '', newId, 0);
  const takeOf = (key: string) => takes.find((take) => take.key === key) ?? takes[0];
  return { file, session, newId, evaluator: createEvaluator(takeOf) };
}

describe('a suggestion for a session', () => {
  it('says for each part what is done, why, and what it comes to; the file itself is told the same', () => {
    const { file, session, evaluator } = opened([...eighths(20, 8, 0), ...eighths(1, 2, 1)]);
    const { recordings, parts } = suggestSession(session, evaluator);
    expect(recordings).toHaveLength(1);
    expect(recordings[0]).toMatchObject({ recorded: 'to the click', bpm: 120, beats: null });
    expect(parts.map(({ steps }) => steps.map(({ kind }) => kind))).toEqual([['nudge', 'quantize'], []]);
    expect(parts[0].after.offMs).toBeLessThan(0.3 * parts[0].before.offMs);
    expect(parts[0].picture?.before.late.length).toBe(parts[0].picture?.after.late.length);
    const told = suggestFile(file);
    expect(told.parts.map(({ steps, reasons }) => [steps, reasons])).toEqual(
      parts.map(({ steps, reasons }) => [steps, reasons]),
    );
  });

  it('leaves alone what a step puts in time already', () => {
    const { session, evaluator } = opened(eighths(20, 8, 0));
    const line = orderedOf([{ id: 's', step: createStep('quantize', { grid: '1/8' }) }]);
    const cleaned = {
      ...session,
      parts: mapItems(session.parts, (part): Part => ({ ...part, steps: line })),
    };
    const [part] = suggestSession(cleaned, evaluator).parts;
    expect([part.isInTime, part.steps]).toEqual([true, []]);
  });

  it('puts a free recording under its beats first, over all its parts, and cleans it against them', () => {
    const { session, evaluator, newId } = opened([...free(0), ...free(1)]);
    const { recordings, parts } = suggestSession(session, evaluator);
    expect(recordings[0]).toMatchObject({ recorded: 'freely', partIds: session.parts.order });
    expect(recordings[0].bpm).toBeGreaterThan(58);
    expect(recordings[0].bpm).toBeLessThan(74);
    const found = recordings[0].beats?.found ?? null;
    const chosen = new Map(parts.map(({ partId, steps }) => [partId, steps]));
    const done = withSuggested(session, found, chosen, newId);
    expect(done.tempos.length).toBeGreaterThan(40);
    expect(listOf(done.parts).every(({ lockedTo }) => lockedTo === 'seconds')).toBe(true);
    // What was done is nothing to suggest any more.
    const again = suggestSession(done, evaluator);
    expect(again.recordings[0].recorded).toBe('to the click');
    expect(again.parts.every(({ steps }) => steps.length === 0)).toBe(true);
  });

  it('does not bend the session to a free recording that stands beside others, and says so', () => {
    const { session, evaluator } = opened([...free(0), ...eighths(20, 8, 1)]);
    const [first, second] = session.parts.order;
    const apart = {
      ...session,
      parts: mapItems(session.parts, (part): Part => ({ ...part, recording: part.id })),
    };
    const { recordings, parts } = suggestSession(apart, evaluator);
    expect(recordings.map(({ recorded, beats }) => [recorded, beats])).toEqual([
      ['freely', null],
      ['to the click', null],
    ]);
    expect(parts.find(({ partId }) => partId === first)).toMatchObject({ steps: [], isFree: true });
    expect(parts.find(({ partId }) => partId === second)?.steps).not.toHaveLength(0);
  });

  it('goes by what is said of the beats', () => {
    const { session, evaluator } = opened(free(0));
    const [id] = session.parts.order;
    const found = suggestSession(session, evaluator).recordings[0].beats?.found;
    const half = [...(found?.beats ?? [])].filter((_, beat) => beat % 2 === 0);
    const said = { [id]: { beats: [], settling: 'beats' as const, laid: half } };
    expect(suggestSession(session, evaluator, said).recordings[0].beats?.found.beats).toHaveLength(
      half.length,
    );
  });
});

describe('a part with a score beside it', () => {
  it('is suggested to be cleaned to it, with what that would make of it', () => {
    const { session, evaluator } = scoredSession(playedAsWritten((at) => (at % 2 === 0 ? 0 : 48)));
    const { recordings, parts } = suggestSession(session, evaluator);
    expect(recordings.map(({ recorded }) => recorded)).toEqual(['to the click']);
    const [part] = parts;
    expect(part.steps.map(({ kind }) => kind)).toEqual(['score']);
    expect(part.reasons).toEqual([
      '16 of 16 notes of “Quay” are found in it, so each goes to where it is written',
    ]);
    // 48 ticks at 120 bpm are 50 ms: half of the notes.
    expect([part.before.biasMs, part.before.spreadMs].map(Math.round)).toEqual([25, 25]);
    expect([part.after.biasMs, part.after.spreadMs].map(Math.round)).toEqual([0, 0]);
  });

  it('and what was played freely gets its beats from it', () => {
    // Slower and slower, with bars that are far from those of the session.
    let tick = 300;
    const free = playedAsWritten().map(([, , pitch], at): [number, number, number, number] => {
      const start = tick;
      tick += 330 + 14 * at;
      return [start, start + 250, pitch, 80];
    });
    const { session, evaluator } = scoredSession(free);
    const { recordings, parts } = suggestSession(session, evaluator);
    expect(recordings[0].recorded).toBe('freely');
    expect(recordings[0].beats?.found.beats).toHaveLength(16);
    free.forEach(([start], at) => expect(recordings[0].beats?.found.beats[at]).toBeCloseTo(start / 960, 6));
    expect(parts[0].steps.map(({ kind }) => kind)).toEqual(['score']);
    expect(Math.abs(parts[0].after.biasMs)).toBeLessThan(1);
  });

  it('is left where a step goes by it already', () => {
    const { withSteps, evaluator } = scoredSession(playedAsWritten());
    const { session } = withSteps(createStep('score'));
    expect(suggestSession(session, evaluator).parts[0].steps).toEqual([]);
  });
});
