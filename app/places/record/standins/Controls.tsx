import { useEffect, useRef, useState } from 'react';
import { Slider } from 'radix-ui';
import { STAND_INS, arrive, letGoInputs } from '@/recording/inputs';

const STRIPS = [
  { controller: 1, label: 'Modulation', rest: 0 },
  { controller: 11, label: 'Expression', rest: 127 },
  { controller: 2, label: 'Breath', rest: 0 },
] as const;
const PEDALS = [
  { controller: 64, label: 'Sustain' },
  { controller: 66, label: 'Sostenuto' },
  { controller: 67, label: 'Soft' },
] as const;
const CENTRE = 8192;

const send = (controller: number, value: number) => arrive(STAND_INS.controls, [0xb0, controller, value]);
const bendTo = (raw: number) => arrive(STAND_INS.controls, [0xe0, raw & 127, raw >> 7]);

/** Wheels, a bend that springs back, and three pedals that are down as long as they are held. */
export function Controls() {
  const [values, setValues] = useState<Record<number, number>>({});
  const [bend, setBend] = useState(CENTRE);
  const [down, setDown] = useState<number | null>(null);
  const bending = useRef(false);
  const springBack = () => {
    if (!bending.current) return;
    bending.current = false;
    setBend(CENTRE);
    bendTo(CENTRE);
  };
  useEffect(() => {
    window.addEventListener('pointerup', springBack);
    window.addEventListener('blur', springBack);
    return () => {
      window.removeEventListener('pointerup', springBack);
      window.removeEventListener('blur', springBack);
      letGoInputs(STAND_INS.controls.id);
    };
  }, []);
  const hold = (controller: number, isDown: boolean) => {
    if (isDown === (down === controller)) return;
    setDown(isDown ? controller : null);
    send(controller, isDown ? 127 : 0);
  };
  return (
    <div className="flex min-h-0 grow items-center gap-8 px-2">
      <div className="grid grow grid-cols-[6rem_1fr_2.5rem] items-center gap-x-3 gap-y-3">
        {STRIPS.map(({ controller, label, rest }) => (
          <Strip
            key={controller}
            label={label}
            value={values[controller] ?? rest}
            max={127}
            onChange={(value) => {
              setValues((before) => ({ ...before, [controller]: value }));
              send(controller, value);
            }}
          />
        ))}
        <Strip
          label="Bend"
          value={bend}
          max={16383}
          shown={`${bend - CENTRE}`}
          onChange={(raw) => {
            bending.current = true;
            setBend(raw);
            bendTo(raw);
          }}
          onRelease={springBack}
        />
      </div>
      <div className="flex gap-2">
        {PEDALS.map(({ controller, label }) => (
          <button
            key={controller}
            type="button"
            aria-pressed={down === controller}
            // A click leaves the keys to the place.
            onMouseDown={(event) => event.preventDefault()}
            onPointerDown={() => hold(controller, true)}
            onPointerUp={() => hold(controller, false)}
            onPointerLeave={() => hold(controller, false)}
            onKeyDown={({ key, repeat }) =>
              (key === ' ' || key === 'Enter') && !repeat && hold(controller, true)
            }
            onKeyUp={({ key }) => (key === ' ' || key === 'Enter') && hold(controller, false)}
            className="h-24 w-24 touch-none rounded-medium border border-edge bg-sheet select-none hover:bg-well aria-pressed:translate-y-1 aria-pressed:bg-set aria-pressed:text-on-set"
          >
            {label}
          </button>
        ))}
      </div>
    </div>
  );
}

interface StripProps {
  label: string;
  value: number;
  max: number;
  shown?: string;
  onChange(value: number): void;
  onRelease?(): void;
}

function Strip({ label, value, max, shown, onChange, onRelease }: StripProps) {
  return (
    <>
      <span className="text-ink-2">{label}</span>
      <Slider.Root
        value={[value]}
        max={max}
        onValueChange={([next]) => onChange(next)}
        onKeyUp={onRelease}
        className="relative flex h-6 touch-none items-center select-none"
      >
        <Slider.Track className="relative h-px grow bg-rule-strong" />
        <Slider.Thumb aria-label={label} className="block h-6 w-4 rounded-small border border-edge bg-ink" />
      </Slider.Root>
      <span className="text-right font-semibold">{shown ?? value}</span>
    </>
  );
}
