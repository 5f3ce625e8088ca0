import {
  applyStep,
  createEventBuilder,
  createGrid,
  createStep,
  createTimeline,
  kindOf,
  noteTableOf,
  pointsOf,
  readLane,
  writeLanes,
  type LanePoints,
  type Note,
  type NoteTable,
  type Step,
} from '@ordle/core';

/** One bar of made-up music and a step over it. */
interface Example {
  notes: Partial<Note>[];
  step: Step;
  isDrums?: boolean;
  /** Strokes of another part. */
  strokes?: number[];
  /** Where each note is written, in ticks, by its row; undefined for one that is written nowhere. */
  written?: (number | undefined)[];
  /** A lane drawn below in place of the velocities, and its points. */
  lane?: { name: string; points: [tick: number, value: number][] };
}

const note = (start: number, length: number, pitch: number, velocity = 80) => ({
  start,
  end: start + length,
  pitch,
  velocity,
});

/** A played bar at 480 ticks a quarter: late, early, a rolled chord, and a last note that drags. */
const PLAYED = [
  note(28, 210, 60, 84),
  note(262, 160, 64, 62),
  note(455, 230, 67, 96),
  note(748, 150, 64, 58),
  note(955, 420, 60, 90),
  note(972, 410, 64, 78),
  note(990, 400, 67, 82),
  note(1472, 200, 72, 100),
  note(1730, 120, 71, 66),
];

/** A swell of expression with the small unevenness of a foot. */
const SWELL = Array.from({ length: 64 }, (_, step): [number, number] => [
  step * 30,
  Math.round(60 + 45 * Math.sin(step / 14) + 3 * Math.sin(step * 2.3)),
]);

const EXAMPLES: Example[] = [
  { notes: PLAYED, step: createStep('quantize', { grid: '1/8', strength: 80, chords: 'spread' }) },
  {
    notes: PLAYED,
    step: createStep('align', { to: 'kit', strength: 100 }),
    strokes: [0, 240, 480, 960, 1440],
  },
  {
    notes: PLAYED,
    step: createStep('score', { strength: 100, pitches: true }),
    written: [0, 240, 480, 720, 960, 960, 960, 1440, undefined],
  },
  {
    notes: PLAYED,
    step: createStep('pulse', { beats: [[0.06, 0], [1, 1], [1.99, 2], [3.07, 3]] }), // prettier-ignore
  },
  { notes: PLAYED, step: createStep('nudge', { ticks: -28 }) },
  { notes: PLAYED.slice(0, 4), step: createStep('stretch', { factor: 2 }) },
  {
    notes: PLAYED,
    step: createStep('layout', {
      blocks: [{ from: 0, to: 1.8, at: 0, times: 2, stretch: 1, held: 'cut' }],
    }),
  },
  { notes: PLAYED, step: createStep('groove', { groove: 'eighth swing', straighten: 100 }) },
  { notes: PLAYED, step: createStep('humanize', { timingMs: 18, lengthPct: 10, drift: 50, seed: 4 }) },
  { notes: PLAYED, step: createStep('transpose', { degrees: 2, key: 'C major' }) },
  { notes: PLAYED, step: createStep('velocity', { ramp: { from: 30, to: 120 } }) },
  { notes: PLAYED, step: createStep('length', { legato: { gapTicks: 0 } }) },
  {
    notes: PLAYED,
    step: createStep('curve', { op: 'thin', lane: 'cc11', tolerance: 6 }),
    lane: { name: 'cc11', points: SWELL },
  },
  {
    notes: PLAYED,
    step: createStep('pedal', { op: 'repedal', by: 'harmony' }),
    lane: { name: 'cc64', points: [[100, 127], [700, 0], [760, 127], [1850, 0]] }, // prettier-ignore
  },
  {
    notes: [...PLAYED, note(500, 60, 67, 30), note(1500, 12, 65, 20)],
    step: createStep('remove', { shorterThanMs: 25, doublesWithinMs: 60 }),
  },
  {
    notes: PLAYED,
    step: createStep('edits', {
      change: { '7': { pitch: 69, start: 1440, end: 1680 } },
      delete: [8],
      add: [{ id: 100, start: 1680, end: 1900, pitch: 64, velocity: 80, channel: 1 }],
    }),
  },
];

const timeline = createTimeline(
  { kind: 'metrical', ticksPerQuarter: 480 },
  [{ tick: 0, microsecondsPerQuarter: 500000 }],
  [],
);
const WIDTH = 640;
const ROW = 9;
const LANE = 44;
const SPAN = 1920;
/** Colours that hold on a light and on a dark page. */
const INK = '#3d55a0';
const TRACE = '#8a8172';
const RULE = '#8a817266';
const ACCENT = '#b5391f';

/**
 * File name and SVG of a picture for every kind of step: as it was in outline, as it became filled, velocities below.
 */
export function stepPictures(): Map<string, string> {
  return new Map(EXAMPLES.map((example) => [`${example.step.kind}.svg`, pictureOf(example)]));
}

function pictureOf({ notes, step, isDrums = false, strokes, written, lane }: Example): string {
  const before = noteTableOf(notes.map((each, id) => ({ id, ...each })));
  const other = strokes ? noteTableOf(strokes.map((start) => ({ start, end: start + 30 }))) : null;
  const targetOf = (id: number) => {
    const start = written?.[id];
    return start === undefined ? undefined : { start, end: start + 240, pitch: before.pitch[id] };
  };
  const context = {
    timeline,
    isDrums,
    otherPart: () => other,
    written: () => ({ targetOf, isPlayed: () => true, missing: [] }),
  };
  const played = writeLanes(
    createEventBuilder().build(),
    lane
      ? [
          {
            lane: lane.name,
            channel: 0,
            points: pointsOf(lane.points.map(([tick, value]) => ({ tick, value }))),
          },
        ]
      : [],
  );
  const { notes: after, events } = applyStep({ notes: before, events: played }, step, context);
  const pitches = [...before.pitch, ...after.pitch];
  const [low, high] = [Math.min(...pitches) - 1, Math.max(...pitches) + 1];
  const roll = (high - low + 1) * ROW;
  const x = (tick: number) => round((tick / SPAN) * (WIDTH - 20) + 10);
  const y = (pitch: number) => (high - pitch) * ROW;
  const width = (start: number, end: number) => round(Math.max(2, ((end - start) / SPAN) * (WIDTH - 20) - 1));
  const rows = (table: NoteTable, draw: (row: number) => string) =>
    Array.from({ length: table.length }, (_, row) => draw(row)).join('\n');
  const stem = (table: NoteTable, row: number, shift: number, look: string) =>
    `<path d="M${x(table.start[row]) + shift} ${roll + LANE}v${round((-table.velocity[row] / 127) * (LANE - 4))}" ${look}/>`;
  const traces = rows(
    before,
    (row) =>
      `<rect x="${x(before.start[row])}" y="${y(before.pitch[row]) + 1.5}" width="${width(before.start[row], before.end[row])}" height="${ROW - 3}" fill="none" stroke="${TRACE}" stroke-dasharray="3 2"/>`,
  );
  const results = rows(
    after,
    (row) =>
      `<rect x="${x(after.start[row])}" y="${y(after.pitch[row]) + 1}" width="${width(after.start[row], after.end[row])}" height="${ROW - 2}" fill="${INK}" fill-opacity="0.85"/>`,
  );
  const level = (value: number) => roll + LANE - round((value / 127) * (LANE - 4));
  /** The lane as it holds: each value until the next. */
  const held = (points: LanePoints, look: string) =>
    `<path d="${Array.from(points.tick, (tick, row) => `${row === 0 ? 'M' : 'H'}${x(tick)}${row === 0 ? ' ' : 'V'}${level(points.value[row])}`).join('')}H${x(SPAN)}" fill="none" ${look}/>`;
  const dots = (points: LanePoints) =>
    Array.from(
      points.tick,
      (tick, row) => `<circle cx="${x(tick)}" cy="${level(points.value[row])}" r="2" fill="${INK}"/>`,
    ).join('');
  const curves = lane
    ? [
        held(readLane(played, lane.name, 0), `stroke="${TRACE}" stroke-dasharray="3 2"`),
        held(readLane(events, lane.name, 0), `stroke="${INK}"`),
        dots(readLane(events, lane.name, 0)),
      ].join('\n')
    : '';
  const heights = [
    rows(before, (row) => stem(before, row, 0, `stroke="${TRACE}" stroke-dasharray="3 2"`)),
    rows(after, (row) => stem(after, row, 1.5, `stroke="${INK}" stroke-width="2"`)),
  ].join('\n');
  const marks = (strokes ?? [])
    .map((tick) => `<path d="M${x(tick)} 0v${roll}" stroke="${ACCENT}"/>`)
    .join('\n');
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${roll + LANE + 2}" width="${WIDTH}" role="img">
<title>${kindOf(step.kind).title}: ${kindOf(step.kind).describe(step)}. Dashed: before. Filled: after.</title>
${gridLines(step, x, roll)}
<path d="M0 ${roll}H${WIDTH}M0 ${roll + LANE}H${WIDTH}" stroke="${TRACE}"/>
${[marks, results, traces, lane ? curves : heights].filter(Boolean).join('\n')}
</svg>
`;
}

/** The lines of the step's own grid, else of eighths; beats stronger. */
function gridLines(step: Step, x: (tick: number) => number, height: number): string {
  const value = step.kind === 'quantize' && !Array.isArray(step.grid) ? step.grid : '1/8';
  const [step8] = createGrid(timeline.meter, [value]).steps;
  return Array.from({ length: Math.round(SPAN / step8) + 1 }, (_, line) => {
    const tick = line * step8;
    return `<path d="M${x(tick)} 0V${height}" stroke="${tick % 480 === 0 ? TRACE : RULE}" stroke-width="0.75"/>`;
  }).join('\n');
}

const round = (value: number) => Math.round(value * 10) / 10;
