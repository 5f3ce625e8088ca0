import {
  chartOf,
  compareNotes,
  CHART_KINDS,
  gridAdviceOf,
  gridReadingsOf,
  harmonyOf,
  likelyGrid,
  latenessStrip,
  measureNotes,
  overlapsBetween,
  overlapsWithin,
  partFacts,
  readChanges,
  readMoves,
  readPart,
  suggestionFor,
} from '../analysis';
import { labelsOf, handLineOf } from '../assembly';
import { alongEdits, clipsOf, collisionsOf, joinNotes, layClips } from '../editing';
import { OrdleError } from '../errors';
import {
  checkExport,
  chosenParts,
  cleanFile,
  createEvaluator,
  exportSession,
  foldSteps,
  originsAt,
} from '../evaluate';
import { fileFindings } from '../findings';
import { mergeFiles, readBars, separateFile } from '../merging';
import { readMidi, writeMidi, type MidiFile } from '../midi';
import { noteAt, type NoteTable, type Take } from '../model';
import { listOf, sessionOfFile, timelineOf } from '../session';
import { applyStep, createStep } from '../steps';
import { findBeats } from '../tempo';
import { barsOfLoop, bestMatch, compareTakes, passesOf } from '../takes';
import { STEPS_OF_EVERY_KIND, crowdTrack, farTrack } from './extremes';
import { trackOf } from './files';

const fileWith = (events: Parameters<typeof trackOf>[0], ticksPerQuarter = 480): MidiFile =>
  readMidi(
    writeMidi({ format: 0, division: { kind: 'metrical', ticksPerQuarter }, tracks: [trackOf(events)] }),
  ).file;

const FILES: Record<string, () => MidiFile> = {
  '20,000 notes at one tick': () => fileWith(crowdTrack(20_000, 960, 40)),
  '20,000 strokes of one pitch at one tick': () => fileWith(crowdTrack(20_000, 960, 1)),
  'the longest gap there can be': () => fileWith(farTrack()),
  'the longest gap, a tick a quarter': () => fileWith(farTrack(), 1),
};

const open = (file: MidiFile) => {
  let next = 0;
  const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
  const takeOf = (key: string) => takes.find((take) => take.key === key) as Take;
  const evaluator = createEvaluator(takeOf);
  const timeline = timelineOf(session);
  const [part] = listOf(session.parts);
  const { stages, assembly } = evaluator.evaluate(part, session, timeline);
  return { session, takeOf, evaluator, timeline, part, stages, assembly, notes: stages[0].notes };
};

type Opened = ReturnType<typeof open>;
const all = (notes: NoteTable) => Array.from(notes.id.keys(), (row) => noteAt(notes, row));

/** What is asked of a part. Each must come to an end soon, whatever is asked about; the test's own time limit tells. */
const QUESTIONS: Record<string, (of: Opened) => unknown> = {
  'grid advice': ({ notes, timeline }) => gridAdviceOf(notes, timeline),
  'grid readings': ({ notes, timeline }) => gridReadingsOf(notes, timeline),
  'likely grid': ({ notes, timeline }) => likelyGrid(notes, timeline),
  chords: ({ notes, timeline }) => harmonyOf([notes], timeline),
  facts: ({ notes, timeline, stages }) => partFacts(notes, timeline, stages[0].events),
  reading: ({ notes, timeline }) => readPart(notes, '1/16', timeline),
  overlaps: ({ notes }) => overlapsWithin(notes).length,
  'overlaps between parts': ({ notes }) => overlapsBetween(notes, notes).length,
  comparison: ({ notes, timeline }) => compareNotes(notes, notes, timeline),
  charts: ({ stages, timeline }) => {
    const measured = measureNotes(stages[0], { grids: ['1/16'], swing: 50 }, timeline);
    return CHART_KINDS.map((kind) => chartOf(kind, measured, measured));
  },
  'moves and lateness': ({ notes, timeline }) => {
    const step = createStep('quantize', { grid: '1/16' });
    return [readMoves(notes, notes, step, timeline), latenessStrip(notes.start, notes.start, 1e9, 600)];
  },
  'a suggestion': ({ part, stages, timeline }) =>
    suggestionFor(stages[0], [], { timeline, isDrums: part.sound.drums }),
  changes: ({ stages }) => readChanges(stages[0], stages[0]),
  'voices and hands': ({ notes, timeline }) => [
    labelsOf('voice', notes, timeline),
    labelsOf('hand', notes, timeline),
    handLineOf(notes, timeline),
  ],
  beats: ({ notes, timeline }) => findBeats(notes, timeline.tempo),
  bars: ({ notes, timeline }) => readBars(notes, '1/16', timeline),
  'takes compared': ({ notes, timeline }) => [
    compareTakes([notes, notes], '1/16', 100, timeline),
    bestMatch(notes, notes, timeline),
  ],
  passes: ({ notes, timeline }) => [barsOfLoop(notes, '1/16', timeline), passesOf],
  'notes with their controllers': ({ notes, stages }) => {
    const { events } = stages[0];
    const ids = new Set([...notes.id].filter((_, row) => row % 2 === 0));
    alongEdits(events, notes, ids, { kind: 'move', ticks: 100 } as never, 0);
    const clips = clipsOf(events, notes, ids, 0);
    return layClips(events, clips, 5000, 0);
  },
  collisions: ({ notes }) => collisionsOf(notes, new Uint8Array(notes.length).fill(1), false),
  joining: ({ notes }) => joinNotes(all(notes)),
  'where notes came from': ({ stages }) => originsAt([stages[0], stages[0]], 1),
  'a check before export': ({ session, evaluator, takeOf }) =>
    checkExport(
      chosenParts(session, { version: 'cleaned', parts: session.parts.order }, evaluator),
      { format: 1 },
      evaluator,
      takeOf,
    ),
  'an export with overlaps cut': ({ session, evaluator, takeOf }) =>
    writeMidi(
      exportSession(
        session,
        { format: 1, version: 'cleaned', overlaps: 'cut', parts: session.parts.order },
        evaluator,
        takeOf,
      ),
    ),
  'making permanent': ({ part, session, stages, assembly }) =>
    foldSteps(part, session, { stages, assembly }, 0, 0),
};

const ON_FILES: Record<string, (file: MidiFile) => unknown> = {
  findings: (file) => fileFindings(file).findings.length,
  'findings mended': (file) => writeMidi(fileFindings(file).mended()),
  'separating by voice': (file) => separateFile(file, 'voice').length,
  'separating by hand': (file) => separateFile(file, 'hand').length,
  'layers of two': (file) =>
    mergeFiles([{ name: 'a', file }, { name: 'b', file }], { mode: 'layer', doubles: { keep: 'louder', withinMs: 30 } }), // prettier-ignore
  'end to end': (file) => mergeFiles([{ name: 'a', file }, { name: 'b', file }], { mode: 'join' }), // prettier-ignore
  'the tightest': (file) =>
    mergeFiles([{ name: 'a', file }, { name: 'b', file }], { mode: 'tightest', grid: '1/16', penaltyMs: 2, missingMs: 1 }), // prettier-ignore
};

/** Steps refuse what would make too much; then they say so, and soon. */
const orRefused = (work: () => unknown) => {
  try {
    work();
  } catch (error) {
    if (!(error instanceof OrdleError)) throw error;
  }
};

describe.each(Object.keys(FILES))('%s', (name) => {
  let file: MidiFile;
  let opened: Opened;
  beforeAll(() => {
    file = FILES[name]();
    opened = open(file);
  });
  it.each(
    STEPS_OF_EVERY_KIND.map(
      (step) => [`${step.kind} ${'op' in step ? step.op : ''} ${JSON.stringify(step.where)}`, step] as const,
    ),
  )('is cleaned by %s', (_, step) => {
    orRefused(() => {
      const { stages, timeline, part, evaluator, session } = opened;
      const beside = () => evaluator.aloneBeside(part, session, timeline).map(({ material }) => material);
      const otherPart = () => stages[0].notes;
      const made = applyStep(stages[0], step, { timeline, isDrums: false, channel: 0, otherPart, beside });
      expect(made.notes.start.every((tick, row, all) => row === 0 || all[row - 1] <= tick)).toBe(true);
    });
  });

  it('is cleaned whole, by all of them that move notes, and can be read again', () => {
    orRefused(() => {
      const cleaned = cleanFile(file, STEPS_OF_EVERY_KIND.slice(0, 6)).file;
      expect(readMidi(writeMidi(cleaned)).file.tracks).toHaveLength(file.tracks.length);
    });
  });

  it.each(Object.keys(QUESTIONS))('is asked for %s', (question) => {
    orRefused(() => expect(QUESTIONS[question](opened)).toBeDefined());
  });

  it.each(Object.keys(ON_FILES))('as a file: %s', (question) => {
    orRefused(() => expect(ON_FILES[question](file)).toBeDefined());
  });
});
