import { readMidi, sessionOfFile, writeMidi } from '@ordle/core';
import fc from 'fast-check';
import { fileOfNotes } from '../../core/testing/files';
import { abandon, change, emptyHistory, jump, mark, redo, undo, type Work } from './history';

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
        .map((muted) => (work: Work) => change(work, 'Mute', (draft) => void (draft.parts[0].muted = muted))),
      fc
        .nat(7)
        .map(
          (ink) => (work: Work) => change(work, 'Colour', (draft) => void (draft.parts[1].ink = ink), 'drag'),
        ),
      fc.constant((work: Work) => change(work, 'Reorder', (draft) => void draft.parts.reverse())),
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
      work = change(work, `Colour ${ink}`, (draft) => void (draft.parts[0].ink = ink), 'g1');
    expect(work.history.done).toMatchObject([
      { label: 'Colour 5', forward: [{ value: 5 }], backward: [{ value: 0 }] },
    ]);
    expect(undo(work).document).toEqual(first.document);
    expect(abandon(work, 'g1')).toEqual(first);
    expect(abandon(work, 'other')).toBe(work);
  });

  it('starts anew after an undo: nothing undone is left to redo, and a redone gesture is closed', () => {
    const work = change(newWork(), 'Colour', (draft) => void (draft.parts[0].ink = 3), 'g1');
    const again = change(redo(undo(work)), 'Colour', (draft) => void (draft.parts[0].ink = 4), 'g1');
    expect(again.history.done).toHaveLength(2);
    expect(change(undo(work), 'Rename', (draft) => void (draft.name = 'x')).history.undone).toEqual([]);
  });

  it('jumps to any point, and names points', () => {
    const first = newWork();
    let work = first;
    for (let ink = 1; ink < 6; ink++)
      work = change(work, `Colour ${ink}`, (draft) => void (draft.parts[0].ink = ink));
    const named = mark(jump(work, 2), 'warm');
    expect(named.document.parts[0].ink).toBe(2);
    expect(named.history.done.at(-1)?.mark).toBe('warm');
    expect(jump(named, 5).document).toEqual(work.document);
    expect(jump(named, 0).document).toEqual(first.document);
    expect(jump(named, 99).history.undone).toEqual([]);
  });

  it('leaves everything alone when nothing changes', () => {
    const work = newWork();
    expect(change(work, 'Rename', (draft) => void (draft.name = 'Quay'))).toBe(work);
  });
});
