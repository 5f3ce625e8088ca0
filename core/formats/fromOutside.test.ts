import { contentKey } from '../model';
import { SESSION_MINOR, listOf, readDocument, toStore, type Session } from '../session';
import { createStep, keyOfColumns, type EditTable } from '../steps';
import { storedTakesOf } from '../testing/markedSession';
import { note, opened, put, withSteps } from '../testing/quay';
import { readSessionFile, writeSessionFile } from '.';

const codeOf = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    return (error as { code?: string }).code ?? String(error);
  }
  return 'nothing was thrown';
};

describe('a session file', () => {
  const { session, takeOf } = opened([note(0, 480, 60)]);
  const takes = storedTakesOf(session, takeOf);
  const text = writeSessionFile({ session, takes, tables: [] });
  const changed = (change: (file: Record<string, never>) => void) => {
    const file = JSON.parse(text) as Record<string, never>;
    change(file);
    return () => readSessionFile(JSON.stringify(file));
  };

  it('is never written with something missing, nor read so', () => {
    const [plain] = listOf(session.parts);
    const part = withSteps(plain, [createStep('edits', { table: { key: 'gone', changed: 1, deleted: 0 } })]);
    expect(() => writeSessionFile({ session: put(session, part), takes, tables: [] })).toThrow(
      'Hand edits of many notes are missing',
    );
    const whole = JSON.parse(text) as { session: Session };
    whole.session.parts.byId[part.id].steps = part.steps;
    expect(() => readSessionFile(JSON.stringify(whole))).toThrow('Hand edits of many notes are missing');
    const piece = Object.values(
      Object.values(whole.session.parts.byId[part.id].layers.byId)[0].pieces.byId,
    )[0];
    whole.session.parts.byId[part.id].steps = plain.steps;
    piece.source = { part: 'nobody' };
    expect(() => readSessionFile(JSON.stringify(whole))).toThrow('A part that another one is made of');
    piece.source = { take: 'no take' };
    expect(() => readSessionFile(JSON.stringify(whole))).toThrow('The take “no take” is missing');
  });

  it('has its hand edits checked for shape, values and key', () => {
    const columns = {
      id: Float64Array.of(1, 2),
      fields: Uint8Array.of(3, 8),
      start: Float64Array.of(10, 0),
      end: Float64Array.of(20, 0),
      pitch: Uint8Array.of(0, 0),
      velocity: Float64Array.of(0, 90),
      channel: Uint8Array.of(0, 0),
    };
    const reading = (table: EditTable) => () =>
      readSessionFile(writeSessionFile({ session, takes, tables: [table] }));
    const keyed = (change: Partial<typeof columns>): EditTable => {
      const made = { ...columns, ...change };
      return { key: keyOfColumns(made), ...made };
    };
    expect(reading(keyed({}))().tables).toHaveLength(1);
    expect(reading({ ...keyed({}), key: '2:not-its-key' })).toThrow('not what its key says');
    expect(reading(keyed({ end: new Float64Array(0) }))).toThrow('not of one length');
    for (const wrong of [
      { start: Float64Array.of(NaN, 0) },
      { end: Float64Array.of(-1, 0) },
      { velocity: Float64Array.of(0, 300) },
      { fields: Uint8Array.of(255, 8) },
      { fields: Uint8Array.of(0, 8) },
      { id: Float64Array.of(2, 2) },
      { id: Float64Array.of(0.5, 2) },
    ])
      expect(reading(keyed(wrong))).toThrow('Hand edits in this session file are damaged');
  });

  it('has its takes checked for what they say, though their keys fit', () => {
    const [take] = takes;
    const reading = (change: Partial<(typeof take)['events']>, endTick = take.endTick) => {
      const content = { ...take, events: { ...take.events, ...change }, endTick };
      const key = contentKey(content);
      const own = JSON.parse(JSON.stringify(session).split(take.key).join(key)) as Session;
      return () =>
        readSessionFile(writeSessionFile({ session: own, takes: [{ ...content, key }], tables: [] }));
    };
    expect(reading({})().takes).toHaveLength(1);
    expect(reading({ tick: Float64Array.of(NaN, 480) })).toThrow('event 1 has no place in time');
    expect(reading({ tick: Float64Array.of(900, 480) })).toThrow('stands before');
    expect(reading({ status: Uint8Array.of(0x12, 0x80) })).toThrow('of no kind');
    expect(reading({ data2: Uint8Array.of(200, 0) })).toThrow('cannot be there');
    expect(reading({ payload: Uint32Array.of(0, 9) })).toThrow('is not there');
    expect(reading({}, 3)).toThrow('its end');
    expect(reading({}, NaN)).toThrow();
  });

  it('of a newer program is said to be newer, in every place it could be', () => {
    expect(codeOf(changed((file) => Object.assign(file, { version: 2 })))).toBe('session-newer');
    expect(codeOf(changed((file) => Object.assign(file, { loops: [] })))).toBe('session-newer');
    expect(codeOf(changed((file) => Object.assign(file.session, { groups: [] })))).toBe('session-newer');
    expect(codeOf(changed((file) => Object.assign(file.session, { minor: SESSION_MINOR + 1 })))).toBe(
      'session-newer',
    );
    expect(codeOf(changed((file) => Object.assign(file.session, { nextPiece: -1 })))).toBe(
      'session-unreadable',
    );
  });
});

describe('a document', () => {
  const { session } = opened([note(0, 480, 60)]);
  it('says what it may hold beyond its version where it is stored, and need not', () => {
    expect(readDocument(toStore(session))).toEqual(session);
    expect(readDocument(session)).toEqual(session);
    expect(codeOf(() => readDocument({ ...session, minor: SESSION_MINOR + 1 }))).toBe('session-newer');
    expect(codeOf(() => readDocument({ ...session, groups: [] }))).toBe('session-newer');
    expect(codeOf(() => readDocument({ some: 'thing' }))).toBe('session-unreadable');
  });

  it('gives no number twice, whatever its counters say', () => {
    const low = { ...session, nextPiece: 0 };
    expect(readDocument(low).nextPiece).toBe(1);
  });

  it('is refused where it names things by what every object has, or counts in what is no power of two', () => {
    const named = JSON.parse(
      JSON.stringify(session).replaceAll(session.parts.order[0], 'constructor'),
    ) as Session;
    expect(codeOf(() => readDocument(named))).toBe('session-unreadable');
    const odd = { ...session, meters: [{ tick: 0, numerator: 4, denominator: 3 }] };
    expect(codeOf(() => readDocument(odd))).toBe('session-unreadable');
  });
});
