import '@/shell/commands';
import '@/places/commands';
import { meet } from './command';
import { keyName, showKey } from './keys';
import { allCommands } from './runtime';

const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
  key,
  code: '',
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...more,
});

describe('shortcuts', () => {
  it('are written the same way in lists of commands and from key presses', () => {
    expect(keyName(press('z', { ctrlKey: true }))).toBe('Mod+Z');
    expect(keyName(press('Z', { metaKey: true, shiftKey: true }))).toBe('Mod+Shift+Z');
    expect(keyName(press(' '))).toBe('Space');
    expect(keyName(press('?', { shiftKey: true }))).toBe('?');
    expect(keyName(press('+', { shiftKey: true }))).toBe('+');
    expect(keyName(press(':', { shiftKey: true, code: 'Period' }))).toBe('Shift+.');
    expect(keyName(press('ArrowLeft', { altKey: true }))).toBe('Alt+ArrowLeft');
  });

  it('belong to one command each, of those that can be there at once', () => {
    const all = allCommands();
    expect(all.length).toBeGreaterThan(80);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    const clashes = all.flatMap((one) =>
      all
        .filter((other) => one !== other && meet(one.scope, other.scope))
        .flatMap((other) => one.keys.filter((key) => other.keys.includes(key)).map((key) => [one.id, key])),
    );
    expect(clashes).toEqual([]);
  });

  it('read well', () => {
    expect(['Mod+Shift+Z', 'Alt+ArrowLeft', '+', 'Shift+.'].map(showKey)).toEqual([
      'Ctrl+Shift+Z',
      'Alt+←',
      '+',
      'Shift+.',
    ]);
  });
});
