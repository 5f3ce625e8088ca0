import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import { listOf, readSessionFile } from '@ordle/core';
import { emptyHistory, undo, redo } from '@/history/history';
import { historyOfFile } from './historyForFile';

/** A session of one note and one step, written with its history by the first version that could. */
const FILE = readSessionFile(
  gunzipSync(readFileSync(path.resolve(__dirname, 'fixtures/session-with-history.ordle'))).toString(),
);
const steps = (session: typeof FILE.session) =>
  listOf(session.parts).flatMap((part) => listOf(part.steps).map(({ step }) => step.kind));

describe('the history in a session file', () => {
  it('goes on where it was, for the session the file became', () => {
    const document = { ...FILE.session, id: 'other', createdAt: 7 };
    const work = { document, history: historyOfFile(FILE.history, document) };
    expect(steps(document)).toEqual(['quantize']);
    const back = undo(work);
    expect([steps(back.document), back.document.id]).toEqual([[], 'other']);
    expect(steps(redo(back).document)).toEqual(['quantize']);
  });

  it('is left out where it is none, is damaged, or its actions are of another version of the document', () => {
    const of = (history: unknown) => historyOfFile(history, FILE.session);
    expect(of(FILE.history).done).toHaveLength(1);
    for (const none of [
      undefined,
      null,
      'all of it',
      { version: 2 },
      { version: 2, done: [{ label: 3 }], undone: [] },
    ])
      expect(of(none)).toEqual(emptyHistory());
    expect(of({ ...(FILE.history as object), version: 1 })).toEqual(emptyHistory());
  });
});
