import { barAt, secondsToTicks, ticksToSeconds, type NamedSection, type Part } from '@ordle/core';
import { useState } from 'react';
import { toast } from 'sonner';
import { askForMarker, deleteMarker, moveMarker, renameMarker } from '@/edits/markerActions';
import { useOpenBench } from '@/music/useBench';
import { useMarkers, useSections } from '@/music/useMarkers';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { useRecipes } from '@/steps/recipeStore';
import { applyRecipeToSection, transposeSection } from '@/steps/sectionSteps';
import { Button, Dialog, LabelledRow, MoreMenu, NameField, NumberField, Select } from '@/ui';
import { barsInWords, counted } from '@/words/counts';

interface SectionsPanelProps {
  /** Where the music ends, in ticks. */
  endTick: number;
  /** The parts that what is done to a section is done to. */
  parts: readonly Part[];
  /** A section is to be selected, by what the place selects. */
  onSelect(section: NamedSection): void;
}

/** Markers by their sections: named, moved, looped, selected, transposed, and recipes applied to them. */
export function SectionsPanel({ endTick, parts, onSelect }: SectionsPanelProps) {
  const { timeline, mayWrite, view } = useOpenBench();
  const dispatch = useAppDispatch();
  const markers = useMarkers();
  const sections = useSections(endTick);
  const [draft, setDraft] = useState<{ id: string; name: string } | null>(null);
  const [asked, setAsked] = useState<NamedSection | null>(null);
  const nearestLine = (tick: number) => {
    const bar = barAt(timeline.meter, Math.max(0, tick));
    return tick - bar.start < bar.end - tick ? bar.start : bar.end;
  };
  const playLine = () => nearestLine(secondsToTicks(timeline.tempo, transport.second()));
  const loop = ({ start, end }: NamedSection) =>
    dispatch(viewChanged({ loop: { on: true, from: start, to: end } }));
  const isLooped = ({ start, end }: NamedSection) =>
    view.loop.on && view.loop.from === start && view.loop.to === end;
  return (
    <section aria-label="Sections" className="flex flex-col gap-2 border-b border-rule p-4">
      <span className="flex items-baseline justify-between">
        <h2 className="font-serif text-[1.05rem] font-semibold">Sections</h2>
        <Button
          disabled={!mayWrite}
          title="At the bar line nearest to the play line (Alt+M)"
          onClick={() => askForMarker(markers, playLine())}
        >
          New marker
        </Button>
      </span>
      {sections.length === 0 && (
        <p className="text-quiet text-ink-2">
          A marker names what begins at it: intro, verse, bridge. Files bring theirs along, and take them out
          again.
        </p>
      )}
      <ul aria-label="Sections" className="flex flex-col">
        {sections.map((section) => {
          const { id, name, bars } = section;
          const words = barsInWords(bars[0], bars[1] - 1);
          return (
            <li
              key={id}
              className={`flex items-center gap-1 ${isLooped(section) ? 'bg-well font-semibold' : ''}`}
            >
              {draft?.id === id ? (
                <NameField
                  label={`New name of ${name}`}
                  draft={draft.name}
                  onDraft={(next) => setDraft(next === null ? null : { id, name: next })}
                  onCommit={() => {
                    renameMarker(dispatch, markers, id, draft.name);
                    setDraft(null);
                  }}
                />
              ) : (
                <button
                  type="button"
                  title="Loop it, and put the play line at its start"
                  className="flex h-7 min-w-0 grow items-center gap-2 px-1 text-left hover:bg-well"
                  onClick={() => {
                    loop(section);
                    transport.locate(ticksToSeconds(timeline.tempo, section.start));
                  }}
                  onDoubleClick={() => mayWrite && setDraft({ id, name })}
                >
                  <span className="min-w-0 grow truncate">{name}</span>
                  <span className="shrink-0 text-quiet text-ink-2">{words}</span>
                </button>
              )}
              <MoreMenu
                name={name}
                items={[
                  { label: 'Select what is in it', onSelect: () => onSelect(section) },
                  {
                    label: 'Transpose or apply a recipe',
                    hint: parts.length === 1 ? parts[0].name : counted(parts.length, 'part'),
                    disabled: !mayWrite || parts.length === 0,
                    onSelect: () => setAsked(section),
                  },
                  {
                    label: 'Rename',
                    disabled: !mayWrite,
                    onSelect: () => setTimeout(() => setDraft({ id, name }), 60),
                  },
                  {
                    label: 'Move to the play line',
                    disabled: !mayWrite,
                    onSelect: () => moveMarker(dispatch, markers, id, playLine()),
                  },
                  {
                    label: 'Delete marker',
                    disabled: !mayWrite,
                    onSelect: () => deleteMarker(dispatch, markers, id),
                  },
                ]}
              />
            </li>
          );
        })}
      </ul>
      {asked && <SectionDialog section={asked} parts={parts} onClose={() => setAsked(null)} />}
    </section>
  );
}

interface SectionDialogProps {
  section: NamedSection;
  parts: readonly Part[];
  onClose(): void;
}

/** Asks what is to be done to a section of some parts. It becomes steps, held to its bars. */
function SectionDialog({ section, parts, onClose }: SectionDialogProps) {
  const dispatch = useAppDispatch();
  const { all } = useRecipes();
  const [semitones, setSemitones] = useState(0);
  const [recipe, setRecipe] = useState('');
  const ids = parts.map(({ id }) => id);
  const apply = () => {
    transposeSection(dispatch, section, ids, semitones);
    const chosen = all.find(({ name }) => name === recipe);
    if (chosen) {
      const left = applyRecipeToSection(dispatch, section, chosen, ids);
      if (left > 0)
        toast(`${counted(left, 'step')} of ${chosen.name} cannot be held to some bars, and was left out.`);
    }
    onClose();
  };
  return (
    <Dialog
      open
      title={`${section.name}, ${barsInWords(section.bars[0], section.bars[1] - 1)}`}
      description={`In ${parts.map(({ name }) => name).join(', ')}. What is chosen here becomes steps that touch these bars.`}
      onClose={onClose}
    >
      <LabelledRow label="Transpose by">
        <NumberField
          label="Semitones"
          value={semitones}
          min={-60}
          max={60}
          unit="semitones"
          onCommit={setSemitones}
        />
      </LabelledRow>
      <LabelledRow label="Apply recipe">
        <Select label="Recipe" value={recipe} className="w-full" onChange={setRecipe}>
          <option value="">none</option>
          {all.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </Select>
      </LabelledRow>
      <span className="flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={semitones === 0 && recipe === ''} onClick={apply}>
          Apply to {section.name}
        </Button>
      </span>
    </Dialog>
  );
}
