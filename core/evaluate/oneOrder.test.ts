import fc from 'fast-check';
import { layerOf, listOf, orderedOf, timelineOf, type Part, type Session } from '../session';
import { createStep } from '../steps';
import { mapOfBeats } from '../tempo';
import { eventLines, type RawEvent } from '../testing/files';
import { STEPS_OF_EVERY_KIND } from '../testing/extremes';
import { note, opened } from '../testing/quay';
import { blendedPlayback, cleanFile, exportSession, type PlaybackPart } from '.';

const at = (lines: string[], tick: number) => lines.filter((line) => line.startsWith(`${tick} `));

describe('what stands at one tick', () => {
  it('keeps its place among the notes whatever a step changed of the rest', () => {
    const { file } = opened([
      [[0, 0xb0, 11, 100], ...note(0, 480, 60), [480, 0xb0, 64, 127], [960, 0xb0, 64, 0]],
    ]);
    const lines = (steps: Parameters<typeof cleanFile>[1]) =>
      at(eventLines(cleanFile(file, steps).file.tracks[0].events), 480);
    expect(lines([createStep('curve', { op: 'scale', lane: 'cc11', percent: 50 })])).toEqual(lines([]));
  });

  it('ends the old notes before the new pedal goes down, where a seam cuts', () => {
    const one = opened([note(0, 4000, 60)]);
    const two = opened([[[0, 0xb0, 64, 127], ...note(2000, 2400, 62), [3000, 0xb0, 64, 0]]]);
    for (const [key, take] of two.byKey) one.byKey.set(key, take);
    const pieceOf = ({ session }: typeof one) => listOf(listOf(listOf(session.parts)[0].layers)[0].pieces)[0];
    const part: Part = {
      ...listOf(one.session.parts)[0],
      seams: { held: 'cut', by: 'music' },
      layers: orderedOf([
        layerOf([
          { ...pieceOf(one), to: 1920 },
          { ...pieceOf(two), id: 'p2', number: 7, from: 1920, at: 1920 },
        ]),
      ]),
    };
    const session: Session = {
      ...one.session,
      takes: orderedOf([...listOf(one.session.takes), ...listOf(two.session.takes)]),
      parts: orderedOf([part]),
    };
    const out = exportSession(
      session,
      { format: 0, version: 'played', parts: [part.id] },
      one.evaluator,
      one.takeOf,
    );
    expect(at(eventLines(out.tracks[0].events), 1920)).toEqual(['1920 80 60 64 ', '1920 b0 64 127 ']);
  });

  it('is releases, then what is new of controllers, then strokes, where the source did not say otherwise', () => {
    const ramp = createStep('curve', { op: 'draw', lane: 'cc11', points: [{ at: 480, value: 9 }] });
    const { file } = opened([[...note(0, 480, 60), ...note(480, 960, 62)]]);
    const lines = at(eventLines(cleanFile(file, [ramp]).file.tracks[0].events), 480);
    expect(lines.map((line) => line.split(' ')[1])).toEqual(['80', 'b0', '90']);
  });

  it('is the same for every event a step left alone: those are written in their old order', () => {
    const anyTrack = fc
      .array(
        fc
          .tuple(fc.nat(12), fc.nat(3), fc.nat(127), fc.nat(6))
          .map(([beat, what, value, length]): RawEvent[] => {
            const tick = beat * 120;
            if (what === 0) return note(tick, tick + 120 * length + 1, 60 + (value % 4));
            return [[tick, 0xb0, [64, 11, 7][what - 1], value]];
          }),
        { maxLength: 14 },
      )
      .map((lists) => lists.flat().sort((a, b) => a[0] - b[0]));
    fc.assert(
      fc.property(anyTrack, fc.constantFrom('cc1', 'cc2', 'bend'), (track, lane) => {
        const { file } = opened([[[0, 0xb0, 1, 5], ...track]]);
        // A lane nothing else is in: all that was there has to come as it came.
        const step = createStep('curve', { op: 'draw', lane, points: [{ at: 240, value: 3 }, { at: 600, value: 9 }] }); // prettier-ignore
        const isOther = (line: string) => !/ b0 [12] | e0 /.test(line);
        const lines = (steps: Parameters<typeof cleanFile>[1]) =>
          eventLines(cleanFile(file, steps).file.tracks[0].events).filter(isOther);
        expect(lines([step])).toEqual(lines([]));
      }),
    );
  });

  it('is on whole ticks in the conducting track too', () => {
    const { session, evaluator, takeOf } = opened([note(0, 480, 60)], {
      division: { kind: 'metrical', ticksPerQuarter: 25 },
    });
    const beats = Float64Array.from({ length: 101 }, (_, beat) => beat * 0.75 + (beat % 2) * 0.01);
    const found = { beats, downbeats: [0], beatsPerBar: 2, division: 'ternary' as const };
    const { tempos, meters } = mapOfBeats(found, 25, true);
    const whole: Session = { ...session, tempos, meters };
    const out = exportSession(
      whole,
      { format: 1, version: 'played', parts: whole.parts.order },
      evaluator,
      takeOf,
    );
    const { tick, data1 } = out.tracks[0].events;
    expect(tick.every(Number.isInteger)).toBe(true);
    const written = Array.from(tick).filter((_, row) => data1[row] === 0x51);
    expect(written.at(-1)).toBe(Math.round(tempos[tempos.length - 1].tick));
  });
});

/** What is sent, in order, as lines of a file: by the places playback names. */
function sentOf(heard: PlaybackPart): string[] {
  const { places } = heard;
  if (!places) return [];
  const seconds = (value: number) => value.toFixed(6);
  const all = [
    ...Array.from(heard.noteEnd, (time, row) => ({
      time,
      place: places.off[row],
      line: `off ${heard.notePitch[row]}`,
    })),
    ...Array.from(heard.eventTime, (time, row) => ({
      time,
      place: places.event[row],
      line: `${heard.eventKind[row].toString(16)} ${heard.eventData1[row]} ${heard.eventData2[row]}`,
    })),
    ...Array.from(heard.noteStart, (time, row) => ({
      time,
      place: places.on[row],
      line: `on ${heard.notePitch[row]} ${heard.noteVelocity[row]}`,
    })),
  ];
  return all
    .map((each, index) => ({ ...each, index }))
    .sort((a, b) => a.time - b.time || (a.place === b.place ? 0 : a.place - b.place) || a.index - b.index)
    .map(({ time, line }) => `${seconds(time)} ${line}`);
}

it('playback sends what a file holds, at its ticks and in its order', () => {
  const anyTrack = fc
    .array(
      fc
        .tuple(fc.nat(10), fc.boolean(), fc.nat(127), fc.integer({ min: 1, max: 5 }))
        .map(([beat, isNote, value, length]): RawEvent[] =>
          isNote
            ? note(beat * 120, beat * 120 + 120 * length, 60 + (value % 12), 1 + (value % 127))
            : [[beat * 120, 0xb0, value % 2 === 0 ? 64 : 11, value]],
        ),
      { minLength: 1, maxLength: 12 },
    )
    .map((lists) => lists.flat().sort((a, b) => a[0] - b[0]));
  const steps = STEPS_OF_EVERY_KIND.filter(({ kind }) =>
    ['quantize', 'curve', 'pedal', 'velocity', 'nudge'].includes(kind),
  );
  fc.assert(
    fc.property(anyTrack, fc.constantFrom(...steps), (track, step) => {
      const { file, session, evaluator } = opened([track]);
      const cleaned = cleanFile(file, [step]).file;
      const [part] = listOf(session.parts);
      const own = { ...part, steps: orderedOf([{ id: 's', step }]) };
      const whole = { ...session, parts: orderedOf([own]) };
      const timeline = timelineOf(whole);
      const { stages, assembly } = evaluator.evaluate(own, whole, timeline);
      const heard = blendedPlayback(stages[0], stages[1], 1, timeline.tempo, [], assembly);
      const { events } = cleaned.tracks[0];
      const written = Array.from(events.tick, (tick, row) => {
        const kind = events.status[row] & 0xf0;
        const time = (tick / 960).toFixed(6);
        if (kind === 0x90 && events.data2[row] > 0)
          return `${time} on ${events.data1[row]} ${events.data2[row]}`;
        if (kind === 0x90 || kind === 0x80) return `${time} off ${events.data1[row]}`;
        return `${time} ${kind.toString(16)} ${events.data1[row]} ${events.data2[row]}`;
      });
      // Strokes and releases that were moved to one tick are equals among each other.
      const sent = sentOf(heard);
      expect([...sent].sort()).toEqual([...written].sort());
      const messages = (lines: string[]) => lines.map((line) => line.replace(/ (on|off) .*/, ' $1'));
      expect(messages(sent)).toEqual(messages(written));
    }),
  );
});
