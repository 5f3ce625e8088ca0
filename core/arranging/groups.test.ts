import fc from 'fast-check';
import { orderedOf, type Part, type Session } from '../session';
import { listedParts, listedRows, movedParts, placeBeside, type PartsPlace } from '.';

const partsOf = (groups: readonly (string | undefined)[]): Session['parts'] =>
  orderedOf(
    groups.map((group, index) => ({ id: `p${index}`, name: `p${index}`, ...(group && { group }) }) as Part),
  );
const namesOf = (parts: Session['parts']) => listedParts(parts).map(({ id }) => id);

function applied(parts: Session['parts'], ids: string[], place: PartsPlace): Session['parts'] {
  const moved = movedParts(parts, new Set(ids), place);
  if (!moved) return parts;
  const byId = Object.fromEntries(
    Object.entries(parts.byId).map(([id, { group, ...part }]) => {
      const own = ids.includes(id) ? moved.group : group;
      return [id, { ...part, ...(own !== undefined && { group: own }) }];
    }),
  );
  return { order: moved.order, byId };
}

describe('groups of parts', () => {
  const parts = partsOf([undefined, 'wind', undefined, 'wind', 'strings']);

  it('stand together under a heading, where the first of them stands', () => {
    expect(namesOf(parts)).toEqual(['p0', 'p1', 'p3', 'p2', 'p4']);
    const rows = listedRows(parts, new Set(['wind']));
    expect(rows.map((row) => (row.kind === 'group' ? row.name : row.part.id))).toEqual([
      'p0',
      'wind',
      'p2',
      'strings',
      'p4',
    ]);
    expect(rows[1]).toMatchObject({ isFolded: true, parts: [{ id: 'p1' }, { id: 'p3' }] });
  });

  it('are joined beside one of theirs, and left beside a part of none', () => {
    const joined = applied(parts, ['p0'], { side: 'after', part: 'p1' });
    expect(namesOf(joined)).toEqual(['p1', 'p0', 'p3', 'p2', 'p4']);
    expect(joined.byId.p0.group).toBe('wind');
    const left = applied(parts, ['p3'], { side: 'before', part: 'p0' });
    expect(namesOf(left)).toEqual(['p3', 'p0', 'p1', 'p2', 'p4']);
    expect(left.byId.p3.group).toBeUndefined();
    expect(namesOf(applied(parts, ['p0'], { side: 'after', group: 'wind' }))).toEqual([
      'p1',
      'p3',
      'p0',
      'p2',
      'p4',
    ]);
    expect(movedParts(parts, new Set(['p1']), { side: 'after', part: 'p1' })).toBeNull();
  });

  it('are stepped over, or out of, one place at a time; down takes up back where no group is left', () => {
    const step = (of: Session['parts'], id: string, by: -1 | 1) => {
      const place = placeBeside(of, id, by);
      return place ? applied(of, [id], place) : of;
    };
    expect(namesOf(step(parts, 'p2', -1))).toEqual(['p0', 'p2', 'p1', 'p3', 'p4']);
    expect(step(parts, 'p3', 1).byId.p3.group).toBeUndefined();
    expect(placeBeside(parts, 'p0', -1)).toBeNull();
    fc.assert(
      fc.property(fc.array(fc.constant(undefined), { minLength: 2, maxLength: 6 }), fc.nat(4), (none, at) => {
        const plain = partsOf(none);
        const id = `p${at % (none.length - 1)}`;
        expect(namesOf(step(step(plain, id, 1), id, -1))).toEqual(namesOf(plain));
      }),
    );
  });

  it('lose and double no part, wherever some are put', () => {
    const anyGroups = fc.array(fc.constantFrom(undefined, 'a', 'b'), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(anyGroups, fc.nat(255), fc.nat(7), fc.boolean(), (groups, mask, to, isAfter) => {
        const all = partsOf(groups);
        const ids = all.order.filter((_, index) => (mask >> index) & 1);
        const part = all.order[to % all.order.length];
        const next = applied(all, ids, { side: isAfter ? 'after' : 'before', part });
        expect([...namesOf(next)].sort()).toEqual([...all.order].sort());
        if (!ids.includes(part)) for (const id of ids) expect(next.byId[id].group).toBe(all.byId[part].group);
      }),
    );
  });
});
