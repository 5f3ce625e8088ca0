import { useCallback, useEffect, useRef } from 'react';
import { createPartsEditor, type BlocksDrag, type PartsEditor } from '@/editor';
import { useOpenBench } from '@/music/useBench';
import { useMarkers } from '@/music/useMarkers';
import { commandItems } from '@/commands';
import { BarsCanvas } from '@/panels/BarsCanvas';
import type { PartsState } from './useParts';

interface PartsCanvasProps {
  onEditor(editor: PartsEditor | null): void;
  state: PartsState;
  selected: ReadonlySet<string>;
  active: string | null;
  snap: number;
  playing: boolean;
  onSelect(keys: readonly string[], adds: boolean): void;
  onDrag(drag: BlocksDrag): void;
  onActive(part: string): void;
  onOpen(part: string): void;
  onRows(scrolled: { top: number; height: number }): void;
}

/** The canvas of the Parts place, kept in step with the session. */
export function PartsCanvas(props: PartsCanvasProps) {
  const { onEditor, state, selected, active, snap, playing } = props;
  const { view } = useOpenBench();
  const markers = useMarkers();
  const editor = useRef<PartsEditor | null>(null);
  const keepEditor = useCallback(
    (made: PartsEditor | null) => {
      editor.current = made;
      onEditor(made);
    },
    [onEditor],
  );
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });
  const { seen, lines } = state;
  const { loop } = view;
  useEffect(
    () => editor.current?.setContent({ parts: seen, lines, selected, active, loop, markers, snap }),
    [seen, lines, selected, active, loop, markers, snap],
  );
  const blocks = seen.reduce((sum, part) => sum + part.blocks.length, 0);
  return (
    <BarsCanvas
      label="Parts along the bars"
      words={`${seen.length} parts, ${blocks} blocks, ${selected.size} selected. Drag blocks to move them, their ends to trim, with Alt the end to stretch; a double click opens the part on the Bench.`}
      testId="parts"
      isRead={state.isRead}
      className="focus-visible:outline-offset-[-2px]"
      playing={playing}
      endTick={state.endTick}
      onEditor={keepEditor}
      onRows={props.onRows}
      onMenu={(x, y) => editor.current?.standAt(x, y)}
      menu={() =>
        commandItems(
          ['block-split', 'block-join', 'block-duplicate', 'block-mute', 'block-leave-out'],
          ['block-copy', 'block-cut', 'block-paste', 'block-all', 'block-none'],
          ['bars-copy', 'bars-repeat', 'bars-insert', 'bars-delete'],
          ['part-up', 'part-down', 'parts-group', 'play', 'marker-new', 'fit-parts'],
        )
      }
      create={(elements, events) =>
        createPartsEditor(elements, {
          ...events,
          onSelect: (...chosen) => latest.current.onSelect(...chosen),
          onDrag: (drag) => latest.current.onDrag(drag),
          onActive: (id) => latest.current.onActive(id),
          onOpen: (id) => latest.current.onOpen(id),
        })
      }
    >
      {!state.isRead && (
        <p className="absolute inset-0 flex items-center justify-center text-ink-2">
          {state.error ?? 'Working out the parts ...'}
        </p>
      )}
    </BarsCanvas>
  );
}
