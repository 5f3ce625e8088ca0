import { useEffect } from 'react';
import { isTyping } from '@/ui';
import { createSmallStore } from '@/ui/smallStore';
import { FINDING_COMMANDS, meet, type Command, type CommandId } from './command';
import { keyName } from './keys';

/** Who does a command just now; undefined while nobody can. */
type Handler = () => void;

const handlers = new Map<string, Handler[]>();
/** Commands that last as long as their key is held. */
const held = new Map<string, (isHeld: boolean) => void>();
const STORE = 'ordle-shortcuts';
/** A person's own keys, by command. */
const custom = createSmallStore<Record<string, string[]>>(readCustom());

function readCustom(): Record<string, string[]> {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(STORE) ?? '{}');
    if (typeof kept !== 'object' || kept === null) return {};
    return Object.fromEntries(
      Object.entries(kept).filter(
        (entry): entry is [string, string[]] =>
          Array.isArray(entry[1]) && entry[1].every((key) => typeof key === 'string'),
      ),
    );
  } catch {
    return {};
  }
}

let registered: readonly Command[] = FINDING_COMMANDS;
let extra: readonly Command[] = [];
const everyCommand = createSmallStore<readonly Command[]>(registered);

/** The commands that were registered, and those that come and go with what a person keeps, such as recipes. */
export const allCommands = everyCommand.get;

const gather = () => everyCommand.set([...registered, ...extra]);

/** Adds the commands of a place or a frame, once, when its list is loaded. */
export function registerCommands(commands: readonly Command[]): void {
  registered = [...registered, ...commands];
  gather();
}

/**
 * Puts the commands a person's things bring beside those that were registered, instead of the ones put there before.
 */
export function setExtraCommands(commands: readonly Command[]): void {
  extra = commands;
  gather();
}

/** The keys of a command: the person's own where there are some. */
export function keysOf(id: string): string[] {
  return custom.get()[id] ?? allCommands().find((command) => command.id === id)?.keys ?? [];
}

/** The command a key belongs to, other than `except` and where both may be there at once; for telling conflicts. */
export function commandOfKey(key: string, except?: string): string | undefined {
  const scope = allCommands().find(({ id }) => id === except)?.scope ?? 'everywhere';
  return allCommands().find(
    (command) => command.id !== except && meet(command.scope, scope) && keysOf(command.id).includes(key),
  )?.id;
}

/** The command a key does just now: of those that have it, the one that somebody can do. */
function commandForKey(key: string): string | undefined {
  return allCommands().find(({ id }) => (canRun(id) || held.has(id)) && keysOf(id).includes(key))?.id;
}

/** Gives a command other keys; null puts its own back. Kept in this browser. */
export function setKeys(id: string, keys: string[] | null): void {
  const own = { ...custom.get() };
  if (keys === null) delete own[id];
  else own[id] = keys;
  try {
    localStorage.setItem(STORE, JSON.stringify(own));
  } catch {
    // Storage refused: the keys last as long as the page.
  }
  custom.set(own);
}

export const isCustom = (id: string): boolean => id in custom.get();

/** All commands; re-renders when they or their shortcuts change. */
export function useShortcuts() {
  custom.useValue();
  return everyCommand.useValue();
}

export function canRun(id: string): boolean {
  return (handlers.get(id)?.length ?? 0) > 0;
}

/** Runs a command; false when nobody can do it just now. */
export function run(id: CommandId): boolean {
  return runAny(id);
}

function runAny(id: string): boolean {
  const handler = handlers.get(id)?.at(-1);
  handler?.();
  return handler !== undefined;
}

/** Offers to do some commands while the component is there. Handlers may change at every render. */
export function useCommands(offered: Partial<Record<CommandId, Handler | false | undefined>>) {
  useEffect(() => {
    const mine = Object.entries(offered).filter(
      (entry): entry is [string, Handler] => typeof entry[1] === 'function',
    );
    for (const [id, handler] of mine) handlers.set(id, [...(handlers.get(id) ?? []), handler]);
    return () => {
      for (const [id, handler] of mine)
        handlers.set(
          id,
          (handlers.get(id) ?? []).filter((other) => other !== handler),
        );
    };
  });
}

/** Offers something that lasts as long as a command's key is held down. */
export function useHeldCommand(id: CommandId, onHold: (isHeld: boolean) => void): void {
  useEffect(() => {
    held.set(id, onHold);
    return () => void held.delete(id);
  }, [id, onHold]);
}

/** Keys a focused control needs for itself. */
const CONTROL_KEYS = new Set([
  'Space',
  'Enter',
  'ArrowLeft',
  'ArrowRight',
  'ArrowUp',
  'ArrowDown',
  'Home',
  'End',
  'PageUp',
  'PageDown',
]);

/**
 * Whether the focus is where a click put it, or what a click did: browsers show a focus at the next key press, whatever
 * key that is, and menus and dialogs give it back to where they were opened from. Tab says otherwise.
 */
let isByPointer = false;

function belongsToControl(event: KeyboardEvent, key: string): boolean {
  const element = event.target as HTMLElement | null;
  if (!element || !CONTROL_KEYS.has(key)) return false;
  // A slider has no use for Enter.
  const isLeft = key === 'Space' || (key === 'Enter' && element.matches('[role=slider]'));
  if (
    element.closest('[role=slider], [role=radiogroup], [role=toolbar], [role=grid], [role=menu]') &&
    !isLeft
  )
    return true;
  // A control reached by keyboard takes Space and Enter, a link only Enter; one that was only clicked leaves Space to
  // the music.
  if (isByPointer) return false;
  const controls = 'button:focus-visible, [role=checkbox]:focus-visible, [role=radio]:focus-visible';
  return (
    (key === 'Space' && element.matches(controls)) ||
    (key === 'Enter' && element.matches(`${controls}, a:focus-visible`))
  );
}

/** Whether undo or redo is pressed in a field in which nothing was typed yet: then it is the music that is meant. */
const isUndoBeside = (event: KeyboardEvent): boolean =>
  (event.target as HTMLElement).matches('[data-untouched]') &&
  ['undo', 'redo'].includes(commandForKey(keyName(event)) ?? '');

/** Whether a key is for the whole app, which it is in a field too: the places and finding, never a plain letter. */
const isForAll = (event: KeyboardEvent): boolean => {
  // With AltGr a character is typed, which some systems report as Ctrl and Alt.
  const isCommand = (event.ctrlKey || event.metaKey) && !event.getModifierState('AltGraph');
  const id = isCommand ? commandForKey(keyName(event)) : undefined;
  return allCommands().find((command) => command.id === id)?.scope === 'everywhere';
};

/** Turns key presses into commands, for the whole window. */
export function useCommandKeys() {
  useEffect(() => {
    let holding: { code: string; hold(isHeld: boolean): void }[] = [];
    const onDown = (event: KeyboardEvent) => {
      if (event.key === 'Tab') isByPointer = false;
      if (event.defaultPrevented || (isTyping(event.target) && !isUndoBeside(event) && !isForAll(event)))
        return;
      if ((event.target as HTMLElement | null)?.closest('[role=dialog], [role=menu], [role=listbox]')) return;
      const key = keyName(event);
      if (belongsToControl(event, key)) return;
      const id = commandForKey(key);
      if (id === undefined) return;
      const hold = held.get(id);
      if (hold) {
        if (!event.repeat) {
          holding.push({ code: event.code, hold });
          hold(true);
        }
        event.preventDefault();
        return;
      }
      // Copy, cut and paste go by the browser's clipboard events, which need the key to go on.
      if (id === 'copy' || id === 'cut' || id === 'paste' || id === 'paste-in-place') {
        if (id === 'paste-in-place') {
          // The browser would paste by itself as well.
          event.preventDefault();
          runAny(id);
        }
        return;
      }
      if (event.repeat && (id === 'play' || id === 'loop')) return;
      event.preventDefault();
      runAny(id);
    };
    const letGo = (code?: string) => {
      const over = holding.filter((each) => code === undefined || each.code === code);
      holding = holding.filter((each) => !over.includes(each));
      for (const { hold } of over) hold(false);
    };
    const onUp = ({ code }: KeyboardEvent) => letGo(code);
    const onBlur = () => letGo();
    const onPointer = () => {
      isByPointer = true;
    };
    window.addEventListener('keydown', onDown);
    window.addEventListener('keyup', onUp);
    window.addEventListener('blur', onBlur);
    window.addEventListener('pointerdown', onPointer, true);
    return () => {
      window.removeEventListener('keydown', onDown);
      window.removeEventListener('keyup', onUp);
      window.removeEventListener('blur', onBlur);
      window.removeEventListener('pointerdown', onPointer, true);
    };
  }, []);
}
