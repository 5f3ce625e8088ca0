import fc from 'fast-check';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { Take } from '../model';
import { itemOf, listOf, mapItems, orderedOf, sessionOfFile, timelineOf, type Session } from '../session';
import { createStep, type Step } from '../steps';
import { createTimeline, ticksToSeconds } from '../time';
import { fileOfNotes } from '../testing/files';
import { firstBarLine, lockedPart, shiftToBar, shiftedPart, shiftedSession, underMap, withTempo } from '.';

/** A session of notes at ticks of 480 a quarter, 120 bpm, with steps on its part, and what its cleaned notes are. */
function harbour(starts: readonly number[], steps: readonly Step[] = []) {
  let next = 0;
  const { file } = readMidi(
    writeMidi(fileOfNotes(starts.map((tick, at) => [tick, tick + 200, 60 + (at % 12), 80]))),
  );
  const { session: opened, takes } = sessionOfFile(file, 'Harbour', () => `id${next++}`, 0);
  const line = orderedOf(steps.map((step, at) => ({ id: `s${at}`, step })));
  const session: Session = { ...opened, parts: mapItems(opened.parts, (part) => ({ ...part, steps: line })) };
  const evaluator = createEvaluator((key) => takes.find((take) => take.key === key) as Take);
  const [part] = listOf(session.parts);
  const notesOf = (of: Session) => {
    const { stages } = evaluator.evaluate(itemOf(of.parts, part.id) ?? part, of, timelineOf(of));
    return stages[stages.length - 1].notes;
  };
  const seconds = (of: Session) =>
    [...notesOf(of).start].map((tick) => ticksToSeconds(timelineOf(of).tempo, tick));
  const ids = [...notesOf(session).id];
  const put = (own: Session, change: (part: Session['parts']['byId'][string]) => typeof part): Session => ({
    ...own,
    parts: mapItems(own.parts, change),
  });
  return { session, part, notesOf, seconds, ids, put };
}

const mapWith = (session: Session, tick: number, bpm: number) => {
  const maps = { tempos: withTempo(session.tempos, tick, bpm), meters: session.meters };
  const before = timelineOf(session);
  return underMap(session, maps, before, createTimeline(before.division, maps.tempos, maps.meters));
};

describe('another tempo map', () => {
  it('leaves a part that is locked to seconds where it was, hand edits, drawn points and presses included', () => {
    const plain = harbour([0, 480, 960, 1440, 1920]);
    const [first, second] = plain.ids;
    const edits = createStep('edits', {
      change: { [first]: { start: 100, end: 300 } },
      delete: [second],
      add: [{ id: 9e6, start: 700, end: 900, pitch: 72, velocity: 80, channel: 1 }],
      curves: [{ lane: 'cc1', channel: 1, from: 400, to: 900, points: [{ at: 500, value: 90 }] }],
    });
    const { session, seconds, notesOf, put } = harbour([0, 480, 960, 1440, 1920], [edits]);
    const locked = put(session, (part) => lockedPart(part, 'seconds', timelineOf(session)));
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1900 }), fc.integer({ min: 40, max: 220 }), (tick, bpm) => {
        const after = mapWith(locked, tick, bpm);
        const [was, is] = [seconds(locked), seconds(after)];
        expect(is).toHaveLength(was.length);
        is.forEach((at, row) => expect(at).toBeCloseTo(was[row], 6));
        // And back under the first map everything is as it was, to a part of a tick.
        const back = underMap(after, session, timelineOf(after), timelineOf(locked));
        notesOf(back).start.forEach((at, row) => expect(at).toBeCloseTo(notesOf(locked).start[row], 4));
      }),
    );
  });

  it('takes a part that lies by its beats along', () => {
    const { session, notesOf } = harbour([0, 480, 960]);
    expect([...notesOf(mapWith(session, 0, 60)).start]).toEqual([0, 480, 960]);
  });

  it('leaves what a pulse has brought to the grid by the grid', () => {
    const pulse = createStep('pulse', { beats: [[0, 0], [1, 2], [2, 3]] }); // prettier-ignore
    const { ids } = harbour([0, 480, 960]);
    const edits = createStep('edits', { change: { [ids[1]]: { start: 1000 } } });
    const { session, notesOf, put } = harbour([0, 480, 960], [pulse, edits]);
    const locked = put(session, (part) => lockedPart(part, 'seconds', timelineOf(session)));
    const ticks = [...notesOf(locked).start].map(Math.round);
    expect(ticks).toEqual([0, 1000, 1440]);
    expect([...notesOf(mapWith(locked, 480, 75)).start].map(Math.round)).toEqual(ticks);
  });
});

describe('where a session begins', () => {
  const { session } = harbour([0]);
  const timeline = timelineOf(session);

  it('goes to the first bar, or leaves whole bars for an upbeat', () => {
    expect(shiftToBar(4000, 4000, timeline)).toBe(-4000);
    // Two beats of upbeat want one bar; five want two.
    expect(shiftToBar(4000, 4000 - 960, timeline)).toBe(1920 - 4000);
    expect(shiftToBar(4000, 4000 - 2400, timeline)).toBe(3840 - 4000);
    expect(shiftToBar(100, 100, timeline)).toBe(-100);
    expect(shiftToBar(480, 0, timeline)).toBe(1440);
  });

  it('is the bar line of the first note’s bar, not the note: its own error stays', () => {
    const found = (from: number, gap: number) => {
      const beats = Float64Array.from({ length: 24 }, (_, beat) => from + beat * gap);
      return { beats, downbeats: [0, 4, 8], beatsPerBar: 4, division: 'binary' as const, bpm: 60 / gap, confidence: 1, unsure: [], sure: new Float32Array(24) }; // prettier-ignore
    };
    for (const click of [null, found(6.01, 0.5)]) {
      // 4 ticks ahead of the fourth bar, and on its second beat.
      expect(firstBarLine(5756, timeline, click)).toBe(5760);
      expect(firstBarLine(5760 + 480, timeline, click)).toBe(5760);
    }
    // Played to no click: the bar line that was found, and an upbeat before it.
    expect(firstBarLine(4010, timeline, found(4.2, 0.43))).toBeCloseTo(4.2 * 960, 6);
    expect(firstBarLine(3600, timeline, found(4.2, 0.43))).toBeCloseTo(4.2 * 960, 6);
    const own = harbour([5756, 6240]);
    const at = firstBarLine(5756, timeline, null);
    expect([
      ...own.notesOf(shiftedSession(own.session, shiftToBar(at, 5756, timeline), timeline)).start,
    ]).toEqual([0, 480]);
  });

  it('moves one part by ticks, or by seconds where it is locked to them, and loses no note', () => {
    const starts = [2000, 2480, 3000];
    for (const lockedTo of ['beats', 'seconds'] as const) {
      const own = harbour(starts);
      const at = own.put(own.session, (part) => lockedPart(part, lockedTo, timelineOf(own.session)));
      const earlier = own.put(at, (part) => shiftedPart(part, -2000, timelineOf(at)));
      expect([...own.notesOf(earlier).start].map(Math.round)).toEqual([0, 480, 1000]);
      const later = own.put(at, (part) => shiftedPart(part, 500, timelineOf(at)));
      expect([...own.notesOf(later).start].map(Math.round)).toEqual([2500, 2980, 3500]);
    }
  });

  it('takes hand edits, tempo, markers and whole bars of meter along', () => {
    const { ids } = harbour([3840, 4320]);
    const edits = createStep('edits', { change: { [ids[1]]: { start: 4400 } } });
    const own = harbour([3840, 4320], [edits]);
    const begun: Session = {
      ...own.session,
      tempos: withTempo(withTempo([], 0, 90), 4320, 60),
      meters: [
        { tick: 0, numerator: 4, denominator: 4 },
        { tick: 3840, numerator: 3, denominator: 4 },
      ],
      markers: [{ id: 'm', tick: 4320, name: 'Quay' }],
    };
    const after = shiftedSession(begun, -3840, timelineOf(begun));
    expect([...own.notesOf(after).start]).toEqual([0, 560]);
    expect(after.tempos.map(({ tick }) => tick)).toEqual([0, 480]);
    expect(after.meters).toEqual([{ tick: 0, numerator: 3, denominator: 4 }]);
    expect(after.markers).toEqual([{ id: 'm', tick: 480, name: 'Quay' }]);
    // Locked to seconds it comes to lie on the same ticks, since the tempo goes along.
    const locked = own.put(begun, (part) => lockedPart(part, 'seconds', timelineOf(begun)));
    const bar = shiftedSession(locked, -1920, timelineOf(locked));
    expect([...own.notesOf(bar).start].map(Math.round)).toEqual(
      [...own.notesOf(locked).start].map((at) => Math.round(at - 1920)),
    );
  });
});
