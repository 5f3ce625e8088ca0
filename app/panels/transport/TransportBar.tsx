import { keysOf, showKey } from '@/commands';
import { barAt, bpmOf, meterRowAt, positionAt, secondsToTicks, ticksToSeconds } from '@ordle/core';
import { Play, Square } from 'lucide-react';
import { Popover, Slider } from 'radix-ui';
import { useEffect, useRef, type RefObject } from 'react';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { Button, Check, MessagesRoom, NumberField } from '@/ui';
import { NARROW, useMedia } from '@/ui/useMedia';
import { useRoving } from '@/ui/useRoving';
import { SheetButtons } from '@/panels/SidePanel';
import { barsInWords } from '@/words/counts';
import { NoteValueOptions } from '@/panels/settings/forms/GridPicker';
import { useOpenBench } from '@/music/useBench';
import { setHolding, useHolding } from '@/playback/holding';
import { useTransport, type usePlayback } from '@/playback/usePlayback';

interface TransportBarProps {
  playback: ReturnType<typeof usePlayback>;
}

/** Play, loop, position, tempo, click, grid, and the switch between before and after. */
export function TransportBar({ playback }: TransportBarProps) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const { state, message, starting } = useTransport();
  const holding = useHolding();
  const { view, timeline } = bench;
  const { loop } = view;
  const hasLoop = loop.to > loop.from;
  const barOf = (tick: number) => barAt(timeline.meter, tick).number;
  const isNarrow = useMedia(NARROW);
  const bar = useRoving<HTMLElement>();
  const position = useRef<HTMLSpanElement>(null);
  const controls = (
    <>
      <span title="Loop (L); drag over the ruler to say which bars">
        <Check
          checked={loop.on}
          disabled={!hasLoop && !loop.on}
          onChange={(on) => dispatch(viewChanged({ loop: { ...loop, on } }))}
        >
          {hasLoop ? `Loop ${barsInWords(barOf(loop.from), barOf(loop.to - 1))}` : 'Loop'}
        </Check>
      </span>
      <TempoAndMeter />
      <span title="Click on every beat (C)">
        <Check checked={view.click} onChange={(click) => dispatch(viewChanged({ click }))}>
          Click
        </Check>
      </span>
      <label className="flex items-center gap-1.5 text-ink-2">
        Grid
        <select
          aria-label="Grid shown"
          title="The lines that are drawn, and that go with what is dragged. Default: automatic, by how near you look."
          value={view.tuplet ? 'tuplet' : view.grid}
          onChange={({ target: { value } }) =>
            dispatch(
              viewChanged(
                value === 'tuplet' ? { tuplet: { count: 5, in: '1/4' } } : { grid: value, tuplet: null },
              ),
            )
          }
          className="h-6 rounded-medium border border-transparent bg-transparent font-semibold text-ink hover:border-edge"
        >
          <option value="adaptive">automatic</option>
          <NoteValueOptions />
          <option value="tuplet">tuplet</option>
        </select>
      </label>
      {view.tuplet && (
        <span className="flex items-baseline gap-1 text-ink-2">
          <NumberField
            label="Parts of the tuplet shown"
            value={view.tuplet.count}
            min={2}
            max={64}
            className="w-8"
            onCommit={(count) => dispatch(viewChanged({ tuplet: { count, in: view.tuplet?.in ?? '1/4' } }))}
          />
          in 1/4
        </span>
      )}
      {!isNarrow && <MessagesRoom after={position} />}
      <Blend
        value={holding ? 0 : view.blend}
        holding={holding}
        onChange={(blend) => dispatch(viewChanged({ blend }))}
        onHold={setHolding}
      />
    </>
  );
  return (
    <footer
      ref={bar}
      aria-label="Transport"
      className="flex h-11 shrink-0 items-center gap-4 border-t border-rule-strong px-3 narrow:gap-2 short:h-9"
    >
      <button
        type="button"
        aria-label={playback.playing || starting ? 'Stop' : 'Play'}
        title={`${playback.playing ? 'Stop' : 'Play'} (Space)`}
        onClick={() => void playback.toggle()}
        className="flex h-8 w-8 shrink-0 items-center justify-center rounded-full bg-accent text-on-accent hover:brightness-110"
      >
        {playback.playing || starting ? (
          <Square size={14} fill="currentColor" aria-hidden="true" />
        ) : (
          <Play size={16} fill="currentColor" className="ml-0.5" aria-hidden="true" />
        )}
      </button>
      <Position playing={playback.playing} room={position} />
      {state === 'loading' && starting && <span className="text-ink-2">loading the instruments ...</span>}
      {message !== null && (
        <span role="status" title={message} className="max-w-40 truncate font-semibold text-ink">
          {message}
        </span>
      )}
      {isNarrow ? (
        <>
          <MessagesRoom after={position} />
          <SheetButtons />
          <Popover.Root>
            <Popover.Trigger asChild>
              <Button>More ▾</Button>
            </Popover.Trigger>
            <Popover.Portal>
              <Popover.Content
                side="top"
                align="end"
                sideOffset={4}
                className="z-50 flex max-w-[92vw] flex-col items-start gap-3 rounded-medium border border-edge bg-sheet p-3"
              >
                {controls}
              </Popover.Content>
            </Popover.Portal>
          </Popover.Root>
        </>
      ) : (
        controls
      )}
    </footer>
  );
}

/** Bar, beat and tick, and the time; written straight into the page at every frame while playing. */
function Position({ playing, room }: { playing: boolean; room: RefObject<HTMLSpanElement | null> }) {
  const bench = useOpenBench();
  const place = useRef<HTMLSpanElement>(null);
  const clock = useRef<HTMLSpanElement>(null);
  const { timeline } = bench;
  useEffect(() => {
    let frame = 0;
    const write = () => {
      const second = transport.second();
      const { bar, beat, tick } = positionAt(timeline.meter, secondsToTicks(timeline.tempo, second));
      if (place.current) place.current.textContent = `${bar}.${beat}.${String(tick).padStart(3, '0')}`;
      if (clock.current)
        clock.current.textContent = `${Math.floor(second / 60)}:${(second % 60).toFixed(1).padStart(4, '0')}`;
      if (playing) frame = requestAnimationFrame(write);
    };
    write();
    const stop = transport.subscribe(write);
    return () => {
      cancelAnimationFrame(frame);
      stop();
    };
  }, [timeline, playing]);
  return (
    <span
      ref={room}
      className="flex w-36 items-baseline gap-2 max-sm:w-auto"
      role="timer"
      aria-label="Position"
    >
      <span ref={place} data-testid="position" className="text-[1.2rem] font-semibold" />
      <span ref={clock} className="text-quiet text-ink-2 max-sm:hidden" />
    </span>
  );
}

function TempoAndMeter() {
  const bench = useOpenBench();
  const { tempo, meter } = bench.timeline;
  const varies = tempo.tick.length > 1;
  const row = meterRowAt(meter, 0);
  return (
    <span className="flex gap-3 text-ink-2">
      <span
        title={
          varies
            ? `The tempo changes ${tempo.tick.length - 1} times; first ${ticksToSeconds(tempo, tempo.tick[1]).toFixed(1)} s`
            : undefined
        }
      >
        Tempo <b className="text-ink">{bpmOf(tempo.microsecondsPerQuarter[0]).toFixed(2)}</b>
        {varies && ' ...'}
      </span>
      <span>
        Meter{' '}
        <b className="text-ink">
          {meter.numerator[row]}/{meter.denominator[row]}
        </b>
        {meter.tick.length > 1 && ' ...'}
      </span>
    </span>
  );
}

interface BlendProps {
  value: number;
  holding: boolean;
  onChange(value: number): void;
  onHold(holding: boolean): void;
}

/** Anywhere between as played and cleaned; B held down hears it as played. */
function Blend({ value, holding, onChange, onHold }: BlendProps) {
  return (
    <div className="flex items-center gap-2.5">
      <span className={value < 0.02 ? 'font-semibold' : 'text-ink-2'}>as played</span>
      <Slider.Root
        value={[Math.round(value * 100)]}
        max={100}
        onValueChange={([next]) => onChange(next / 100)}
        title="What is heard and seen, from as played to cleaned. 0 to 100 %, default 100."
        className="relative flex h-5 w-36 touch-none items-center"
      >
        <Slider.Track className="relative h-px grow bg-rule-strong">
          <Slider.Range className="absolute h-0.5 -translate-y-px bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Blend between as played and cleaned, percent cleaned"
          className="block h-3.5 w-1.5 rounded-[1px] bg-ink hover:bg-ink-2"
        />
      </Slider.Root>
      <span className={value > 0.98 ? 'font-semibold' : 'text-ink-2'}>cleaned</span>
      <button
        type="button"
        aria-pressed={holding}
        title="Hold to hear it as played"
        onPointerDown={() => onHold(true)}
        onPointerUp={() => onHold(false)}
        onPointerLeave={() => onHold(false)}
        onPointerCancel={() => onHold(false)}
        className={`rounded-small border px-1.5 text-quiet ${holding ? 'border-ink bg-sheet text-ink' : 'border-rule-strong text-ink-2'}`}
      >
        hold {keysOf('hold-played').map(showKey).join(' or ')}
      </button>
    </div>
  );
}
