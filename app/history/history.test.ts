import { listOf, orderedOf, readMidi, sessionOfFile, writeMidi } from '@ordle/core';
import fc from 'fast-check';
import { fileOfNotes } from '../../core/testing/files';
import {
  abandon,
  change,
  emptyHistory,
  jump,
  mark,
  redo,
  undo,
  type HistoryEntry,
  type Work,
} from './history';

function newWork(): Work {
  let next = 0;
  const { file } = readMidi(
    writeMidi(
      fileOfNotes([
        [0, 10, 60, 80],
        [0, 10, 40, 80, 9],
      ]),
    ),
  );
  return { document: sessionOfFile(file, 'Quay', () => `id${next++}`, 0).session, history: emptyHistory() };
}

describe('history', () => {
  it('undoes and redoes any run of changes exactly', () => {
    const action = fc.oneof(
      fc
        .string({ maxLength: 8 })
        .map((name) => (work: Work) => change(work, 'Rename', (draft) => void (draft.name = name))),
      fc
        .boolean()
        .map(
          (muted) => (work: Work) =>
            change(work, 'Mute', (draft) => void (listOf(draft.parts)[0].muted = muted)),
        ),
      fc
        .nat(7)
        .map(
          (ink) => (work: Work) =>
            change(work, 'Colour', (draft) => void (listOf(draft.parts)[1].ink = ink), 'drag'),
        ),
      fc.constant((work: Work) => change(work, 'Reorder', (draft) => void draft.parts.order.reverse())),
    );
    fc.assert(
      fc.property(fc.array(action, { maxLength: 12 }), (actions) => {
        const first = newWork();
        const last = actions.reduce((work, act) => act(work), first);
        let back = last;
        while (back.history.done.length > 0) back = undo(back);
        expect(back.document).toEqual(first.document);
        let forth = back;
        while (forth.history.undone.length > 0) forth = redo(forth);
        expect(forth.document).toEqual(last.document);
      }),
    );
  });

  it('makes one entry of one gesture, and none of an abandoned one', () => {
    const first = newWork();
    let work = first;
    for (let ink = 1; ink < 6; ink++)
      work = change(work, `Colour ${ink}`, (draft) => void (listOf(draft.parts)[0].ink = ink), 'g1');
    expect(work.history.done).toMatchObject([
      { label: 'Colour 5', forward: [{ value: 5 }], backward: [{ value: 0 }] },
    ]);
    expect(undo(work).document).toEqual(first.document);
    expect(abandon(work, 'g1')).toEqual(first);
    expect(abandon(work, 'other')).toBe(work);
  });

  it('starts anew after an undo: nothing undone is left to redo, and a redone gesture is closed', () => {
    const work = change(newWork(), 'Colour', (draft) => void (listOf(draft.parts)[0].ink = 3), 'g1');
    const again = change(redo(undo(work)), 'Colour', (draft) => void (listOf(draft.parts)[0].ink = 4), 'g1');
    expect(again.history.done).toHaveLength(2);
    expect(change(undo(work), 'Rename', (draft) => void (draft.name = 'x')).history.undone).toEqual([]);
  });

  it('jumps to any point, and names points', () => {
    const first = newWork();
    let work = first;
    for (let ink = 1; ink < 6; ink++)
      work = change(work, `Colour ${ink}`, (draft) => void (listOf(draft.parts)[0].ink = ink));
    const named = mark(jump(work, 2), 'warm');
    expect(listOf(named.document.parts)[0].ink).toBe(2);
    expect(named.history.done.at(-1)?.mark).toBe('warm');
    expect(jump(named, 5).document).toEqual(work.document);
    expect(jump(named, 0).document).toEqual(first.document);
    expect(jump(named, 99).history.undone).toEqual([]);
  });

  it('leaves everything alone when nothing changes', () => {
    const work = newWork();
    expect(change(work, 'Rename', (draft) => void (draft.name = 'Quay'))).toBe(work);
  });

  it('gives back what could be redone when a gesture is abandoned, also after a part of it was heard', () => {
    const named = change(newWork(), 'Rename', (draft) => void (draft.name = 'Berth'));
    const undone = undo(named);
    let live = undone;
    for (let ink = 1; ink < 4; ink++) {
      live = abandon(live, 'g');
      live = change(live, 'Colour', (draft) => void (listOf(draft.parts)[0].ink = ink), 'g');
      expect(live.history.undone).toEqual([]);
    }
    for (let ink = 4; ink < 7; ink++)
      live = change(live, 'Colour', (draft) => void (listOf(draft.parts)[0].ink = ink), 'g');
    expect(abandon(live, 'g')).toEqual(undone);
    expect(redo(abandon(live, 'g')).document.name).toBe('Berth');
    expect(live.history).toMatchObject({ done: live.history.done, undone: [] });
  });

  it('refuses points that a damaged entry stands before, and stays where it is', () => {
    const work = change(newWork(), 'Colour', (draft) => void (listOf(draft.parts)[0].ink = 3));
    const stored = structuredClone(work.history);
    const damaged: [string, (entry: HistoryEntry) => void][] = [
      ['a value that is none', (entry) => void (entry.backward[0].value = 99)],
      ['a place that is not there', (entry) => void (entry.backward[0].path = ['parts', 7, 'ink'])],
      ['a part taken out', (entry) => void (entry.backward = [{ op: 'replace', path: ['parts'], value: 5 }])],
    ];
    for (const [, damage] of damaged) {
      const history = structuredClone(stored);
      damage(history.done[0]);
      const read: Work = { document: work.document, history };
      expect(() => undo(read)).toThrow('The history is damaged at “Colour”');
      expect(() => jump(read, 0)).toThrow('damaged');
    }
    expect(listOf(undo({ document: work.document, history: stored }).document.parts)[0].ink).toBe(0);
  });

  it('goes through 50,000 actions in one go', () => {
    const first = newWork();
    const [id] = first.document.parts.order;
    const done = Array.from({ length: 50_000 }, (_, at): HistoryEntry => {
      const of = (value: number) => [
        { op: 'replace' as const, path: ['parts', 'byId', id, 'ink'], value: value % 8 },
      ];
      return { label: `Colour ${at}`, at, gesture: null, forward: of(at + 1), backward: of(at) };
    });
    const long: Work = { document: first.document, history: { done, undone: [] } };
    const back = jump(long, 3);
    expect([listOf(back.document.parts)[0].ink, back.history.undone.length]).toEqual([3, 49_997]);
    const forth = jump(back, 50_000);
    expect(forth.history.done.length).toBe(50_000);
    expect(forth.history.done.slice(-3)).toEqual(done.slice(-3));
  });
});

describe('whatever one gesture does', () => {
  /** Something done to a document: by the number of what, and of the thing it is done to. */
  type Done = { what: number; at: number; value: number };
  type Loose = {
    steps: {
      order: string[];
      byId: Record<string, { n: number; where: { bars?: number[] }; extra?: { deep: number } }>;
    };
    list: number[];
    maybe: { v: number; in: { w: number } } | null;
  };
  function perform(draft: Loose, { what, at, value }: Done) {
    const ids = draft.steps.order;
    const id = ids[at % Math.max(1, ids.length)];
    const own = draft.steps.byId[id] as Loose['steps']['byId'][string] | undefined;
    if (what === 0 && own) own.n = value;
    if (what === 1 && own) own.where = { bars: [1, value] };
    if (what === 2 && own?.where.bars) own.where.bars[1] = value;
    if (what === 3 && own) delete own.extra;
    if (what === 4 && own) own.extra = { deep: value };
    if (what === 5 && own?.extra) own.extra.deep = value;
    if (what === 6 && !draft.steps.byId[`n${value}`]) {
      draft.steps.byId[`n${value}`] = { n: 0, where: {} };
      ids.splice(at % (ids.length + 1), 0, `n${value}`);
    }
    if (what === 7 && own) {
      ids.splice(ids.indexOf(id), 1);
      delete draft.steps.byId[id];
    }
    if (what === 8) draft.list = draft.list.filter((each) => each !== value).concat(value);
    if (what === 9) draft.list.splice(at % (draft.list.length + 1), value % 2, value);
    if (what === 10) draft.maybe = draft.maybe ? null : { v: value, in: { w: 2 } };
    if (what === 11 && draft.maybe) draft.maybe.in.w = value;
  }

  it('is undone and done again, as one action', () => {
    const loose: Loose = {
      steps: { order: ['a', 'b'], byId: { a: { n: 1, where: {} }, b: { n: 2, where: { bars: [1, 2] } } } },
      list: [1, 2, 3],
      maybe: null,
    };
    const document = {
      id: 'd',
      nextPiece: 0,
      nextNoteId: 0,
      parts: orderedOf([]),
      takes: orderedOf([]),
      ...loose,
    } as never;
    const anyDone = fc.record({ what: fc.nat(11), at: fc.nat(9), value: fc.nat(9) });
    fc.assert(
      fc.property(fc.array(anyDone, { minLength: 1, maxLength: 7 }), (actions) => {
        let work: Work = { document: structuredClone(document), history: emptyHistory() };
        const before = work.document;
        for (const each of actions)
          work = change(work, 'Drag', (draft) => perform(draft as unknown as Loose, each), 'gesture');
        if (work.history.done.length === 0) return;
        expect(work.history.done).toHaveLength(1);
        const back = undo(work);
        expect(back.document).toEqual(before);
        expect(redo(back).document).toEqual(work.document);
      }),
      { numRuns: 400 },
    );
  });
});
