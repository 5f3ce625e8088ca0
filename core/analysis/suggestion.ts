import type { Material, NoteTable } from '../model';
import { applyStep, createStep, type QuantizeStep, type Step, type StepContext } from '../steps';
import { nameOfNoteValue, type Timeline } from '../time';
import { latenessOfPlaces, playingOf, stepMsOf, type Playing } from './playing';
import { latenessStrip, type LatenessStrip } from './trouble';
import { momentsOf } from './deviations';
import type { Measured } from './measured';
import { playedStrokes, strokePlaces } from './strokes';

/** How the strokes of a part lie against their lines, in ms: root mean square, mean, deviation about the mean. */
export interface LieOfStrokes {
  offMs: number;
  biasMs: number;
  spreadMs: number;
}

/** How the strokes of a part lie before and after some steps, in figures and along the part. */
export interface LieWithSteps {
  before: LieOfStrokes;
  after: LieOfStrokes;
  /** The most late and early in each stretch of the part, in ms; null where nothing can be told. */
  picture: { before: LatenessStrip; after: LatenessStrip } | null;
}

/** What is advised for a part: steps to put at the end of its line, why, and what they would make of it. */
export interface Suggestion extends LieWithSteps {
  /** None where nothing helps, or something else has to be done first, which the reason says. */
  steps: Step[];
  /** Why, one for each step; without steps, why there are none. */
  reasons: string[];
  /** It keeps to no bars of the session: its beats are to be found first. */
  isFree: boolean;
}

/** Fewer notes tell nothing about a habit. */
const LEAST_NOTES = 8;
/** A habit of being late or early below this, in ms, is left to the quantize that follows. */
const LEAST_HABIT_MS = 6;
/** A part that is tight is moved as a whole where it is off by as much as this, in ms: a latency. */
const LEAST_SHIFT_MS = 8;
/** Tighter than this nobody hears the rest, in ms. */
const TIGHT_MS = 4;
/** A grid that explains less of a part than this is not what it was played to. */
const LEAST_FIT = 0.28;
/** Strength of the pull: what is left of the playing keeps it alive (common practice: 75 to 85 %). */
const STRENGTH = 80;
/** So many strokes must be chords for a chord to be kept together. */
const CHORD_SHARE = 0.03;
/** Steps that put notes in time: where a line has one, a second is nothing to advise unasked. */
const PUTS_IN_TIME = new Set<Step['kind']>(['quantize', 'groove', 'align', 'pulse', 'humanize', 'layout']);

const NOTHING: LieOfStrokes = { offMs: 0, biasMs: 0, spreadMs: 0 };
const none = (reason: string, lie?: LieWithSteps, isFree = false): Suggestion => ({
  steps: [],
  reasons: [reason],
  ...(lie ?? { before: NOTHING, after: NOTHING, picture: null }),
  isFree,
});

/**
 * What would clean a part up, by how it is played after its steps: it changes nothing by itself. Chords go as one, by
 * the note of them that the player puts on the beat, rolls and strums keep their spread, grace notes go with the notes
 * they lead to, swing stays swing, and bars of triplets have a grid of their own. Null where a step of the line puts
 * the part in time already.
 */
export function suggestionFor(
  material: Material,
  standing: readonly Step[],
  context: Pick<StepContext, 'timeline' | 'isDrums' | 'written'>,
): Suggestion | null {
  const { timeline, isDrums } = context;
  const { notes } = material;
  if (standing.some(({ kind, on }) => on && PUTS_IN_TIME.has(kind))) return null;
  if (notes.length < LEAST_NOTES) return none('too few notes to tell how they are played');
  const playing = playingOf(notes, isDrums, timeline);
  if (!playing) return none('too few notes to tell how they are played');
  const lie = lieBetween(playing, playing.places, timeline);
  const { before } = lie;
  const grid = gridInWords(playing);
  const isTight = before.spreadMs < TIGHT_MS;
  if (!isTight && isWritten(playing.places, timeline))
    return none('it was written rather than played: its notes lie on fine lines already', lie);
  if (playing.fit < LEAST_FIT)
    return none('it does not follow the bars of this session: find its beats first', lie, true);
  if (isTight && Math.abs(before.biasMs) < LEAST_SHIFT_MS)
    return none(`it is tight already, ${Math.round(before.spreadMs)} ms about ${grid}`, lie);
  const steps: Step[] = [];
  const reasons: string[] = [];
  if (Math.abs(before.biasMs) >= LEAST_HABIT_MS) {
    steps.push(createStep('nudge', { ms: -Math.round(before.biasMs) }));
    reasons.push(`it is ${lateInWords(before.biasMs)} on average`);
  }
  const stepMs = stepMsOf(playing.grid, notes, timeline);
  const kept = keptInWords(playing, isDrums);
  (isTight ? [] : quantizesFor(playing, isDrums, stepMs)).forEach((step, at) => {
    steps.push(step);
    const where = `${gridOfStep(step)}${barsInWords(step)}`;
    reasons.push(
      at === 0
        ? `uneven by ${Math.round(before.spreadMs)} ms against ${where}${kept}`
        : `it is played to ${where}`,
    );
  });
  return { steps, reasons, ...afterSteps(playing, material, steps, context), isFree: false };
}

/** Whether notes keep to the bars of a session, as far as they are enough to tell. */
export function followsBars(notes: NoteTable, isDrums: boolean, timeline: Timeline): boolean {
  if (notes.length < LEAST_NOTES) return true;
  const playing = playingOf(notes, isDrums, timeline);
  return !playing || playing.fit >= LEAST_FIT || isWritten(playing.places, timeline);
}

/**
 * How the strokes of a part lie before and after some steps at the end of its line, against the lines it is played to
 * before them. Null with fewer than two notes.
 */
export function lieWithSteps(
  material: Material,
  steps: readonly Step[],
  context: Pick<StepContext, 'timeline' | 'isDrums' | 'written'>,
): LieWithSteps | null {
  const playing = playingOf(material.notes, context.isDrums, context.timeline);
  return playing && afterSteps(playing, material, steps, context);
}

function afterSteps(
  playing: Playing,
  material: Material,
  steps: readonly Step[],
  context: Pick<StepContext, 'timeline' | 'isDrums' | 'written'>,
): LieWithSteps {
  const { timeline, isDrums } = context;
  const cleaned = steps.reduce((input, step) => applyStep(input, step, context), material);
  const stepMs = stepMsOf(playing.grid, material.notes, timeline);
  const strokes = playedStrokes(cleaned.notes, isDrums, timeline, stepMs);
  return lieBetween(playing, strokePlaces(strokes, playing.habit).slice().sort(), timeline);
}

/** Stretches of the picture of a part. */
const PICTURE_BINS = 40;

/** How strokes lie at the places they are played at, and at others, in ticks. */
function lieBetween(playing: Playing, places: Float64Array, timeline: Timeline): LieWithSteps {
  const end = (playing.places[playing.places.length - 1] ?? 0) + 1;
  const [before, after] = [playing.places, places].map((at) => {
    const late = Float64Array.from(latenessOfPlaces({ ...playing, places: at }, timeline));
    return { lie: lieOfLateness(late), strip: latenessStrip(at, late, end, PICTURE_BINS) };
  });
  return {
    before: before.lie,
    after: after.lie,
    picture: { before: before.strip, after: after.strip },
  };
}

/**
 * Lines a quarter that writers use, down to 1/64 and 1/32T; what lies on them to less than this, in ticks, was
 * written.
 */
const [FINE_LINES, ON_LINE] = [[16, 24], 0.51];
/** So many of all places, where as many would not lie there by chance. */
const WRITTEN_SHARE = 0.6;
const MOST_BY_CHANCE = 0.35;

/** Whether places were put there by a program or a pencil: most lie on fine lines to the tick. */
function isWritten(places: Float64Array, { ticksPerQuarter }: Timeline): boolean {
  const steps = FINE_LINES.map((lines) => ticksPerQuarter / lines);
  if (steps.reduce((sum, step) => sum + (2 * ON_LINE) / step, 0) > MOST_BY_CHANCE) return false;
  const isOn = (tick: number) =>
    steps.some((step) => Math.abs(tick - step * Math.round(tick / step)) < ON_LINE);
  return places.reduce((count, tick) => count + (isOn(tick) ? 1 : 0), 0) >= WRITTEN_SHARE * places.length;
}

const lateInWords = (ms: number) => `${Math.round(Math.abs(ms))} ms ${ms > 0 ? 'late' : 'early'}`;
const gridInWords = ({ grid, swing }: Pick<Playing, 'grid' | 'swing'>) =>
  `${nameOfNoteValue(grid)}${swing === 50 ? '' : `, swing ${swing} %`}`;
const gridOfStep = ({ grid, swing }: QuantizeStep) => gridInWords({ grid: String(grid), swing });
/** The bars of a step, the last of which is the one before the second that it names. */
const barsInWords = ({ where: { bars } }: QuantizeStep) =>
  !bars ? '' : bars[1] - bars[0] === 1 ? ` in bar ${bars[0]}` : ` in bars ${bars[0]} to ${bars[1] - 1}`;

function keptInWords({ strokes, habit, swing }: Playing, isDrums: boolean): string {
  const kept = [
    ...(isDrums && strokes.graces > 0 ? ['flams'] : []),
    ...(!isDrums && hasChords(strokes) ? [strokes.widestMs > 30 ? 'rolls' : 'the spread of chords'] : []),
    ...(!isDrums && strokes.graces > 0 ? ['grace notes'] : []),
    ...(swing === 50 ? [] : ['its swing']),
  ];
  const words = kept.length > 0 ? `; ${kept.join(', ')} kept` : '';
  return !isDrums && hasChords(strokes) && habit !== 'first'
    ? `${words}, chords by their ${habit} note`
    : words;
}

const hasChords = ({ chords, length }: Playing['strokes']) => chords > CHORD_SHARE * length;

/** The pull to the grid, or one for each stretch of bars that has a grid of its own. */
function quantizesFor(
  { strokes, habit, grid, swing, byBars }: Playing,
  isDrums: boolean,
  stepMs: number,
): QuantizeStep[] {
  const isRolled = !isDrums && hasChords(strokes);
  // Wide enough for the widest chord, and not for two strokes of the grid.
  const chordMs = Math.max(30, Math.min(Math.ceil(strokes.widestMs) + 8, Math.floor(0.6 * stepMs)));
  const common = {
    strength: STRENGTH,
    ...(isRolled && { chords: 'spread' as const, chordMs }),
    ...(isRolled && habit !== 'first' && { chordOn: habit }),
    ...(!isDrums && strokes.graces > 0 && { keepGraces: true }),
  };
  const quantize = (more: object) => createStep('quantize', { ...common, ...more }) as QuantizeStep;
  if (byBars.length === 0) return [quantize({ grid, swing })];
  return byBars.map(({ grid: own, bars }) =>
    quantize({ grid: own, where: { bars: [bars[0], bars[1] + 1] } }),
  );
}

export function lieOfLateness(late: Float64Array): LieOfStrokes {
  if (late.length === 0) return NOTHING;
  const { mean, deviation } = momentsOf(late);
  return { biasMs: mean, spreadMs: deviation, offMs: Math.hypot(mean, deviation) };
}

/** Mean lateness and standard deviation about it, in ms and in ticks. */
export function lieOf({ lateMs, lateTicks }: Pick<Measured, 'lateMs' | 'lateTicks'>) {
  const [ms, ticks] = [momentsOf(lateMs), momentsOf(lateTicks)];
  return {
    biasMs: ms.mean,
    spreadMs: ms.deviation,
    biasTicks: ticks.mean,
    spreadTicks: ticks.deviation,
  };
}
