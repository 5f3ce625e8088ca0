import { isNoteOff, isNoteOn, type PlayedStretch, type RememberedMessage } from '@ordle/core';
import { useMemo, useState } from 'react';
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

/** What was played in the last twenty minutes, recorded or not, as pictures; any of it can be kept. */
export function MemoryDialog({ onKeep, onClose }: { onKeep(stretch: Stretch): void; onClose(): void }) {
  const change = useMemoryChange();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- looked up anew when something came
  const stretches = useMemo(() => stretchesPlayed().toReversed().slice(0, 60), [change]);
  const [now] = useState(() => performance.now());
  return (
    <Dialog
      open
      title="What was just played"
      description="Parted where four seconds passed without a note. It is here whether it was recorded or not, also after a reload."
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
              <li
                key={`${stretch.input} ${stretch.from}`}
                className="flex items-center gap-3 border-t border-rule pt-2"
              >
                <NotesPicture messages={messages} stretch={stretch} />
                <span className="min-w-0 grow">
                  <b>{ago(now - stretch.to)}</b>, {lasting(stretch.to - stretch.from)},{' '}
                  {counted(stretch.notes, 'note')}
                  <br />
                  <span className="text-ink-2">
                    {inputNamed(stretch.input)?.name ?? 'an instrument'},{' '}
                    {isToMusic ? 'to the music' : 'freely'}
                  </span>
                </span>
                <Button onClick={() => onKeep(stretch)}>Keep it</Button>
              </li>
            );
          })}
        </ul>
      )}
    </Dialog>
  );
}

const [WIDTH, HEIGHT] = [190, 36];

/** The notes of a stretch, small. */
function NotesPicture({ messages, stretch }: { messages: readonly RememberedMessage[]; stretch: Stretch }) {
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
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="shrink-0 border border-rule bg-ground">
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
