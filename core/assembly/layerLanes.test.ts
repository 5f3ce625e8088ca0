import fc from 'fast-check';
import { createEvaluator } from '../evaluate';
import { readMidi, writeMidi } from '../midi';
import type { Take } from '../model';
import { layerOf, listOf, orderedOf, sessionOfFile, timelineOf, type Part, type Session } from '../session';
import { fileOfNotes, type RawEvent } from '../testing/files';

/** A part of several layers with these controllers, each over a stroke of its own. */
function layered(all: readonly RawEvent[][]) {
  let next = 0;
  const read = all.map((extra, index) =>
    sessionOfFile(
      readMidi(writeMidi(fileOfNotes([[0, 400, 60 + index, 80]], 480, extra))).file,
      'Quay',
      () => `id${next++}`,
      0,
    ),
  );
  const takes = new Map(read.flatMap((each) => each.takes).map((take): [string, Take] => [take.key, take]));
  const evaluator = createEvaluator((key) => takes.get(key) as Take);
  const session: Session = read[0].session;
  const [plain] = listOf(session.parts);
  const part: Part = {
    ...plain,
    layers: orderedOf(
      read.map(({ takes: [take] }, index) =>
        layerOf(
          [
            {
              id: `piece${index}`,
              number: index,
              source: { take: take.key },
              from: 0,
              to: null,
              at: 0,
              rest: 'all',
            },
          ],
          index,
        ),
      ),
    ),
  };
  const laid = (lanes?: Part['lanes']) =>
    evaluator.evaluate({ ...part, ...(lanes && { lanes }) }, session, timelineOf(session)).assembly;
  const lane = (status: number, controller: number | null, lanes?: Part['lanes']) => {
    const { events } = laid(lanes).material;
    return Array.from(events.tick.keys())
      .filter(
        (row) => events.status[row] === status && (controller === null || events.data1[row] === controller),
      )
      .map((row) => [events.tick[row], events.data2[row]]);
  };
  return { laid, lane };
}

const anyExpression = fc
  .uniqueArray(fc.nat(40), { minLength: 1, maxLength: 5 })
  .chain((ticks) =>
    fc.tuple(
      ...ticks
        .sort((a, b) => a - b)
        .map((tick) => fc.nat(127).map((value): RawEvent => [tick * 60, 0xb0, 11, value])),
    ),
  );

describe('lanes that several layers have', () => {
  it('go by the first layer, or by the one that was chosen for them', () => {
    fc.assert(
      fc.property(fc.tuple(anyExpression, anyExpression, anyExpression), fc.nat(2), (lists, which) => {
        const quay = layered(lists);
        const said = (list: readonly RawEvent[]) => list.map(([tick, , , value]) => [tick, value]);
        expect(quay.lane(0xb0, 11)).toEqual(said(lists[0]));
        expect(quay.lane(0xb0, 11, { cc11: `layer${which}` })).toEqual(said(lists[which]));
        const [contested] = quay.laid({ cc11: `layer${which}` }).contested;
        if (contested) expect(contested).toMatchObject({ lane: 'cc11', layers: [0, 1, 2], counts: which });
        // A layer that is not there, or has no such lane, changes nothing.
        expect(quay.lane(0xb0, 11, { cc11: 'gone', cc7: 'layer1' })).toEqual(said(lists[0]));
      }),
    );
  });

  it('are told, with whose counts: the pedal of all, bend range with its numbers, programs with their banks', () => {
    const quay = layered([
      [
        [0, 0xb0, 0, 1],
        [0, 0xc0, 5],
        [0, 0xb0, 101, 0],
        [0, 0xb0, 100, 0],
        [0, 0xb0, 6, 2],
        [100, 0xb0, 64, 127],
        [300, 0xb0, 64, 0],
        [0, 0xe0, 0, 64],
      ],
      [
        [0, 0xc0, 9],
        [0, 0xb0, 101, 0],
        [0, 0xb0, 100, 0],
        [0, 0xb0, 6, 12],
        [200, 0xb0, 64, 90],
        [400, 0xb0, 64, 0],
        [0, 0xe0, 0, 64],
      ],
    ]);
    const told = Object.fromEntries(quay.laid().contested.map(({ lane, counts }) => [lane, counts]));
    // Both bend the same, so nothing is contested there.
    expect(told).toEqual({ program: 0, parameters: 0, cc64: null });
    expect(quay.lane(0xb0, 6)).toEqual([[0, 2]]);
    expect(quay.lane(0xb0, 6, { parameters: 'layer1' })).toEqual([[0, 12]]);
    expect(quay.lane(0xb0, 0, { program: 'layer1' })).toEqual([]);
    expect(quay.lane(0xb0, 64)).toEqual([
      [100, 127],
      [300, 90],
      [400, 0],
    ]);
    expect(quay.lane(0xb0, 64, { cc64: 'layer1' })).toEqual([
      [200, 90],
      [400, 0],
    ]);
  });
});
