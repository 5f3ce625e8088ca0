interface LetterButtonProps {
  letter: string;
  name: string;
  isOn: boolean;
  disabled: boolean;
  onClick(): void;
}

/** Mute or solo: filled while it is on, seen on its row while it is not. */
export function LetterButton({ letter, name, isOn, disabled, onClick }: LetterButtonProps) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={isOn}
      disabled={disabled}
      onClick={onClick}
      className={`h-6 w-6 shrink-0 rounded-small text-quiet ${isOn ? 'bg-set text-on-set' : 'hidden text-ink-2 group-focus-within:inline group-hover:inline hover:text-ink'}`}
    >
      {letter}
    </button>
  );
}
