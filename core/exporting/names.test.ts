import fc from 'fast-check';
import { legalName, nameBy, namesApart, type NameValues } from './names';

const anyText = fc.oneof(fc.string({ unit: 'binary' }), fc.string({ unit: 'grapheme' }), fc.string());

describe('names of files', () => {
  it('are what was written where every system takes that', () => {
    for (const name of ['Ferry crossing', 'Fähre 2', '渡し舟', 'a.b', "L'heure (bleue)", 'κύμα'])
      expect(legalName(name)).toBe(name);
  });

  it('hold nothing that a system refuses or takes for something else', () => {
    expect(legalName('a/b\\c:d*e?f"g<h>i|j')).toBe('a-b-c-d-e-f-g-h-i-j');
    expect(legalName('..')).toBe('session');
    expect(legalName('../../etc/passwd')).toBe('etc-passwd');
    expect(legalName('CON')).toBe('_CON');
    expect(legalName('lpt1.notes')).toBe('_lpt1.notes');
    expect(legalName('Console')).toBe('Console');
    expect(legalName('tail. . ')).toBe('tail');
    expect(legalName('-rf')).toBe('rf');
    expect(legalName('tab\tline\nend')).toBe('tab-line-end');
    // A name that is read from right to left from its middle on could hide what it ends with.
    expect(legalName('quay\u202edim.exe')).toBe('quay-dim.exe');
    expect(legalName('', 'part')).toBe('part');
  });

  it('are legal whatever the text is, stay as they are when made legal again, and are not too long', () => {
    fc.assert(
      fc.property(anyText, (text) => {
        const name = legalName(text);
        expect(name).not.toBe('');
        // eslint-disable-next-line no-control-regex
        expect(name).not.toMatch(/[\u0000-\u001f\\/:*?"<>|]|^[\s.-]|[\s.]$/);
        expect(name).not.toMatch(/^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i);
        expect(Buffer.from(name).length).toBeLessThanOrEqual(201);
        expect(Buffer.from(name).toString()).toBe(name);
        expect(legalName(name)).toBe(name);
      }),
      { numRuns: 2000 },
    );
    expect(Buffer.from(legalName('渡'.repeat(500))).length).toBe(198);
  });

  it('follow a pattern; what has no value leaves nothing behind', () => {
    const values: NameValues = {
      session: 'Quay',
      part: 'Bass',
      section: '',
      number: '',
      bars: '',
      tempo: '104',
      version: '',
    };
    expect(nameBy('{session} - {part} - {bars} ({version})', values)).toBe('Quay - Bass');
    expect(nameBy('{section} - {part} - {tempo} bpm', values)).toBe('Bass - 104 bpm');
    expect(nameBy('{part}_{section}', { ...values, section: 'Verse' })).toBe('Bass_Verse');
    expect(nameBy('{session} {who}', values)).toBe('Quay {who}');
    expect(nameBy('{session} ({version})', { ...values, version: 'as played' })).toBe('Quay (as played)');
    // Braces in what a person wrote are no words of the pattern.
    expect(nameBy('{session}', { ...values, session: '{part}' })).toBe('{part}');
  });

  it('are apart from each other where capitals count for nothing', () => {
    const stems = ['Bass', 'bass', 'Bass (2)', 'Drums'].map((stem) => ({ stem, extension: 'mid' }));
    expect(namesApart(stems)).toEqual(['Bass.mid', 'bass (2).mid', 'Bass (2) (2).mid', 'Drums.mid']);
  });
});
