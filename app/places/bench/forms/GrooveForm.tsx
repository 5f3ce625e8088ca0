import { BUILT_IN_GROOVES, patternOf, quartersOf, type GroovePattern, type GrooveStep } from '@ordle/core';
import { SliderField } from '@/ui';
import { signed, type StepFormProps } from './formProps';

/** Choose a pattern by its picture, and how much of it. */
export function GrooveForm({ step, disabled, onChange, onAbandon }: StepFormProps<GrooveStep>) {
  const chosen = patternOf(step);
  const own = typeof step.groove === 'string' ? [] : [step.groove];
  return (
    <>
      <div role="radiogroup" aria-label="Groove" className="grid grid-cols-2 gap-1.5">
        {[...BUILT_IN_GROOVES, ...own].map((groove) => (
          <button
            key={groove.name}
            type="button"
            role="radio"
            aria-checked={groove.name === chosen.name}
            disabled={disabled}
            onClick={() =>
              onChange(`Groove ${groove.name}`, { groove: own.includes(groove) ? groove : groove.name })
            }
            className={`border px-1.5 pt-1 text-left text-quiet ${groove.name === chosen.name ? 'border-accent bg-accent-soft' : 'border-rule hover:border-rule-strong'}`}
          >
            <GroovePicture groove={groove} />
            <span className="block truncate">{groove.name}</span>
          </button>
        ))}
      </div>
      <SliderField
        label="Timing"
        value={step.timing}
        min={0}
        max={130}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(timing, gesture) => onChange(`Groove timing ${timing} %`, { timing }, gesture)}
      />
      <SliderField
        label="Accents"
        value={step.velocity}
        min={-100}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(velocity, gesture) =>
          onChange(`Groove accents ${signed(velocity)} %`, { velocity }, gesture)
        }
      />
      <SliderField
        label="Straighten first"
        value={step.straighten}
        min={0}
        max={100}
        unit="%"
        disabled={disabled}
        onAbandon={onAbandon}
        onChange={(straighten, gesture) => onChange(`Straighten ${straighten} %`, { straighten }, gesture)}
      />
      {step.straighten < 100 && step.timing > 0 && (
        <p className="text-quiet text-ink-2">
          The shifts are added to what is there; applied again they add up. Straightened at 100 % a repeat
          changes nothing.
        </p>
      )}
    </>
  );
}

/** Lines of the grid as faint ticks, strokes where the groove puts them, as high as their accent. */
function GroovePicture({ groove }: { groove: GroovePattern }) {
  const [width, height] = [104, 20];
  const step = quartersOf(groove.grid);
  const x = (beats: number) => 3 + (beats / groove.beats) * (width - 6);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden="true">
      <path d={`M0 ${height - 0.5}H${width}`} stroke="var(--rule-strong)" />
      {groove.points.map(({ at, shift, accent }) => (
        <g key={at}>
          <path d={`M${x(at)} ${height}V${height - 4}`} stroke="var(--ink-3)" />
          {/* Shifts are small: drawn at twice their size, at most a step. */}
          <path
            d={`M${x(at + Math.max(-step, Math.min(step, shift * 2)))} ${height}V${height - 3 - accent * (height - 5)}`}
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        </g>
      ))}
    </svg>
  );
}
