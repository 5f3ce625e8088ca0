import fc from 'fast-check';
import { beginVelocityGesture } from './velocityGestures';
import { beginNoteGesture, spotAt } from './noteGestures';
import { velocityAtY, yOfVelocity } from './paintVelocities';
import { LAYOUT, at, pointer, recordingTarget, viewNotes } from '../testing/notes';

const FOUR = viewNotes([
  [0, 400, 60],
  [480, 880, 64],
  [960, 1360, 67],
  [960, 1200, 67, 40],
]);

/** Presses at one place, goes to another and lets go. */
function drag(
  setUp: ReturnType<typeof recordingTarget>,
  from: [number, number],
  to: [number, number],
  keys = {},
) {
  const gesture = beginNoteGesture(setUp.target, ...from, pointer(keys));
  gesture?.move(...to, pointer(keys));
  gesture?.end();
  return setUp;
}

describe('gestures on notes', () => {
  it('a drag moves what was pressed to the grid, in steps of keys, and sounds the new pitch', () => {
    const { log, selected } = drag(recordingTarget(FOUR), at(100, 60), at(100 + 250, 62));
    expect([...selected]).toEqual([0]);
    expect(log.done).toEqual([{ kind: 'move', ticks: 240, semitones: 2, copy: false }]);
    expect(log.sounds).toEqual([60, 62]);
    expect(log.previews.at(-1)).toBeNull();
  });

  it('Alt is free of the grid, Shift is ten times finer, Ctrl copies', () => {
    expect(drag(recordingTarget(FOUR), at(100, 60), at(350, 60), { alt: true }).log.done).toEqual([
      { kind: 'move', ticks: 250, semitones: 0, copy: false },
    ]);
    expect(drag(recordingTarget(FOUR), at(100, 60), at(500, 60), { shift: true }).log.done).toEqual([
      { kind: 'move', ticks: 40, semitones: 0, copy: false },
    ]);
    expect(drag(recordingTarget(FOUR), at(100, 60), at(340, 60), { ctrl: true }).log.done).toEqual([
      { kind: 'move', ticks: 240, semitones: 0, copy: true },
    ]);
  });

  it('moves all that is selected together, and never before the start of the music', () => {
    const setUp = recordingTarget(FOUR);
    setUp.target.select([0, 1], 'replace');
    drag(setUp, at(600, 64), at(-900, 64));
    expect(setUp.log.done).toEqual([]);
    expect([...setUp.selected]).toEqual([0, 1]);
  });

  it('trims at the ends and says so beforehand', () => {
    const end: [number, number] = [at(400, 60)[0] - 2, at(400, 60)[1]];
    expect(spotAt(recordingTarget(FOUR).target, ...end).edge).toBe('end');
    expect(drag(recordingTarget(FOUR), end, [at(720, 60)[0] - 2, end[1]]).log.done).toEqual([
      { kind: 'trim', edge: 'end', ticks: 320 },
    ]);
    const start: [number, number] = [at(480, 64)[0] + 1, at(480, 64)[1]];
    expect(drag(recordingTarget(FOUR), start, [at(600, 64)[0] + 1, start[1]]).log.done).toEqual([
      { kind: 'trim', edge: 'start', ticks: 120 },
    ]);
  });

  it('a click selects, a second click the note beneath, Shift adds and takes away', () => {
    const setUp = recordingTarget(FOUR);
    const click = (keys = {}) => beginNoteGesture(setUp.target, ...at(1100, 67), pointer(keys))?.end();
    click();
    const first = [...setUp.selected];
    click();
    const second = [...setUp.selected];
    click();
    expect([first, second, [...setUp.selected]]).toEqual([[3], [2], [3]]);
    beginNoteGesture(setUp.target, ...at(100, 60), pointer({ shift: true }))?.end();
    expect([...setUp.selected].sort()).toEqual([0, 3]);
    expect(setUp.log.done).toEqual([]);
  });

  it('a box selects what it touches, a click on empty ground nothing', () => {
    const setUp = drag(recordingTarget(FOUR), at(350, 66), at(1000, 59));
    expect([...setUp.selected].sort()).toEqual([0, 1]);
    drag(setUp, at(2000, 50), at(2000, 50));
    expect([...setUp.selected]).toEqual([]);
  });

  it('draws from the line before the pointer to the line it reaches, and erases what it rubs over', () => {
    const drawn = drag(recordingTarget(FOUR, { tool: () => 'draw' }), at(1940, 62), at(2380, 62));
    expect(drawn.log.done).toEqual([{ kind: 'draw', start: 1920, end: 2400, pitch: 62 }]);
    const dot = drag(recordingTarget(FOUR, { tool: () => 'draw' }), at(1940, 62), at(1941, 62));
    expect(dot.log.done).toEqual([{ kind: 'draw', start: 1920, end: 2040, pitch: 62 }]);
    const erased = drag(recordingTarget(FOUR, { tool: () => 'erase' }), at(100, 60), at(600, 64));
    expect(erased.log.done).toEqual([{ kind: 'erase', ids: [100, 101] }]);
  });

  it('changes nothing where nothing may be changed', () => {
    const readOnly = { mayEdit: () => false };
    expect(drag(recordingTarget(FOUR, readOnly), at(100, 60), at(600, 62)).log.done).toEqual([]);
    expect(
      drag(recordingTarget(FOUR, { ...readOnly, tool: () => 'erase' }), at(100, 60), at(600, 62)).log.done,
    ).toEqual([]);
  });

  it('always lands on a grid line when it snaps', () => {
    fc.assert(
      fc.property(fc.integer({ min: -400, max: 3000 }), (by) => {
        const [gesture] = drag(recordingTarget(FOUR), at(600, 64), at(600 + by, 64)).log.done;
        if (gesture?.kind === 'move') expect((480 + gesture.ticks) % 120).toBe(0);
      }),
    );
  });
});

describe('gestures in the velocities', () => {
  const velocities = (velocity: number) => yOfVelocity(velocity, LAYOUT);
  const x = (tick: number) => 46 + tick / 4;

  it('velocities and places are inverse', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 127 }), (velocity) =>
        expect(velocityAtY(yOfVelocity(velocity, LAYOUT), LAYOUT)).toBe(velocity),
      ),
    );
  });

  it('a head is dragged alone, or with all that is selected keeping their shape', () => {
    const alone = recordingTarget(FOUR);
    const one = beginVelocityGesture(alone.target, x(0) + 1, velocities(80), pointer());
    one?.move(x(0), velocities(100), pointer());
    one?.end();
    expect(alone.log.done).toEqual([{ kind: 'velocity', velocities: new Map([[100, 100]]) }]);
    const together = recordingTarget(
      viewNotes([
        [0, 10, 60, 80],
        [480, 490, 60, 60],
      ]),
    );
    together.target.select([0, 1], 'replace');
    const both = beginVelocityGesture(together.target, x(0) + 1, velocities(80), pointer());
    both?.move(x(0), velocities(90), pointer());
    both?.end();
    expect(together.log.done).toEqual([
      {
        kind: 'velocity',
        velocities: new Map([
          [100, 90],
          [101, 70],
        ]),
      },
    ]);
  });

  it('drawing across sets what it passes, Shift makes a straight ramp', () => {
    const notes = viewNotes([
      [0, 10, 60],
      [480, 490, 60],
      [960, 970, 60],
    ]);
    const drawn = recordingTarget(notes);
    const stroke = beginVelocityGesture(drawn.target, x(-30), velocities(120), pointer());
    stroke?.move(x(600), velocities(120), pointer());
    stroke?.end();
    expect(drawn.log.done).toEqual([
      {
        kind: 'velocity',
        velocities: new Map([
          [100, 120],
          [101, 120],
        ]),
      },
    ]);
    const ramped = recordingTarget(notes);
    const ramp = beginVelocityGesture(ramped.target, x(0), velocities(20), pointer({ shift: true }));
    ramp?.move(x(960), velocities(100), pointer({ shift: true }));
    ramp?.end();
    const [gesture] = ramped.log.done;
    expect(gesture.kind === 'velocity' && [...gesture.velocities.values()]).toEqual([20, 60, 100]);
  });

  it('a ramp over chords keeps how much softer each note is than the loudest of its chord', () => {
    const chords = viewNotes([
      [0, 10, 60, 80],
      [5, 10, 64, 60],
      [960, 970, 60, 30],
      [960, 970, 64, 90],
    ]);
    const ramped = recordingTarget(chords);
    const ramp = beginVelocityGesture(ramped.target, x(0), velocities(40), pointer({ shift: true }));
    ramp?.move(x(960), velocities(100), pointer({ shift: true }));
    ramp?.end();
    const [gesture] = ramped.log.done;
    expect(gesture.kind === 'velocity' && [...gesture.velocities.values()]).toEqual([40, 20, 40, 100]);
  });

  it('stems of a chord can be had one by one', () => {
    const chord = viewNotes([
      [0, 10, 60, 80],
      [0, 10, 64, 80],
      [0, 10, 67, 80],
    ]);
    const ids = [0, 1, 2].map((place) => {
      const setUp = recordingTarget(chord);
      const gesture = beginVelocityGesture(setUp.target, x(0) + 1 + place * 3, velocities(80), pointer());
      gesture?.move(x(0), velocities(90), pointer());
      gesture?.end();
      const [done] = setUp.log.done;
      return done.kind === 'velocity' ? [...done.velocities.keys()] : [];
    });
    expect(ids).toEqual([[100], [101], [102]]);
  });
});
