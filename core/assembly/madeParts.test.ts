import fc from 'fast-check';
import { circleIn, waitsFor } from '../evaluate';
import { orderedOf, sessionSchema, type Session } from '../session';
import { createStep } from '../steps';
import { type RawEvent } from '../testing/files';
import { partsStudio, notesOf, linesOf, short } from '../testing/partsStudio';
import type { PlainNote } from '../testing/files';

describe('pieces of parts', () => {
  const file = {
    notes: [
      [10, 100, 60, 80],
      [490, 600, 72, 80],
    ] as PlainNote[],
    extra: [[0, 0xb0, 64, 127]] as RawEvent[],
  };
  const quantize = { id: 'q', step: createStep('quantize') };

  it('are live: they sound as their source is cleaned, under identities of their own', () => {
    const { piece, part, withParts, evaluate } = partsStudio([file]);
    const source = part('a', [[piece(0)]], { steps: orderedOf([quantize]) });
    const made = part('b', [[piece('a', { at: 960 })]]);
    const whole = withParts(source, made);
    expect(sessionSchema.parse(whole)).toEqual(whole);
    const laid = evaluate(whole, 'b');
    expect(notesOf(laid).map(({ start, pitch }) => [start, pitch])).toEqual([
      [960, 60],
      [1440, 72],
    ]);
    expect(linesOf(laid.cleaned.events)).toEqual([[960, 0xb0, 64, 127]]);
    const ids = [...laid.cleaned.notes.id, ...evaluate(whole, 'a').cleaned.notes.id];
    expect(new Set(ids).size).toBe(4);
    // A changed source changes what is made of it, and the identities stay.
    const looser = {
      ...source,
      steps: orderedOf([{ ...quantize, step: createStep('quantize', { strength: 0 }) }]),
    };
    const again = evaluate(withParts(looser, made), 'b').cleaned.notes;
    expect([...again.start]).toEqual([970, 1450]);
    expect([...again.id]).toEqual([...laid.cleaned.notes.id]);
  });

  it('of one split are together exactly the source', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(4000), fc.integer({ min: 40, max: 80 }), fc.nat(3)), { maxLength: 30 }),
        fc.constantFrom(
          ['pitch:60', 'low', 'high'],
          ['voice', 'highest', 'lowest', 'inner'],
          ['hand', 'left', 'right'],
        ),
        (notes, [by, ...labels]) => {
          const plain = notes.map(([start, pitch, channel]): PlainNote => [
            start,
            start + 50,
            pitch,
            80,
            channel,
          ]);
          const { piece, part, withParts, evaluate } = partsStudio([
            { notes: plain, extra: [[0, 0xb0, 7, 88]] },
          ]);
          const shares = labels.map((label) => part(label, [[piece('whole', { split: { by, label } })]]));
          const whole = withParts(part('whole', [[piece(0)]]), ...shares);
          const lines = (id: string) =>
            notesOf(evaluate(whole, id)).map(
              ({ start, end, pitch, channel }) => `${start} ${end} ${pitch} ${channel}`,
            );
          expect(labels.flatMap(lines).sort()).toEqual(lines('whole').sort());
          // The first that has notes holds the controllers.
          const holders = labels.filter((label) => evaluate(whole, label).cleaned.events.length > 0);
          expect(holders).toHaveLength(notes.length === 0 ? 0 : 1);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('that go in a circle are refused with the names of the parts', () => {
    const { piece, part, withParts, evaluate } = partsStudio([file]);
    const whole = withParts(part('a', [[piece('c')]]), part('b', [[piece('a')]]), part('c', [[piece('b')]]));
    expect(() => evaluate(whole, 'a')).toThrow('These parts are made of each other: a > c > b > a.');
    const align = { id: 'al', step: createStep('align', { to: 'b' }) };
    const mixed = withParts(
      part('a', [[piece(0)]], { steps: orderedOf([align]) }),
      part('b', [[piece('a')]]),
    );
    expect(() => evaluate(mixed, 'a')).toThrow('These parts wait for each other: a > b > a.');
    expect(() => evaluate(withParts(part('a', [[piece('gone')]])), 'a')).toThrow('no longer in the session');
    // The same is known without working anything out.
    expect(circleIn(whole)?.message).toContain('These parts are made of each other: a > c > b > a.');
    expect(circleIn(mixed)?.message).toContain('These parts wait for each other: a > b > a.');
    expect(circleIn(withParts(part('a', [[piece('gone')]])))).toBeNull();
    const line = withParts(part('a', [[piece(0)]]), part('b', [[piece('a')]]), part('c', [[piece('b')]]));
    expect(circleIn(line)).toBeNull();
    expect(line.parts.order.map((id) => waitsFor(line.parts.byId[id], 'a', line))).toEqual([
      false,
      true,
      true,
    ]);
  });
});

describe('a part locked to seconds', () => {
  it('stays where it was in real time when the tempo of the session changes', () => {
    const { session, piece, part, withParts, evaluate } = partsStudio([
      {
        notes: [
          [480, 960, 60, 80],
          [1920, 2400, 62, 80],
        ],
      },
    ]);
    const parts = [part('beats', [[piece(0)]]), part('seconds', [[piece(0)]], { lockedTo: 'seconds' })];
    const half = { ...withParts(...parts), tempos: [{ tick: 0, microsecondsPerQuarter: 1_000_000 }] };
    expect(session.tempos).toEqual([]);
    expect(notesOf(evaluate(half, 'beats')).map(short)).toEqual([
      [480, 960, 60],
      [1920, 2400, 62],
    ]);
    expect(notesOf(evaluate(half, 'seconds')).map(short)).toEqual([
      [240, 480, 60],
      [960, 1200, 62],
    ]);
    // Pieces of it are measured in seconds.
    const cut = part('cut', [[piece(0, { from: 1, at: 3 })]], { lockedTo: 'seconds' });
    expect(notesOf(evaluate({ ...half, parts: orderedOf([cut]) }, 'cut')).map(short)).toEqual([
      [1920, 2160, 62],
    ]);
  });
});

describe('the two passes of a channel', () => {
  it('let a length step hold notes by the pedal that another part of the channel plays', () => {
    const { piece, part, withParts, evaluate } = partsStudio([
      { notes: [[0, 100, 60, 80]] },
      { notes: [[50, 60, 40, 80]], extra: [[10, 0xb0, 64, 127], [800, 0xb0, 64, 0]] }, // prettier-ignore
    ]);
    const hold = { id: 'h', step: createStep('length', { hold: 'fromPedal' }) };
    const right = part('right', [[piece(0)]], { steps: orderedOf([hold]) });
    const left = part('left', [[piece(1)]], { steps: orderedOf([hold]) });
    const whole = withParts(right, left);
    expect(notesOf(evaluate(whole, 'right')).map(short)).toEqual([[0, 800, 60]]);
    expect(notesOf(evaluate(whole, 'left')).map(short)).toEqual([[50, 800, 40]]);
    // The other part's own steps shape its pedal first; what is set aside is not heard.
    const late = { id: 'n', step: createStep('pedal', { op: 'shift', ms: 50 }) };
    const moved = withParts(right, { ...left, steps: orderedOf([late]) });
    expect(notesOf(evaluate(moved, 'right'))[0].end).toBeCloseTo(848, 6);
    expect(notesOf(evaluate(withParts(right, { ...left, setAside: true }), 'right'))[0].end).toBe(100);
    expect(notesOf(evaluate(withParts(right, { ...left, channel: 2 }), 'right'))[0].end).toBe(100);
  });

  it('and controllers without notes lie where the part of their channel with most notes is laid', () => {
    const { piece, part, withParts, evaluate } = partsStudio([
      { notes: [[0, 100, 60, 80], [480, 500, 62, 80]] }, // prettier-ignore
      { notes: [[0, 10, 50, 80, 1]], extra: [[240, 0xb0, 64, 127], [400, 0xb0, 64, 0]] }, // prettier-ignore
    ]);
    const blocks = [{ id: 'b', from: 0, to: 1, at: 2, times: 2, stretch: 1, held: 'ring' as const }];
    const layout = { id: 'l', step: createStep('layout', { blocks }) };
    const notes = part('notes', [[piece(0)]], { steps: orderedOf([layout]) });
    const pedal = part('pedal', [[piece(1, { split: { by: 'channel', label: 'ch1' } })]]);
    const ticks = (whole: Session) => [...evaluate(whole, 'pedal').cleaned.events.tick];
    expect(ticks(withParts(notes, pedal))).toEqual([1200, 1360, 1680, 1840]);
    expect(ticks(withParts({ ...notes, channel: 3 }, pedal))).toEqual([240, 400]);
  });
});
