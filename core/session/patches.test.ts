import fc from 'fast-check';
import { orderedOf, patchesBetween, withPatches } from '.';

interface Parts {
  id: string;
  parts: { order: string[]; byId: Record<string, { id: string; muted: boolean }> };
}

describe('what changed between two documents', () => {
  it('leaves what did not change the very same, however many parts did', () => {
    const list = (muted: number) =>
      orderedOf(Array.from({ length: 100 }, (_, at) => ({ id: `p${at}`, muted: at < muted })));
    const before: Parts = { id: 's', parts: list(0) };
    const changed = Object.entries(before.parts.byId).map(([id, part], at) => [
      id,
      at < 70 ? { ...part, muted: true } : part,
    ]);
    const after: Parts = {
      ...before,
      parts: { ...before.parts, byId: Object.fromEntries(changed) as Parts['parts']['byId'] },
    };
    const copy = structuredClone(before);
    const made = withPatches(copy, structuredClone(patchesBetween(before, after)));
    expect(made).toEqual(after);
    expect(made.parts.byId.p99).toBe(copy.parts.byId.p99);
    expect(made.parts.order).toBe(copy.parts.order);
  });

  it('makes the one of the other, and what was put in and out again on the way is not in it', () => {
    const anything = fc.letrec<{ tree: unknown }>((tie) => ({
      tree: fc.oneof(
        { maxDepth: 3 },
        fc.nat(3),
        fc.array(fc.nat(3), { maxLength: 2 }),
        fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('tree'), { maxKeys: 3 }),
      ),
    })).tree;
    fc.assert(
      fc.property(fc.array(anything, { minLength: 2, maxLength: 4 }), (trees) => {
        const documents = trees.map((tree) => ({ tree }));
        const all = documents.slice(1).flatMap((after, at) => patchesBetween(documents[at], after));
        expect(withPatches(documents[0], all)).toEqual(documents[documents.length - 1]);
      }),
    );
  });

  it('is refused where it leads nowhere', () => {
    expect(() => withPatches({ a: 1 }, [{ path: ['a', 'b'], value: 2 }])).toThrow('has no a.b');
  });
});
