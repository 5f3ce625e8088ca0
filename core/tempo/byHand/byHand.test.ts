import fc from 'fast-check';
import type { PulseHints } from '../../session';
import { findBeats, type FoundBeats } from '../findBeats';
import {
  NO_HINTS,
  doubledBeats,
  halvedBeats,
  shiftedBeats,
  withBarsSaid,
  withBeatAt,
  withBeatDragged,
  withBeatOut,
  withBeatsKept,
  withPlaceSaid,
  withTaps,
  type Strokes,
} from '.';
import { onsetEventsOf } from '../onsetEvents';
import { noteTableOf } from '../../model';
import { createTimeline } from '../../time';

const { tempo } = createTimeline({ kind: 'metrical', ticksPerQuarter: 480 }, [], []);
const SECOND = 960;

/** Beats of a player who is not quite steady, in seconds. */
const anyBeats = fc
  .tuple(
    fc.double({ min: 0.3, max: 2, noNaN: true }),
    fc.double({ min: 0.4, max: 0.8, noNaN: true }),
    fc.array(fc.double({ min: 0.94, max: 1.06, noNaN: true }), { minLength: 24, maxLength: 48 }),
  )
  .map(([start, period, ratios]) =>
    ratios.reduce<number[]>((beats, ratio) => [...beats, beats[beats.length - 1] + period * ratio], [start]),
  );

/** A bass and a chord on each beat, and a note half way to the next. */
function playedTo(beats: readonly number[]) {
  const all = beats.flatMap((at, beat) => {
    const half = ((beats.at(beat + 1) ?? at + 0.5) - at) / 2;
    const put = (from: number, length: number, pitch: number, velocity: number) => ({
      id: 0, start: from * SECOND, end: (from + length) * SECOND, pitch, velocity, release: 64, channel: 0,
    }); // prettier-ignore
    return [
      put(at, 1.8 * half, beat % 4 === 0 ? 36 : 43, 96),
      put(at, 1.6 * half, 64, 70),
      put(at + half, half / 2, 72, 55),
    ];
  });
  return noteTableOf(all.sort((a, b) => a.start - b.start).map((note, id) => ({ ...note, id })));
}

const foundOf = (
  notes: ReturnType<typeof playedTo>,
  pulse: PulseHints,
): FoundBeats & { strokes: Strokes } => {
  const found = findBeats(notes, tempo, pulse);
  return {
    ...withBarsSaid(found, pulse.places ?? [], pulse.beatsPerBar),
    strokes: onsetEventsOf(notes, tempo),
  };
};
const close = (found: ArrayLike<number>, meant: readonly number[], digits = 9) => {
  expect(found).toHaveLength(meant.length);
  meant.forEach((at, beat) => expect(found[beat]).toBeCloseTo(at, digits));
};

describe('beats at another level or phase', () => {
  it('are exactly those that stand there, and the same press takes them back', () => {
    fc.assert(
      fc.property(anyBeats, (beats) => {
        const notes = playedTo(beats);
        const strokes = onsetEventsOf(notes, tempo);
        const middles = beats.slice(1).map((at, beat) => (at + beats[beat]) / 2);
        const stands = (laid: readonly number[]) => foundOf(notes, { ...NO_HINTS, laid: [...laid] });
        // On the off-beats: every beat but the first is half a beat later, on its stroke.
        const shifted = shiftedBeats(NO_HINTS, stands(middles), strokes);
        for (const at of beats.slice(1))
          expect(shifted.laid?.some((each) => Math.abs(each - at) < 1e-3)).toBe(true);
        expect(shiftedBeats(shifted, foundOf(notes, shifted), strokes).laid).toEqual(middles);
        const doubled = doubledBeats(NO_HINTS, stands(beats), strokes);
        for (const at of middles) expect(doubled.laid?.some((each) => Math.abs(each - at) < 1e-3)).toBe(true);
        close(halvedBeats(doubled, foundOf(notes, doubled)).laid ?? [], beats);
        const even = halvedBeats(NO_HINTS, stands(beats));
        const odd = halvedBeats(even, foundOf(notes, even));
        close(
          [...(even.laid ?? []), ...(odd.laid ?? [])].sort((a, b) => a - b),
          beats,
        );
        expect(doubledBeats(odd, foundOf(notes, odd), strokes).laid).toEqual(beats);
      }),
      { numRuns: 10 },
    );
  });
});

describe('what a person says of beats', () => {
  const anyDeed = fc.record({
    what: fc.constantFrom('drag', 'here', 'out', 'tap', 'keep', 'place'),
    at: fc.double({ min: 0.1, max: 0.9, noNaN: true }),
    by: fc.double({ min: -0.12, max: 0.12, noNaN: true }),
  });

  it('is all there, whatever else is said and found, and there is nothing between what was tapped', () => {
    fc.assert(
      fc.property(anyBeats, fc.array(anyDeed, { minLength: 1, maxLength: 6 }), (beats, deeds) => {
        const notes = playedTo(beats);
        const strokes = onsetEventsOf(notes, tempo);
        let pulse: PulseHints = NO_HINTS;
        for (const { what, at, by } of deeds) {
          const found = foundOf(notes, pulse);
          const place = found.beats[Math.floor(at * found.beats.length)];
          const before = found.beats.length;
          try {
            if (what === 'drag') {
              pulse = withBeatDragged(pulse, found, place, place + by);
              expect(foundOf(notes, pulse).beats).toHaveLength(before);
            } else if (what === 'here') pulse = withBeatAt(pulse, found, place + 2 * by);
            else if (what === 'out') pulse = withBeatOut(pulse, found, place);
            else if (what === 'keep') pulse = withBeatsKept(pulse, found, place, place + 4);
            else if (what === 'place') pulse = withPlaceSaid(pulse, found, { at: place, beat: 1 });
            else {
              const from = Math.floor(at * (beats.length - 8));
              const taps = beats.slice(from, from + 8).filter((_, tap) => by < 0 || tap % 2 === 0);
              pulse = withTaps(pulse, found, taps, strokes).pulse;
            }
          } catch (refused) {
            expect(refused).toMatchObject({
              code: expect.stringMatching(/absurd-tempo|bars-disagree/) as string,
            });
          }
        }
        const found = foundOf(notes, pulse);
        for (const at of pulse.beats) expect([...found.beats]).toContain(at);
        for (const [from, to] of pulse.only ?? [])
          for (const at of found.beats)
            if (at > from && at < to)
              expect(pulse.beats.some((each) => Math.abs(each - at) < 1e-9)).toBe(true);
        for (const { at, beat } of pulse.places ?? []) {
          const row = found.beats.findIndex((each) => Math.abs(each - at) < 0.02);
          const line = found.downbeats.findLast((each) => each <= row);
          if (line !== undefined) expect(row - line).toBe(beat - 1);
        }
      }),
      { numRuns: 15 },
    );
  });

  it('takes the neighbours of a dragged beat along evenly, as far as the next one that was set', () => {
    const beats = Float64Array.from({ length: 30 }, (_, beat) => beat / 2);
    const found = foundOf(noteTableOf([]), { ...NO_HINTS, laid: [...beats] });
    const set: PulseHints = { ...NO_HINTS, beats: [beats[5], beats[25]] };
    const { laid = [] } = withBeatDragged(set, found, beats[15], beats[15] + 0.2);
    close(
      laid,
      [...beats].map((at, beat) => at + 0.2 * Math.max(0, 1 - Math.abs(beat - 15) / 10)),
    );
    // Those that stand on strokes of their own stay there.
    const played = playedTo([...beats]);
    const right = foundOf(played, { ...NO_HINTS, laid: [...beats] });
    const mended = withBeatDragged(NO_HINTS, right, beats[15], beats[15] + 0.06).laid ?? [];
    close(
      mended,
      [...beats].map((at, beat) => at + (beat === 15 ? 0.06 : 0)),
    );
    const alone = withBeatDragged(set, found, beats[15], beats[15] + 0.2, true);
    close(
      alone.laid ?? [],
      [...beats].map((at, beat) => at + (beat === 15 ? 0.2 : 0)),
    );
    expect(() => withBeatDragged(set, found, beats[15], beats[16] - 0.02, true)).toThrow('ms of the next');
  });

  it('puts as many beats between two places as their numbers say, and refuses what nobody plays', () => {
    const beats = Float64Array.from({ length: 40 }, (_, beat) => 1 + beat / 2);
    const stands: PulseHints = { ...NO_HINTS, laid: [...beats] };
    const say = (pulse: PulseHints, at: number, beat: number, bar?: number) =>
      withPlaceSaid(pulse, foundOf(noteTableOf([]), pulse), { at, beat, ...(bar !== undefined && { bar }) });
    const first = say(stands, 3, 1, 2);
    // Six bars in twelve seconds stood there; three were played.
    const slow = say(first, 15, 1, 5);
    expect((slow.laid ?? []).filter((at) => at > 3 && at < 15)).toHaveLength(11);
    const found = foundOf(noteTableOf([]), slow);
    expect(found.firstBar).toBe(1);
    expect(found.beats[found.downbeats[4]]).toBeCloseTo(15, 9);
    // The last of a ritardando is the fourth of its bar, whatever the usual length of beats.
    const held = say(slow, found.beats[found.beats.length - 1], 4);
    const end = foundOf(noteTableOf([]), held);
    expect(end.downbeats.at(-1)).toBe(end.beats.length - 4);
    expect(() => say(slow, 15.6, 1, 12)).toThrow('28 beats in 0.6 s, 2,800 beats a minute');
    expect(() => say(slow, 20, 1, 3)).toThrow('Nothing was changed');
    expect(() => say(stands, 15, 1, 1)).toThrow('bars are counted from 1');
  });
});

describe('taps', () => {
  it('mean the same beats however late the hand is, and are told by how much', () => {
    fc.assert(
      fc.property(
        anyBeats,
        fc.constantFrom(0, 0.05, 0.1, 0.15, 0.2),
        fc.array(fc.double({ min: -0.03, max: 0.03, noNaN: true }), { minLength: 12, maxLength: 12 }),
        (beats, lag, scatter) => {
          const notes = playedTo(beats);
          const found = foundOf(notes, NO_HINTS);
          const taps = beats.map((at, beat) => at + lag + scatter[beat % 12]);
          const tapped = withTaps(NO_HINTS, found, taps, onsetEventsOf(notes, tempo));
          expect(Math.abs(tapped.lag - lag)).toBeLessThan(0.03);
          close(foundOf(notes, tapped.pulse).beats, beats, 1);
        },
      ),
      { numRuns: 15 },
    );
  });
});
