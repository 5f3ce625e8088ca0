import { createStep, listOf, orderedOf, timelineOf, type Part, type Session } from '@ordle/core';
import fc from 'fast-check';
import { partOfSteps, sessionOfParts } from '@/testing/bench';
import { createDocumentReceiver, createDocumentSender, type DocumentMessage } from './documentCopy';

const quantize = (strength: number) => createStep('quantize', { strength });
const sessionOf = (...parts: Part[]): Session => sessionOfParts(parts);

/** What arrives in the worker: a copy, as the thread border makes it. */
const sent = (message: DocumentMessage): DocumentMessage => structuredClone(message);

/** The session with another strength in one step, sharing everything else. */
function withStrength(session: Session, partId: string, stepId: string, strength: number): Session {
  const part = session.parts.byId[partId];
  const steps = {
    ...part.steps,
    byId: { ...part.steps.byId, [stepId]: { id: stepId, step: quantize(strength) } },
  };
  return {
    ...session,
    parts: { ...session.parts, byId: { ...session.parts.byId, [partId]: { ...part, steps } } },
  };
}

describe('the engine’s copy of the document', () => {
  const parts = Array.from({ length: 40 }, (_, at) => partOfSteps(`p${at}`, [quantize(80), quantize(20)]));
  const first = sessionOf(...parts);

  it('is sent whole once, and then as what changed; nothing when nothing did', () => {
    const sender = createDocumentSender();
    expect(sender.messageFor(first).whole).toBe(first);
    expect(sender.messageFor(first)).toEqual({ revision: 1 });
    const moved = sender.messageFor(withStrength(first, 'p7', 'p7-1', 33));
    expect(moved.whole).toBeUndefined();
    expect(JSON.stringify(moved).length).toBeLessThan(1000);
  });

  it('keeps what did not change as the very same objects', () => {
    const [sender, receiver] = [createDocumentSender(), createDocumentReceiver()];
    const before = receiver.read(sent(sender.messageFor(first)));
    const after = receiver.read(sent(sender.messageFor(withStrength(first, 'p7', 'p7-1', 33))));
    const step = (session: Session, part: number, at: number) =>
      listOf(listOf(session.parts)[part].steps)[at].step;
    expect(step(after, 7, 1)).toMatchObject({ strength: 33 });
    expect(step(after, 7, 0)).toBe(step(before, 7, 0));
    expect(after.parts.byId.p3).toBe(before.parts.byId.p3);
    expect(after.parts.byId.p7.layers).toBe(before.parts.byId.p7.layers);
    expect(timelineOf(after)).toBe(timelineOf(before));
    expect(listOf(after.parts.byId.p3.steps)).toBe(listOf(before.parts.byId.p3.steps));
  });

  it('is the document after any changes: parts and steps put in, taken out, moved and set', () => {
    type Change = (session: Session) => Session;
    const ids = ['a', 'b', 'c', 'd'];
    const change = fc.oneof(
      fc.tuple(fc.constantFrom(...ids), fc.nat(100)).map(
        ([id, strength]): Change =>
          (session) =>
            session.parts.byId[id] ? withStrength(session, id, `${id}-0`, strength) : session,
      ),
      fc.constantFrom(...ids).map((id): Change => (session) => {
        const others = listOf(session.parts).filter((part) => part.id !== id);
        const there = others.length < session.parts.order.length;
        return { ...session, parts: orderedOf(there ? others : [...others, partOfSteps(id, [quantize(5)])]) };
      }),
      fc.constant<Change>((session) => ({
        ...session,
        parts: { ...session.parts, order: session.parts.order.toReversed() },
      })),
      fc.string({ maxLength: 5 }).map((name): Change => (session) => ({ ...session, name })),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 20 }), (changes) => {
        const [sender, receiver] = [createDocumentSender(), createDocumentReceiver()];
        let session = sessionOf(partOfSteps('a', [quantize(1)]), partOfSteps('b', [quantize(2)]));
        for (const apply of [(same: Session) => same, ...changes]) {
          session = apply(session);
          expect(receiver.read(sent(sender.messageFor(session)))).toEqual(session);
        }
      }),
    );
  });

  it('that lost the thread says so, and is sent whole', () => {
    const [sender, receiver] = [createDocumentSender(), createDocumentReceiver()];
    sender.messageFor(first);
    const next = withStrength(first, 'p0', 'p0-0', 3);
    expect(() => receiver.read(sent(sender.messageFor(next)))).toThrow('Try again');
    sender.forget();
    expect(receiver.read(sent(sender.messageFor(next)))).toEqual(next);
  });
});
