import { readFileSync } from 'node:fs';
import path from 'node:path';
import { FIRST_DRAWN_ID, pieceAndRow } from '../../model';
import { drawnLines, isByHand } from '../../steps';
import { listOf, mapItems, orderedOf, readDocument, sessionSchema, versionOf, type Part } from '..';

/**
 * A session as version 1 stored it, made with its own code: hand edits, drawn notes, steps made permanent, and pieces
 * of several takes, one of them twice in a part. What it sounds like is checked where it is opened
 * (app/storage/migration.test.ts).
 */
const stored = (name: string): Record<string, unknown> =>
  JSON.parse(readFileSync(path.join(__dirname, `fixtures/session-${name}.json`), 'utf8')) as Record<
    string,
    unknown
  >;

const piecesIn = ({ layers, folded }: Part) =>
  [layers, ...folded.map((fold) => fold.layers)].flatMap((each) =>
    listOf(each).flatMap(({ pieces }) => listOf(pieces)),
  );

describe('a session of version 1', () => {
  const name = '1-pieces';

  it('becomes one of today’s, the same each time, and is itself left alone', () => {
    const document = stored(name);
    const session = readDocument(document);
    expect(versionOf(document)).toBe(1);
    expect(document).toEqual(stored(name));
    expect(readDocument(document)).toEqual(session);
    expect(sessionSchema.parse(session)).toEqual(session);
    expect(readDocument(session)).toEqual(session);
    expect(session.parts.order).toEqual((document.parts as { id: string }[]).map(({ id }) => id));
  });

  it('gives every piece a number of its own, and edits speak of notes of the part they are in', () => {
    const session = readDocument(stored(name));
    const numbers = listOf(session.parts)
      .flatMap(piecesIn)
      .map(({ number }) => number);
    expect(new Set(numbers).size).toBe(numbers.length);
    expect(Math.max(...numbers)).toBeLessThan(session.nextPiece);
    for (const part of listOf(session.parts)) {
      const own = new Set(piecesIn(part).map(({ number }) => number));
      for (const { step } of listOf(part.steps)) {
        if (step.kind !== 'edits') continue;
        for (const id of [...Object.keys(step.change).map(Number), ...step.delete]) {
          const note = pieceAndRow(id);
          expect(note ? own.has(note.piece) : id >= FIRST_DRAWN_ID).toBe(true);
        }
      }
    }
  });
});

describe('a session that was put together', () => {
  const document = stored('2-assembled');
  const session = readDocument(document);
  const parts = listOf(session.parts);

  it('opens with every choice: takes, seams, blocks, groups, the line between hands, lanes, markers', () => {
    expect(session).toEqual(document);
    const [bell, , left] = parts;
    expect(listOf(bell.takes ?? orderedOf([])).map(({ slide }) => slide)).toEqual([0, 12]);
    expect(piecesIn(bell).map(({ held }) => held)).toEqual([undefined, 'cut', undefined]);
    expect(bell.group).toBe('Bells');
    expect(listOf(bell.steps)[0].step).toMatchObject({ kind: 'layout', blocks: [{}, { muted: true }] });
    expect(piecesIn(left)[0].split).toMatchObject({ by: 'hand', line: [{ bar: 2, shift: 5 }, { bar: 4 }] });
    expect(parts[4].lanes).toEqual({ cc11: 'layer1' });
    expect(session.markers?.map(({ name }) => name)).toEqual(['Quay', 'Open water']);
  });

  it('need have none of them: one stored before they were there is the same without', () => {
    const plain = readDocument(stored('1-pieces'));
    expect(plain.markers).toBeUndefined();
    for (const part of listOf(plain.parts)) {
      expect([part.takes, part.group, part.lanes]).toEqual([undefined, undefined, undefined]);
      expect(piecesIn(part).every(({ held, split }) => held === undefined && !split?.line)).toBe(true);
    }
  });
});

describe('a session whose beats were told', () => {
  const document = stored('2-pulse');
  const session = readDocument(document);
  const [part] = listOf(session.parts);

  it('opens with all that was said of them, with the findings that were let be, and locked to real time', () => {
    expect(part.lockedTo).toBe('seconds');
    // What could be said of one place is one of several that may be said now.
    expect(part.pulse).toEqual({
      beats: [0.52, 1.04, 1.58],
      period: [0.4, 0.7],
      division: 'binary',
      beatsPerBar: 3,
      places: [{ at: 0.52, beat: 1, bar: 4 }],
      without: [2.4],
      settling: 'bars',
      roundTo: 0.1,
    });
    expect(part.dismissed).toHaveLength(2);
    expect(session.tempos).toHaveLength(2);
  });

  it('opens with the beats that were laid by hand, and with what stood before them', () => {
    const document = stored('3-beats');
    const { minor, ...laid } = document;
    expect(minor).toBe(3);
    expect(readDocument(document)).toEqual(laid);
  });

  it('need say nothing of what was not asked then', () => {
    const { without, ...earlier } = part.pulse ?? { without: undefined };
    expect(without).toEqual([2.4]);
    const parts = mapItems(session.parts, (each) =>
      each.id === part.id ? { ...each, pulse: earlier } : each,
    );
    expect(listOf(readDocument({ ...session, parts }).parts)[0].pulse).toEqual(earlier);
  });
});

describe('a session in whose lanes was drawn', () => {
  it('opens with every point; lines that were drawn before they were kept as such are points', () => {
    const { minor, ...drawn } = stored('4-lanes');
    expect(minor).toBe(4);
    const session = readDocument({ ...drawn, minor });
    expect(session).toEqual(drawn);
    const step = listOf(listOf(session.parts)[0].steps)
      .map((each) => each.step)
      .find(isByHand);
    expect(step?.curves?.map(({ points }) => points.length)).toEqual([5, 3]);
    expect(drawnLines(step?.curves ?? [], 'cc11', 1)).toEqual([]);
  });
});

describe('a session whose drawn lines are kept as such', () => {
  it('opens with every line, and says nothing yet of how its parts are written down', () => {
    const { minor, ...drawn } = stored('5-lines');
    expect(minor).toBe(5);
    const session = readDocument({ ...drawn, minor });
    expect(session).toEqual(drawn);
    const step = listOf(listOf(session.parts)[0].steps)
      .map((each) => each.step)
      .find(isByHand);
    expect(drawnLines(step?.curves ?? [], 'cc11', 1)).toHaveLength(1);
    expect(listOf(session.parts)[0].notation).toBeUndefined();
    const [first] = session.parts.order;
    const written = { ...session.parts.byId[first], notation: { staves: 2 as const, finest: 8 as const } };
    const parts = { ...session.parts, byId: { ...session.parts.byId, [first]: written } };
    expect(readDocument({ ...session, parts }).parts.byId[first].notation).toEqual(written.notation);
  });
});

describe('a session whose parts say how they are written down', () => {
  it('opens with all they say, and no score lies beside them; one that is laid beside a part is kept', () => {
    const { minor, ...written } = stored('6-notation');
    expect(minor).toBe(6);
    const session = readDocument({ ...written, minor });
    expect(session).toEqual(written);
    for (const { notation, reference } of listOf(session.parts)) {
      expect(notation).toMatchObject({ staves: 2, handLine: 59, clef: 'alto' });
      expect(reference).toBeUndefined();
    }
    const [first] = session.parts.order;
    const reference = {
      score: '2:00',
      name: 'Fog signal',
      bars: [0, 4, 8],
      firstBar: 1 as const,
      beginsAt: 4,
      said: [{ at: 960, bar: 1 }],
    };
    const withScore = {
      ...session,
      parts: {
        ...session.parts,
        byId: { ...session.parts.byId, [first]: { ...session.parts.byId[first], reference } },
      },
    };
    expect(readDocument(withScore).parts.byId[first].reference).toEqual(reference);
    const falling = { ...reference, bars: [0, 8, 4] };
    Object.assign(withScore.parts.byId[first], { reference: falling });
    expect(() => readDocument(withScore)).toThrow('bars');
  });
});

describe('a stored document', () => {
  it('that is damaged is refused with the place, and one of a later version as such', () => {
    const document = stored('1-pieces');
    expect(() => readDocument({ ...document, parts: 5 })).toThrow('cannot be read at parts');
    expect(() => readDocument({ ...readDocument(document), nextPiece: 'x' })).toThrow(
      'cannot be read at nextPiece',
    );
    expect(() => readDocument({ version: 99 })).toThrow('newer Ordle');
    expect(() => readDocument(null)).toThrow('cannot be read at its start');
    const parts = { order: ['a'], byId: {} };
    expect(() => readDocument({ ...readDocument(document), parts })).toThrow('do not agree');
  });

  it('whose steps were stored before a setting was there keeps what they did', () => {
    const document = readDocument(stored('1-pieces'));
    const [part] = listOf(document.parts);
    const withStep = (step: object) => ({
      ...document,
      parts: mapItems(document.parts, (each) =>
        each.id === part.id ? { ...each, steps: { order: ['t'], byId: { t: { id: 't', step } } } } : each,
      ),
    });
    const read = (step: object) => listOf(listOf(readDocument(withStep(step)).parts)[0].steps)[0].step;
    const thin = { kind: 'curve', op: 'thin', lane: 'cc11', tolerance: 2 };
    expect(read(thin)).toMatchObject({ by: 'line' });
    expect(read({ ...thin, by: 'held' })).toMatchObject({ by: 'held' });
  });
});
