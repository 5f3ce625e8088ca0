import { ALL_LANES, laneName, type PartView } from '@ordle/core';
import { Command, defaultFilter } from 'cmdk';
import { Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useRef, useState } from 'react';
import { useCommands } from '@/commands';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { lanesShown } from '@/music/laneList';
import { usePartView } from '@/music/partViewStore';
import { useOpenBench, type BenchState } from '@/music/useBench';
import { counted } from '@/words/counts';
import { LANE_FAMILIES, LANE_WORDS } from '@/words/lanes';

const ITEM = 'flex cursor-pointer justify-between px-2.5 py-0.5 data-[selected=true]:bg-well';
const GROUP =
  '[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-1.5 [&_[cmdk-group-heading]]:text-quiet [&_[cmdk-group-heading]]:text-ink-2';

/** How well an entry fits what was typed: a number alone means the controller of that number and no other first. */
function likeness(value: string, search: string, keywords?: string[]): number {
  const number = /^\d+$/.exec(search.trim())?.[0];
  if (number !== undefined && value.endsWith(` cc${Number(number)}`)) return 1;
  return 0.9 * defaultFilter(value, search, keywords);
}

/** Adds a lane from a list that can be searched by number and name; lanes that hold points come first. */
export function AddLane({ onAdd, onClosed }: { onAdd(lane: string): void; onClosed(): void }) {
  const bench = useOpenBench();
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(false);
  // The list says a moment later that it was closed; it may be open again by then, and keeps the keys.
  const isOpen = useRef(false);
  const show = (next: boolean) => {
    isOpen.current = next;
    setOpen(next);
  };
  const { view } = usePartView();
  useCommands({ 'add-lane': () => show(true) });
  const offered = lanesOffered(bench, view);
  const { shown, used, elsewhere } = offered;
  const pick = (lane: string) => {
    // Velocities stand under the notes they belong to, in the editor itself.
    if (lane === 'velocity') dispatch(viewChanged({ velocities: true }));
    else onAdd(lane);
    show(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={show}>
      <Popover.Trigger asChild>
        <button
          type="button"
          className="flex h-6 shrink-0 items-center gap-1 px-2 text-quiet text-ink-2 hover:text-ink"
        >
          <Plus size={12} aria-hidden="true" />
          add a lane
          {used.length + elsewhere.length > 0 && shown.length === 0 && (
            <span className="text-ink-3">
              :{' '}
              {[...used, ...elsewhere]
                .slice(0, 4)
                .map(({ lane }) => laneName(lane))
                .join(', ')}
            </span>
          )}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          side="top"
          sideOffset={4}
          // Not back to the button: Space is to play, not to open the list again.
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!isOpen.current) onClosed();
          }}
          className="z-50 w-72 rounded-medium border border-edge bg-sheet"
        >
          <LaneList offered={offered} velocities={bench.view.velocities} onPick={pick} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface LanesOffered {
  shown: string[];
  used: PartView['lanesThere'];
  elsewhere: { lane: string; name: string }[];
  isThere(lane: string): boolean;
}

/** Which lanes are shown already, which hold points, and which do so in other parts of the channel. */
function lanesOffered(bench: BenchState, view: PartView | null): LanesOffered {
  const shown = lanesShown(bench).map(({ lane }) => lane);
  const own = view?.partId === bench.part?.id ? view : null;
  const there = own?.lanesThere ?? [];
  const isThere = (lane: string) => there.some((each) => each.lane === lane);
  const elsewhere = (own?.sharing ?? []).flatMap(({ name, lanes }) =>
    lanes
      .filter(({ lane }) => lane !== 'program' && !shown.includes(lane) && !isThere(lane))
      .map(({ lane }) => ({ lane, name })),
  );
  return { shown, used: there.filter(({ lane }) => !shown.includes(lane)), elsewhere, isThere };
}

/** Lanes by what they are for; pressure of single keys goes with pressure, what has no family comes last. */
function familiesOf(lanes: readonly string[]): { name: string; lanes: string[] }[] {
  const left = new Set(lanes);
  const families = LANE_FAMILIES.map(({ name, lanes: own }) => {
    const isOwn = (lane: string) => own.includes(lane) || (name === 'Pressure' && lane.startsWith('key'));
    const there = [
      ...own.filter((lane) => left.has(lane)),
      ...lanes.filter((lane) => isOwn(lane) && !own.includes(lane)),
    ];
    for (const lane of there) left.delete(lane);
    return { name, lanes: there };
  });
  return [...families, { name: 'Other controllers', lanes: [...left] }].filter(
    ({ lanes: own }) => own.length > 0,
  );
}

/** The list itself, made only while it is open. */
function LaneList({
  offered,
  velocities,
  onPick,
}: {
  offered: LanesOffered;
  velocities: boolean;
  onPick(lane: string): void;
}) {
  const [search, setSearch] = useState('');
  const { shown, used, elsewhere, isThere } = offered;
  // Single keys are offered to those who look for them: a number alone means a controller.
  const rest = ALL_LANES.filter(
    (lane) =>
      !shown.includes(lane) &&
      !isThere(lane) &&
      !elsewhere.some((each) => each.lane === lane) &&
      (!lane.startsWith('key') || /key|press/i.test(search)),
  );
  return (
    <Command label="Add a lane" filter={likeness}>
      <Command.Input
        value={search}
        onValueChange={setSearch}
        placeholder="Number or name"
        className="w-full border-b border-rule bg-transparent px-2.5 py-1.5 outline-none placeholder:text-ink-3"
      />
      <Command.List className="max-h-64 overflow-y-auto py-1">
        <Command.Empty className="px-2.5 py-2 text-ink-2">No match.</Command.Empty>
        {!velocities && (
          <Command.Item value="velocity" onSelect={() => onPick('velocity')} className={ITEM}>
            velocity
            <span className="text-quiet text-ink-2">of the notes</span>
          </Command.Item>
        )}
        {used.length > 0 && (
          <Command.Group heading="In this part" className={GROUP}>
            {used.map(({ lane, points }) => (
              <LaneItem key={lane} lane={lane} says={counted(points, 'point')} onPick={onPick} />
            ))}
          </Command.Group>
        )}
        {elsewhere.length > 0 && (
          <Command.Group heading="From other parts of the channel" className={GROUP}>
            {elsewhere.map(({ lane, name }) => (
              <LaneItem key={`${lane} ${name}`} lane={lane} part={name} onPick={onPick} />
            ))}
          </Command.Group>
        )}
        {familiesOf(rest).map(({ name, lanes }) => (
          <Command.Group key={name} heading={name} className={GROUP}>
            {lanes.map((lane) => (
              <LaneItem key={lane} lane={lane} onPick={onPick} />
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  );
}

interface LaneItemProps {
  lane: string;
  /** The other part it is of; what it holds is told otherwise. */
  part?: string;
  says?: string;
  onPick(lane: string): void;
}

/** A lane to pick, found by its name, its number, the part it is of, and other words for it. */
function LaneItem({ lane, part = '', says = part, onPick }: LaneItemProps) {
  return (
    <Command.Item
      value={`${laneName(lane)} ${lane} ${part}`}
      keywords={[...(LANE_WORDS[lane] ?? [])]}
      onSelect={() => onPick(lane)}
      className={ITEM}
    >
      {laneName(lane)}
      {says && <span className="text-quiet text-ink-2">{says}</span>}
    </Command.Item>
  );
}
