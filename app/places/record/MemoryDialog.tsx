import { isNoteOff, isNoteOn, type PlayedStretch, type RememberedMessage } from '@ordle/core';
import { useMemo, useRef, useState, type PointerEvent } from 'react';
import { inputNamed } from '@/recording/inputs';
import { messagesIn, musicOf, stretchesPlayed, useMemoryChange } from '@/recording/memory';
import { Button, Dialog } from '@/ui';
import { counted } from '@/words/counts';

type Stretch = PlayedStretch & { input: string };

const ago = (ms: number): string => {
  const minutes = Math.round(ms / 60_000);
  return minutes < 1 ? 'just now' : minutes === 1 ? 'a minute ago' : `${minutes} minutes ago`;
};
const lasting = (ms: number): string =>
  `${Math.floor(ms / 60_000)}:${String(Math.round((ms % 60_000) / 1000)).padStart(2, '0')}`;

/** A stretch of a picture, from 0 to 1. */
interface Range {
  from: number;
  to: number;
}

const nameOf = ({ input, from }: Stretch): string => `${input} ${from}`;

/** The messages of a stretch that fall into a part of it. */
function narrowed(stretch: Stretch, { from, to }: Range): Stretch {
  const length = stretch.to - stretch.from;
  const [begin, end] = [stretch.from + from * length, stretch.from + to * length];
  const messages = messagesIn(stretch);
  const first = messages.findIndex(({ stamp }) => stamp >= begin);
  const last = messages.findLastIndex(({ stamp }) => stamp <= end);
  if (first < 0 || last < first) return stretch;
  const notes = messages.slice(first, last + 1).filter(isNoteOn).length;
  return {
    ...stretch,
    first: stretch.first + first,
    end: stretch.first + last + 1,
    from: begin,
    to: end,
    notes,
  };
}

/** What was played in the last twenty minutes, recorded or not, as pictures; any of it can be kept. */
export function MemoryDialog({ onKeep, onClose }: { onKeep(stretch: Stretch): void; onClose(): void }) {
  const change = useMemoryChange();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- looked up anew when something came
  const stretches = useMemo(() => stretchesPlayed().toReversed().slice(0, 60), [change]);
  const [now] = useState(() => performance.now());
  const [part, setPart] = useState<(Range & { of: string }) | null>(null);
  return (
    <Dialog
      open
      title="What was just played"
      description="Parted where four seconds passed without a note. It is here whether it was recorded or not, also after a reload. Drag over a picture to keep a part of it."
      onClose={onClose}
    >
      {stretches.length === 0 ? (
        <p>Nothing was played in the last twenty minutes.</p>
      ) : (
        <ul className="flex min-h-0 flex-col gap-2 overflow-y-auto">
          {stretches.map((stretch) => {
            const messages = messagesIn(stretch);
            const isToMusic = messages.some(({ run }) => musicOf(run) !== null);
            return (
              <li key={nameOf(stretch)} className="flex items-center gap-3 border-t border-rule pt-2">
                <NotesPicture
                  messages={messages}
                  stretch={stretch}
                  range={part?.of === nameOf(stretch) ? part : null}
                  onRange={(range) => setPart(range && { of: nameOf(stretch), ...range })}
                />
                <span className="min-w-0 grow">
                  <b>{ago(now - stretch.to)}</b>, {lasting(stretch.to - stretch.from)},{' '}
                  {counted(stretch.notes, 'note')}
                  <br />
                  <span className="text-ink-2">
                    {inputNamed(stretch.input)?.name ?? 'an instrument'},{' '}
                    {isToMusic ? 'to the music' : 'freely'}
                  </span>
                </span>
                <Button
                  onClick={() => onKeep(part?.of === nameOf(stretch) ? narrowed(stretch, part) : stretch)}
                >
                  {part?.of === nameOf(stretch) ? 'Keep this part' : 'Keep it'}
                </Button>
              </li>
            );
          })}
        </ul>
      )}
    </Dialog>
  );
}

const [WIDTH, HEIGHT] = [190, 36];

interface NotesPictureProps {
  messages: readonly RememberedMessage[];
  stretch: Stretch;
  range: Range | null;
  /** A part that is dragged over; null for all of it. */
  onRange(range: Range | null): void;
}

/** The notes of a stretch, small; a part of it is taken by dragging over it. */
function NotesPicture({ messages, stretch, range, onRange }: NotesPictureProps) {
  const anchor = useRef<number | null>(null);
  const shareOf = ({ clientX, currentTarget }: PointerEvent<SVGSVGElement>) => {
    const box = currentTarget.getBoundingClientRect();
    return Math.min(1, Math.max(0, (clientX - box.left) / box.width));
  };
  const bars = useMemo(() => {
    const open = new Map<number, number>();
    const notes: { pitch: number; from: number; to: number }[] = [];
    for (const message of messages) {
      if (isNoteOn(message)) open.set(message.data1, message.stamp);
      else if (isNoteOff(message)) {
        const from = open.get(message.data1);
        if (from !== undefined) notes.push({ pitch: message.data1, from, to: message.stamp });
        open.delete(message.data1);
      }
    }
    return notes.slice(0, 1500);
  }, [messages]);
  const lowest = Math.min(...bars.map(({ pitch }) => pitch), 127);
  const rows = Math.max(12, Math.max(...bars.map(({ pitch }) => pitch), 0) - lowest + 1);
  const length = Math.max(1, stretch.to - stretch.from);
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      aria-hidden="true"
      className="shrink-0 cursor-text touch-none border border-rule bg-ground"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        anchor.current = shareOf(event);
        onRange(null);
      }}
      onPointerMove={(event) => {
        if (anchor.current === null) return;
        const at = shareOf(event);
        const [from, to] = [Math.min(anchor.current, at), Math.max(anchor.current, at)];
        if (to - from > 0.02) onRange({ from, to });
      }}
      onPointerUp={() => (anchor.current = null)}
      onPointerCancel={() => (anchor.current = null)}
    >
      {range && (
        <rect
          x={range.from * WIDTH}
          width={(range.to - range.from) * WIDTH}
          height={HEIGHT}
          className="fill-rule"
        />
      )}
      {bars.map(({ pitch, from, to }, at) => (
        <rect
          key={at}
          x={((from - stretch.from) / length) * WIDTH}
          y={HEIGHT - ((pitch - lowest + 1) / rows) * HEIGHT}
          width={Math.max(1, ((to - from) / length) * WIDTH)}
          height={Math.max(1.5, HEIGHT / rows - 0.5)}
          className="fill-ink"
        />
      ))}
    </svg>
  );
}
