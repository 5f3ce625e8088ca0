import { listOf, orderedOf, readDocument, toStore, type Part, type Session } from '../session';
import { mergedPart } from '../arranging';
import { numbersOf } from '../takes';
import { studio } from '../testing/takesStudio';
import { movedToRecording, playersOf, pulseKeeper, recordedWith } from './recording';

const hints = (at: number): Part['pulse'] => ({ beats: [at], settling: 'beats' });

/** Three parts of one file, a fourth of another, and one made of the first two. */
function recorded(): Session {
  const { session, part } = studio([{ notes: [[0, 100, 60, 80]] }]);
  const own = (id: string, more: Partial<Part> = {}): Part => ({ ...part, id, name: id, ...more });
  const parts = [own('keys'), own('bass'), own('kit'), own('whistle', { recording: 'later' })];
  const how = {
    mode: 'layer',
    doubles: part.doubles,
    lead: 'keys',
    oneChannel: false,
    name: 'both',
  } as const;
  const both = mergedPart(parts.slice(0, 2), how, [0, 0], 'both', numbersOf(session));
  return { ...session, parts: orderedOf([...parts, both]) };
}
const idsOf = (parts: readonly Part[]) => parts.map(({ id }) => id);

describe('what was recorded together', () => {
  it('are the parts of one file and what is made of them; those that stand on takes have the pulse', () => {
    const session = recorded();
    const { keys, whistle, both } = session.parts.byId;
    expect(idsOf(recordedWith(keys, session))).toEqual(['keys', 'bass', 'kit', 'both']);
    expect(idsOf(playersOf(both, session))).toEqual(['keys', 'bass', 'kit']);
    expect(idsOf(recordedWith(whistle, session))).toEqual(['whistle']);
  });

  it('keeps what was said of its beats when a part leaves it or comes to it', () => {
    const session = recorded();
    const { byId } = session.parts;
    const said: Session = {
      ...session,
      parts: { ...session.parts, byId: { ...byId, keys: { ...byId.keys, pulse: hints(1) } } },
    };
    expect(pulseKeeper(byId.kit, said).id).toBe('keys');
    const left = movedToRecording(said, said.parts.byId.keys, null);
    expect(idsOf(recordedWith(left.parts.byId.keys, left))).toEqual(['keys']);
    for (const id of ['keys', 'kit']) expect(pulseKeeper(left.parts.byId[id], left).pulse).toEqual(hints(1));
    const back = movedToRecording(left, left.parts.byId.keys, { of: left.parts.byId.kit });
    expect(idsOf(recordedWith(back.parts.byId.kit, back))).toEqual(['keys', 'bass', 'kit', 'both']);
    expect(listOf(back.parts).filter(({ pulse }) => pulse)).toHaveLength(1);
  });

  it('goes on part by part in a session stored when each part had a pulse of its own', () => {
    const session = recorded();
    const byId = Object.fromEntries(
      listOf(session.parts).map((part, at) => [
        part.id,
        { ...part, ...(part.id !== 'kit' && { pulse: hints(at) }) },
      ]),
    );
    const stored = { ...toStore({ ...session, parts: { ...session.parts, byId } }), minor: 1 };
    const read = readDocument(stored);
    expect(idsOf(recordedWith(read.parts.byId.keys, read))).toEqual(['keys']);
    expect(read.parts.byId.bass.pulse).toEqual(hints(1));
    // Where only one had something said, it is of all that were recorded with it.
    const one = {
      ...byId,
      bass: session.parts.byId.bass,
      whistle: session.parts.byId.whistle,
      both: session.parts.byId.both,
    };
    const together = readDocument({
      ...toStore({ ...session, parts: { ...session.parts, byId: one } }),
      minor: 1,
    });
    expect(pulseKeeper(together.parts.byId.kit, together).pulse).toEqual(hints(0));
  });
});
