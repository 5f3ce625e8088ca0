import fc from 'fast-check';
import { createEvaluator, exportSession } from '../evaluate';
import type { EventColumns, MidiFile } from '../midi';
import type { Take } from '../model';
import { listOf, orderedOf, sessionOfFile, timelineOf, type Session } from '../session';
import { createStep } from '../steps';
import { trackOf, type RawEvent } from '../testing/files';
import { alongEdits } from '.';

const KINDS: ((tick: number, channel: number, value: number) => RawEvent)[] = [
  (tick, channel, value) => [tick, 0xb0 | channel, 7, value],
  (tick, channel, value) => [tick, 0xb0 | channel, 64, value],
  (tick, channel, value) => [tick, 0xc0 | channel, value, 0],
  (tick, channel, value) => [tick, 0xe0 | channel, 0, value],
  (tick, _, value) => [tick, 0xf0, 0, 0, [0x7d, value, 0xf7]],
];
const anyMessage = fc
  .tuple(fc.nat(6), fc.nat(2), fc.constantFrom(...KINDS), fc.constantFrom(0, 64, 100), fc.boolean())
  .map(([at, channel, make, value, isDoubled]) => {
    const message = make(at * 240, channel, value);
    return isDoubled ? [message, message] : [message];
  });
const anyNote = fc
  .tuple(fc.nat(6), fc.nat(2), fc.integer({ min: 60, max: 62 }))
  .map(([at, channel, pitch]): RawEvent[] => [
    [at * 240, 0x90 | channel, pitch, 80],
    [at * 240 + 100, 0x80 | channel, pitch, 0],
  ]);
const anyTrack = fc
  .tuple(fc.array(anyMessage, { maxLength: 8 }), fc.array(anyNote, { maxLength: 4 }))
  .map(([messages, notes]) => trackOf([...messages, ...notes].flat().toSorted((a, b) => a[0] - b[0])));

const linesOf = ({ length, tick, status, data1, data2 }: EventColumns, without: number) =>
  Array.from({ length }, (_, row) => [tick[row], status[row], data1[row], data2[row]])
    .filter(([, own]) => own >= 0xf0 || (own & 15) !== without)
    .map((line) => line.join(' '))
    .sort();

it('moving a note, and the controllers with it, leaves every message of other parts there, doubled or not', () => {
  fc.assert(
    fc.property(
      fc.array(anyTrack, { minLength: 1, maxLength: 3 }),
      fc.integer({ min: -200, max: 200 }),
      fc.nat(20),
      (tracks, by, pick) => {
        const division = { kind: 'metrical', ticksPerQuarter: 480 } as const;
        const file: MidiFile = { format: tracks.length === 1 ? 0 : 1, division, tracks };
        let next = 0;
        const { session, takes } = sessionOfFile(file, 'Quay', () => `id${next++}`, 0);
        const takeOf = (key: string) => takes.find((take) => take.key === key) as Take;
        const evaluator = createEvaluator(takeOf);
        const parts = listOf(session.parts);
        const asPlayed = parts.map(
          (part) => evaluator.evaluate(part, session, timelineOf(session)).stages[0],
        );
        const at = asPlayed.findIndex(({ notes }) => notes.length > 0);
        if (at < 0) return;
        const [part, { notes, events }] = [parts[at], asPlayed[at]];
        const row = pick % notes.length;
        const start = Math.max(0, notes.start[row] + by);
        const change = { start, end: start + notes.end[row] - notes.start[row] };
        const action = { kind: 'move', ticks: start - notes.start[row] } as const;
        const curves = alongEdits(events, notes, new Set([notes.id[row]]), action, part.channel - 1);
        const step = createStep('edits', { change: { [String(notes.id[row])]: change }, curves });
        const moved: Session = {
          ...session,
          parts: orderedOf(
            parts.map((own) => (own === part ? { ...own, steps: orderedOf([{ id: 'edit', step }]) } : own)),
          ),
        };
        const options = {
          format: 1,
          version: 'cleaned',
          tracks: 'source',
          parts: session.parts.order,
        } as const;
        const others = (of: Session) =>
          exportSession(of, options, evaluator, takeOf).tracks.map((track) =>
            linesOf(track.events, part.channel - 1),
          );
        expect(others(moved)).toEqual(others(session));
      },
    ),
  );
});
