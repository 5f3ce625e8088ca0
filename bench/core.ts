import { parseMidi } from 'midi-file';
import { read as peerRead, write as peerWrite } from 'midifile-ts';
import {
  CHART_KINDS,
  chartOf,
  measureNotes,
  orderedOf,
  readPart,
  timelineOf,
  listOf,
  applyStep,
  cleanFile,
  createEvaluator,
  createStep,
  createTimeline,
  noteTableOf,
  readMidi,
  sessionOfFile,
  writeMidi,
  type CurveStep,
  type Part,
  type QuantizeStep,
  type Session,
} from '@ordle/core';
import { createDocumentSender } from '@/engine/documentCopy';
import { largeFile, largeLane } from './corpus';

/** One line of the benchmark's table. `reach` says what architecture.md asks for, `met` whether it was met. */
export interface BenchRow {
  work: string;
  ours: string;
  peer: string;
  reach: string;
  met: boolean;
}

/** Median of some timings in milliseconds. */
export function medianTime(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const begun = performance.now();
    work();
    return performance.now() - begun;
  });
  return times.sort((a, b) => a - b)[runs >> 1];
}

const ms = (value: number) => `${value.toFixed(value < 20 ? 1 : 0)} ms`;

/** Reading and writing 1,000,000 notes beside the peers, in this one run. */
export function benchCodec(): BenchRow[] {
  const bytes = writeMidi(largeFile(1_000_000));
  const plain = Array.from(bytes);
  void plain;
  const read = medianTime(5, () => readMidi(bytes));
  const peer = medianTime(3, () => parseMidi(bytes));
  const { file } = readMidi(bytes);
  const write = medianTime(5, () => writeMidi(file));
  const other = peerRead(bytes);
  const peerWriting = medianTime(3, () => peerWrite(other.tracks, other.header.ticksPerBeat));
  return [
    {
      work: `read 1,000,000 notes (${(bytes.length / 1e6).toFixed(2)} MB)`,
      ours: ms(read),
      peer: `midi-file ${ms(peer)}`,
      reach: 'a third of the peer',
      met: read <= peer / 3,
    },
    {
      work: 'write 1,000,000 notes',
      ours: ms(write),
      peer: `midifile-ts ${ms(peerWriting)}`,
      reach: 'a quarter of the peer',
      met: write <= peerWriting / 4,
    },
  ];
}

/** Eight steps over 100,000 notes: cold, and with only the last step changed. */
export function benchEvaluation(): BenchRow[] {
  const { session, takes } = sessionOfFile(largeFile(100_000), 'bench', () => 'id', 0);
  const timeline = createTimeline(session.division, session.tempos, session.meters);
  const steps: QuantizeStep[] = Array.from({ length: 8 }, (_, index) =>
    createStep('quantize', {
      grid: index % 2 ? '1/16' : '1/8T',
      strength: 20 + index,
      swing: index % 2 ? 55 : 50,
    }),
  );
  const partWith = (list: QuantizeStep[]): Part => ({
    ...listOf(session.parts)[0],
    steps: orderedOf(list.map((step, index) => ({ id: `s${index}`, step }))),
  });
  const layers = listOf(session.parts)[0].layers;
  const evaluator = createEvaluator(() => takes[0]);
  evaluator.evaluate({ ...listOf(session.parts)[0], layers }, session, timeline);
  const cold = medianTime(9, () =>
    evaluator.evaluate(partWith(steps.map((step) => ({ ...step }))), session, timeline),
  );
  const base = steps.map((step) => ({ ...step }));
  evaluator.evaluate(partWith(base), session, timeline);
  let turn = 0;
  const last = medianTime(21, () =>
    evaluator.evaluate(
      partWith([...base.slice(0, 7), { ...base[7], strength: (turn++ % 90) + 1 }]),
      session,
      timeline,
    ),
  );
  return [
    {
      work: 'evaluate 8 steps over 100,000 notes, cold',
      ours: ms(cold),
      peer: '',
      reach: '50 ms',
      met: cold <= 50,
    },
    { work: 'the same, one changed last step', ours: ms(last), peer: '', reach: '8 ms', met: last <= 8 },
  ];
}

/** Thinning a lane of many points, as the step does it. */
export function benchCurves(): BenchRow[] {
  const { events } = largeLane(200_000).tracks[0];
  const timeline = createTimeline({ kind: 'metrical', ticksPerQuarter: 960 }, [], []);
  const thin = createStep('curve', { op: 'thin', lane: 'cc11', tolerance: 1 } as Partial<CurveStep>);
  const time = medianTime(5, () =>
    applyStep({ notes: noteTableOf([]), events }, thin, { timeline, isDrums: false, channel: 0 }),
  );
  return [{ work: 'thin 200,000 points', ours: ms(time), peer: '', reach: '200 ms', met: time <= 200 }];
}

/**
 * Everything Readings tells of a part of 100,000 notes: its figures and grids, and the charts beside them, as played
 * and as cleaned.
 */
export function benchReadings(): BenchRow[] {
  const { session, takes } = sessionOfFile(largeFile(100_000), 'bench', () => 'id', 0);
  const timeline = timelineOf(session);
  const evaluator = createEvaluator((key) => takes.find((take) => take.key === key) ?? takes[0]);
  const [part] = listOf(session.parts);
  const [material] = evaluator.evaluate(part, session, timeline).stages;
  const ruler = { grids: ['1/16'], swing: 50 };
  const figures = medianTime(7, () => readPart(material.notes, '1/16', timeline));
  const charts = medianTime(7, () => {
    const [before, after] = [
      measureNotes(material, ruler, timeline),
      measureNotes(material, ruler, timeline),
    ];
    for (const kind of ['off-the-lines', 'by-place', 'along-bars'] as const) chartOf(kind, before, after);
  });
  const all = measureNotes(material, ruler, timeline);
  const slowest = Math.max(...CHART_KINDS.map((kind) => medianTime(5, () => chartOf(kind, all, all))));
  const row = (work: string, time: number): BenchRow => ({
    work,
    ours: ms(time),
    peer: '',
    reach: '100 ms',
    met: time <= 100,
  });
  return [
    row('readings of 100,000 notes', figures),
    row('three charts of 100,000 notes, before and after', charts),
    row('the slowest of all charts', slowest),
  ];
}

/** Opening and cleaning a whole large file, as the command line does, beside reading and writing alone. */
export function benchCommandLine(): BenchRow[] {
  const bytes = writeMidi(largeFile(1_000_000));
  // In turn, since the speed of a machine drifts.
  const [plainTimes, wholeTimes]: number[][] = [[], []];
  for (let run = 0; run < 5; run++) {
    plainTimes.push(medianTime(1, () => writeMidi(readMidi(bytes).file)));
    wholeTimes.push(
      medianTime(1, () => writeMidi(cleanFile(readMidi(bytes).file, [createStep('quantize')]).file)),
    );
  }
  const [plain, whole] = [plainTimes, wholeTimes].map((times) => times.sort((a, b) => a - b)[2]);
  return [
    {
      work: 'read, quantize and write 1,000,000 notes',
      ours: ms(whole),
      peer: `read and write ${ms(plain)}`,
      reach: 'three times reading and writing',
      met: whole <= 3 * plain,
    },
  ];
}

/**
 * What goes to the engine for one position of a slider, in a session of 400 parts with 20 steps each and many hand
 * edits.
 */
export function benchMessage(): BenchRow[] {
  const { session } = sessionOfFile(largeFile(1000), 'bench', () => 'part', 0);
  const [part] = listOf(session.parts);
  const change = Object.fromEntries(Array.from({ length: 20_000 }, (_, id) => [String(id), { pitch: 60 }]));
  const steps = [
    ...Array.from({ length: 19 }, () => createStep('quantize')),
    createStep('edits', { change }),
  ].map((step, at) => ({ id: `s${at}`, step }));
  const parts = Array.from({ length: 400 }, (_, at): Part => ({
    ...part,
    id: `p${at}`,
    steps: orderedOf(steps),
  }));
  const before: Session = { ...session, parts: orderedOf(parts) };
  const sender = createDocumentSender();
  sender.messageFor(before);
  const moved = { ...parts[7].steps.byId.s3, step: createStep('quantize', { strength: 41 }) };
  const changed = { ...parts[7], steps: { ...parts[7].steps, byId: { ...parts[7].steps.byId, s3: moved } } };
  const after = { ...before, parts: { ...before.parts, byId: { ...before.parts.byId, p7: changed } } };
  const bytes = JSON.stringify(sender.messageFor(after)).length;
  return [
    {
      work: 'bytes to the engine for one position of a slider, 400 parts',
      ours: String(bytes),
      peer: '',
      reach: '2,000',
      met: bytes < 2000,
    },
  ];
}
