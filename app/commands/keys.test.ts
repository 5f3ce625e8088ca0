import { COMMANDS } from './catalogue';
import { keyName, showKey } from './keys';

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
  it('are written the same way in the catalogue and from key presses', () => {
    expect(keyName(press('z', { ctrlKey: true }))).toBe('Mod+Z');
    expect(keyName(press('Z', { metaKey: true, shiftKey: true }))).toBe('Mod+Shift+Z');
    expect(keyName(press(' '))).toBe('Space');
    expect(keyName(press('?', { shiftKey: true }))).toBe('?');
    expect(keyName(press('+', { shiftKey: true }))).toBe('+');
    expect(keyName(press(':', { shiftKey: true, code: 'Period' }))).toBe('Shift+.');
    expect(keyName(press('ArrowLeft', { altKey: true }))).toBe('Alt+ArrowLeft');
  });

  it('belong to one command each', () => {
    const keys = COMMANDS.flatMap((command) => command.keys);
    expect(new Set(keys).size).toBe(keys.length);
    expect(new Set(COMMANDS.map(({ id }) => id)).size).toBe(COMMANDS.length);
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
