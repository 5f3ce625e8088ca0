import { barAt, sectionAt, secondsToTicks, ticksToSeconds, type NamedSection } from '@ordle/core';
import { useCommands } from '@/commands';
import { askForMarker } from '@/edits/markerActions';
import { useOpenBench } from '@/music/useBench';
import { useMarkers, useSections } from '@/music/useMarkers';
import { transport } from '@/sound/transport';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';

/** Markers and sections by key, in every place that has bars; `select` says what selecting a section means there. */
export function useSectionCommands(endTick: number, select?: (section: NamedSection) => void) {
  const { timeline, mayWrite } = useOpenBench();
  const dispatch = useAppDispatch();
  const markers = useMarkers();
  const sections = useSections(endTick);
  const here = () => secondsToTicks(timeline.tempo, transport.second());
  const goTo = (section: NamedSection | undefined) => {
    if (section) transport.locate(ticksToSeconds(timeline.tempo, section.start));
  };
  const some = sections.length > 0;
  useCommands({
    'marker-new': mayWrite
      ? () => {
          const tick = here();
          const bar = barAt(timeline.meter, tick);
          askForMarker(markers, tick - bar.start < bar.end - tick ? bar.start : bar.end);
        }
      : undefined,
    'section-next': some ? () => goTo(sections.find(({ start }) => start > here() + 1)) : undefined,
    'section-previous': some
      ? () => goTo(sections.findLast(({ start }) => start < here() - timeline.ticksPerQuarter / 2))
      : undefined,
    'section-loop': some
      ? () => {
          const section = sectionAt(sections, here());
          if (section) dispatch(viewChanged({ loop: { on: true, from: section.start, to: section.end } }));
        }
      : undefined,
    'section-select':
      some && select
        ? () => {
            const section = sectionAt(sections, here());
            if (section) select(section);
          }
        : undefined,
  });
}
