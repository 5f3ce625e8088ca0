import fc from 'fast-check';
import { conductedFile, sessionOf, storedTakesOf } from '../testing/markedSession';
import { exportSession, createEvaluator } from '../evaluate';
import { restoreTake } from '../model';
import { writeMidi } from '../midi';
import { keyOfColumns } from '../steps';
import { fromBase64, toBase64 } from './base64';
import { isCompressed, readSessionFile, writeSessionFile, type SessionFile } from '.';

describe('bytes as text', () => {
  it('are those of RFC 4648, section 10, and come back', () => {
    const text = (words: string) => toBase64(new TextEncoder().encode(words));
    expect(['', 'f', 'fo', 'foo', 'foob', 'fooba', 'foobar'].map(text)).toEqual([
      '',
      'Zg==',
      'Zm8=',
      'Zm9v',
      'Zm9vYg==',
      'Zm9vYmE=',
      'Zm9vYmFy',
    ]);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 200 }), (bytes) => {
        expect(fromBase64(toBase64(bytes))).toEqual(bytes);
        expect(toBase64(bytes)).toBe(Buffer.from(bytes).toString('base64'));
      }),
    );
    const long = Uint8Array.from({ length: 60_001 }, (_, at) => (at * 7919) % 256);
    expect(toBase64(long)).toBe(Buffer.from(long).toString('base64'));
    expect(() => fromBase64('Zm9v!A==')).toThrow('stand for no bytes');
    expect(() => fromBase64('Zm9vY')).toThrow('cut short');
  });
});

describe('a session as one file', () => {
  const { session, takes } = sessionOf(conductedFile([[0, 'Quay']]).bytes);
  const columns = {
    id: Float64Array.of(1, 2 ** 52),
    fields: Uint8Array.of(3, 32),
    start: Float64Array.of(0.5, 0),
    end: Float64Array.of(90, 0),
    pitch: Uint8Array.of(60, 0),
    velocity: Float64Array.of(80.25, 0),
    channel: Uint8Array.of(1, 1),
  };
  const table = { key: keyOfColumns(columns), ...columns };
  const file: SessionFile = { session, takes: storedTakesOf(session, takes), tables: [table] };

  it('comes back with every take and hand edit, and sounds the same', () => {
    const read = readSessionFile(writeSessionFile(file));
    expect(read).toEqual(file);
    const options = { format: 1, version: 'cleaned', parts: session.parts.order } as const;
    const written = (takeOf: typeof takes) =>
      writeMidi(exportSession(read.session, options, createEvaluator(takeOf), takeOf));
    const byKey = new Map(read.takes.map((take) => [take.key, restoreTake(take)]));
    expect(written((key) => byKey.get(key) ?? takes(key))).toEqual(written(takes));
  });

  it('that is damaged says what and where', () => {
    const text = writeSessionFile(file);
    expect(() => readSessionFile('quay')).toThrow('not JSON');
    expect(() => readSessionFile('{"ordle":"session"}')).toThrow('no session file, or a damaged one: ordle');
    const changed = JSON.parse(text) as { takes: { endTick: number; name: string }[]; session: object };
    const [take] = changed.takes;
    expect(() =>
      readSessionFile(
        JSON.stringify({ ...changed, takes: [{ ...take, endTick: 1 }, ...changed.takes.slice(1)] }),
      ),
    ).toThrow(/take “.*” in this session file is damaged/);
    expect(() => readSessionFile(JSON.stringify({ ...changed, takes: [] }))).toThrow(
      'is missing in this session file',
    );
    expect(() => readSessionFile(JSON.stringify({ ...changed, session: { version: 99 } }))).toThrow(
      'newer Ordle',
    );
    expect(isCompressed(Uint8Array.of(0x1f, 0x8b))).toBe(true);
    expect(isCompressed(Uint8Array.of(0x4d, 0x54))).toBe(false);
  });
});
