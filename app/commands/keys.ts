/** Keys whose Shift is part of the character: `?` is written without Shift. */
const SHIFTED = /^[?!":<>{}|+_*&^%$#@~()]$/;

/** A key press written the way lists of commands write it. */
export function keyName(
  event: Pick<KeyboardEvent, 'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>,
): string {
  let key = event.key === ' ' ? 'Space' : event.key;
  // With Shift a layout reports other characters for comma and full stop; the place of the key is meant.
  if (event.shiftKey && event.code === 'Period') key = '.';
  if (event.shiftKey && event.code === 'Comma') key = ',';
  // So it does for digits with Alt.
  if (event.altKey && /^Digit\d$/.test(event.code)) key = event.code.slice(-1);
  if (key.length === 1) key = key.toUpperCase();
  const parts: string[] = [];
  if (event.ctrlKey || event.metaKey) parts.push('Mod');
  if (event.altKey) parts.push('Alt');
  if (event.shiftKey && !SHIFTED.test(key)) parts.push('Shift');
  return [...parts, key].join('+');
}

const ARROWS: Record<string, string> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓' };

/** A key for people to read. */
export function showKey(name: string): string {
  const apple = typeof navigator !== 'undefined' && /Mac|iPhone|iPad/.test(navigator.platform);
  return name
    .split(/\+(?=.)/)
    .map((part) => (part === 'Mod' ? (apple ? 'Cmd' : 'Ctrl') : (ARROWS[part] ?? part)))
    .join('+');
}
