import { WINDOW } from '../testing/notes';
import { paintRuler } from './paintFrame';
import { paintNotes, paintOverlay } from './paintNotes';
import { paintSoundingKeys, soundingRows } from './paintSounding';
import { painted, inColour, notes, view } from '../testing/painting';
import type { Scene } from './scene';

describe('painting notes', () => {
  it('puts each at its tick and pitch, in the ink of the part, fainter when softer', () => {
    const bodies = inColour(painted(paintNotes), 'part2').filter(({ box }) => box[2] > 10);
    expect(bodies.map(({ box }) => box)).toEqual([
      [46, 180.5, 99, 5],
      [166, 140.5, 99, 5],
      [286, 110.5, 99, 5],
    ]);
    const [loud, middle, soft] = bodies.map(({ alpha }) => alpha);
    expect(loud).toBeGreaterThan(middle);
    expect(middle).toBeGreaterThan(soft);
  });

  it('outlines where a note ended that is shorter or longer now, and only that', () => {
    const ended = (traceEnd: number[]) =>
      painted(paintNotes, { view: { ...view, traceEnd: Float64Array.from(traceEnd) } })
        .strokes.filter(({ dashed }) => dashed)
        .map(({ box }) => [box[0], box[2]]);
    // The second was 40 ticks shorter at its end and began 40 ticks earlier: it kept its length.
    expect(ended([400, 840, 1360])).toEqual([]);
    expect(ended([400, 840, 1480])).toEqual([[46 + 1360 / 4 + 0.5, 29]]);
    expect(painted(paintNotes, { show: 'cleaned' }).strokes).toEqual([]);
  });

  it('tells in a band under each note, true to scale, where it was: a square for late, a ring for early', () => {
    // The second was 40 ticks early; 20 pixels late would be 80 ticks.
    const late = { ...view, traceStart: Float64Array.of(80, 440, 960) };
    const { fills, arcs } = painted(paintNotes, { view: late });
    const [line, square] = fills.filter(({ colour }) => colour === 'late').map(({ box }) => box);
    expect([line[0], line[2]]).toEqual([46, 20]);
    expect([square[0] + square[2], square[2], square[3]]).toEqual([66, 3, 3]);
    // Under the note, not over it.
    expect(square[1]).toBeGreaterThanOrEqual(180.5 + 5);
    const [[ring, , radius]] = arcs;
    expect(ring - radius).toBe(46 + 440 / 4);
    const reach = fills.filter(({ colour }) => colour === 'early').map(({ box }) => box[0] + box[2]);
    expect(reach).toEqual([166]);
  });

  it('leaves what is under two pixels to the ruler, which tells of nothing else', () => {
    const near = { ...view, traceStart: Float64Array.of(6, 480, 1100) };
    const marks = painted(paintNotes, { view: near });
    expect(inColour(marks, 'late').every(({ box }) => box[0] > 280)).toBe(true);
    const heat = inColour(painted(paintRuler, { view: near }), 'late');
    expect(heat.map(({ box }) => [box[0], box[2], box[3]])).toEqual([[46, 4, 2]]);
    // From farther away nothing bears a mark any more.
    const window = { ...WINDOW, ticksPerPixel: 80 };
    expect(inColour(painted(paintNotes, { view: near, window }), 'late')).toEqual([]);
    expect(inColour(painted(paintRuler, { view: near, window }), 'late')).toHaveLength(2);
  });

  it('lights what sounds, and its keys', () => {
    const sounding = soundingRows(notes, 500);
    expect(sounding).toEqual([1]);
    expect(inColour(painted(paintOverlay, { sounding }), 'part2').map(({ box }) => box[0])).toEqual([166.5]);
    expect(inColour(painted(paintSoundingKeys, { sounding }), 'part2').map(({ box }) => box[1])).toEqual([
      140.5,
    ]);
    expect(soundingRows(notes, 400)).toEqual([]);
  });

  it('keeps a ghost of what is dragged where it was, and tells the change at the pointer', () => {
    const selected = Uint8Array.of(0, 1, 0);
    const preview = { kind: 'move', ticks: 96, semitones: -1, copy: false, at: { x: 300, y: 200 } } as const;
    const ghost = painted(paintNotes, { selected, preview }).strokes.filter(({ dashed }) => dashed);
    expect(ghost.map(({ box }) => box[0])).toContain(166.5);
    const [told] = painted(paintOverlay, { selected, preview }).texts;
    expect(told.text).toBe('+96 ticks, +100 ms; −1 semitone');
    const trim = { kind: 'trim', edge: 'end', ticks: -100, at: { x: 300, y: 200 } } as const;
    expect(painted(paintOverlay, { selected, preview: trim }).texts[0].text).toBe('length 300');
  });

  it('frames selected notes, and shows where a drag or a stretch would put them', () => {
    const selected = Uint8Array.of(0, 1, 1);
    const frames = (more: Partial<Scene>) =>
      painted(paintNotes, { selected, ...more })
        .fills.filter(({ colour }) => colour === 'ink')
        .map(({ box }) => box);
    expect(frames({}).map(([x]) => x)).toEqual([163, 283]);
    expect(
      frames({ preview: { kind: 'move', ticks: 120, semitones: -1, copy: false } }).map(([x, y]) => [x, y]),
    ).toEqual([
      [193, 147.5],
      [313, 117.5],
    ]);
    expect(
      frames({
        preview: { kind: 'stretch', anchor: 480, factor: 2, x: 0, y: 0 },
        selectionSpan: { from: 480, to: 1360 },
      }).map(([x, , width]) => [x, width]),
    ).toEqual([
      [163, 205],
      [403, 205],
    ]);
  });

  it('shows a stretch at its grip with its factor', () => {
    const selectionSpan = { from: 480, to: 1360 };
    expect(inColour(painted(paintOverlay, { selectionSpan }), 'ink')[0].box).toEqual([46 + 340, 60, 1, 500]);
    const dragged = painted(paintOverlay, {
      selectionSpan,
      preview: { kind: 'stretch', anchor: 480, factor: 1.5, x: 0, y: 0 },
    });
    expect(dragged.texts).toMatchObject([{ text: '× 1.5', x: 46 + 450 + 12, y: 71 }]);
  });

  it('lights the notes of a step by veiling the others', () => {
    const lit = painted(paintOverlay, { lit: Uint8Array.of(1, 0, 0), litStep: 's' });
    expect(
      lit.fills.filter(({ colour, alpha }) => colour === 'sheet' && alpha < 1).map(({ box }) => box[0]),
    ).toEqual([165, 285]);
    expect(lit.strokes.map(({ box }) => box[0])).toEqual([45.5]);
  });

  it('shows how far the pedal lets notes ring on', () => {
    const rings = Float64Array.of(1000, 880, 1364);
    const pale = inColour(painted(paintNotes, { view: { ...view, rings } }), 'part2').filter(
      ({ box }) => box[3] === 3,
    );
    expect(pale.map(({ box }) => box)).toEqual([[146, 183.5, 150, 3]]);
  });

  it('draws doubles that were left out as boxes where they lay, unless only what is cleaned is shown', () => {
    const dropped = { start: Float64Array.of(480), end: Float64Array.of(960), pitch: Uint8Array.of(60) };
    const boxes = (more: Partial<Scene>) =>
      painted(paintNotes, { view: { ...view, dropped }, ...more }).strokes.filter(
        ({ box }) => box[2] === 119,
      );
    expect(boxes({}).map(({ box }) => box[0])).toEqual([46 + 480 / 4 + 0.5]);
    expect(boxes({ show: 'cleaned' })).toEqual([]);
  });

  it('marks the stroke an aligned note is pulled toward', () => {
    const pulledTo = Float64Array.of(NaN, 520, NaN);
    const { lines } = painted(paintNotes, { view: { ...view, pulledTo } });
    const x = 46 + 520 / 4;
    expect(lines).toContainEqual([x, 137]);
    expect(lines).toContainEqual([x, 153]);
    expect(lines).toContainEqual([46 + 440 / 4, 153]);
  });
});
