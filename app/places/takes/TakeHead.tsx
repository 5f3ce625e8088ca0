import {
  slideTake,
  takesOfPart,
  ticksToSeconds,
  withTakes,
  type Part,
  type Timeline,
  type TakeRow,
} from '@ordle/core';
import { Volume2 } from 'lucide-react';
import { memo, useState } from 'react';
import { selectDocument } from '@/state/sessionSlice';
import { useAppDispatch, useAppSelector } from '@/state/store';
import { MoreMenu, NameField, NumberField, WithMenu, type MenuItem } from '@/ui';
import { changeAssembly } from '@/edits/assemblyActions';
import { biasInWords, recordedInWords, spreadInWords, sum } from './takeWords';

interface TakeHeadProps {
  partId: string;
  lockedTo: Part['lockedTo'];
  timeline: Timeline;
  row: TakeRow;
  index: number;
  /** How many takes the part has. */
  count: number;
  height: number;
  isFocused: boolean;
  isHeard: boolean;
  mayWrite: boolean;
  onFocus(row: number): void;
  onHear(id: string | null): void;
  onAsk(about: TakeQuestion, row: number): void;
}

/** What can be asked about a take in a dialog. */
export type TakeQuestion = 'slide' | 'passes' | 'out';

/** One take beside its row. */
export const TakeHead = memo(function TakeHead(props: TakeHeadProps) {
  const {
    partId,
    lockedTo,
    timeline,
    row,
    index,
    count,
    height,
    isFocused,
    isHeard,
    mayWrite,
    onFocus,
    onHear,
    onAsk,
  } = props;
  const dispatch = useAppDispatch();
  const [draft, setDraft] = useState<string | null>(null);
  const { take } = row;
  const recorded = useAppSelector((state) =>
    'take' in take.source ? selectDocument(state)?.takes.byId[take.source.take]?.recorded : undefined,
  );
  const { reading, missing, extra, velocity, fault } = row;
  const msPerUnit =
    lockedTo === 'seconds'
      ? 1000
      : (1000 * ticksToSeconds(timeline.tempo, timeline.ticksPerQuarter)) / timeline.ticksPerQuarter;
  const slide = (value: number, words: string) =>
    changeAssembly(dispatch, `Slide ${take.name} ${words}`, partId, (now, session) => {
      const named = withTakes(now, takesOfPart(now, session));
      return slideTake(named, take, value);
    });
  const rename = () => {
    const name = draft?.trim().slice(0, 200);
    setDraft(null);
    if (!name || name === take.name) return;
    changeAssembly(dispatch, `Rename ${take.name} to ${name}`, partId, (now, session) =>
      withTakes(
        now,
        takesOfPart(now, session).map((own) => (own.id === take.id ? { ...own, name } : own)),
      ),
    );
  };
  const [less, more] = [sum(missing), sum(extra)];
  const items: MenuItem[] = [
    { label: 'Rename', onSelect: () => setTimeout(() => setDraft(take.name), 60) },
    {
      label: isHeard ? 'Hear what is chosen' : 'Play this take',
      disabled: fault !== null,
      onSelect: () => onHear(isHeard ? null : take.id),
    },
    {
      label: 'Slide or line up',
      disabled: fault !== null,
      onSelect: () => onAsk('slide', index),
    },
    {
      label: 'Split into passes',
      disabled: fault !== null || row.notes.start.length === 0,
      onSelect: () => onAsk('passes', index),
    },
    {
      label: 'Take out of this part',
      disabled: count < 2,
      onSelect: () => onAsk('out', index),
    },
  ];
  const contents = [
    less + more === 0 ? 'complete' : '',
    ...(less > 0 ? [`${less} missing`] : []),
    ...(more > 0 ? [`${more} extra`] : []),
    ...(velocity ? [`velocity ${Math.round(velocity[0])} to ${Math.round(velocity[1])}`] : []),
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <WithMenu items={() => (mayWrite ? items : [])}>
      <div
        role="listitem"
        style={{ height }}
        className={`flex flex-col gap-0.5 overflow-hidden border-b border-rule px-3 pt-1.5 ${isFocused ? 'bg-sheet' : ''}`}
      >
        <div className="flex items-center gap-1">
          {isHeard && <Volume2 size={14} aria-label="Heard now" className="shrink-0" />}
          {draft === null ? (
            <button
              type="button"
              title={[take.name, recordedInWords(recorded)].filter(Boolean).join(': ')}
              onClick={() => onFocus(index)}
              onDoubleClick={() => mayWrite && setDraft(take.name)}
              className="min-w-0 grow truncate text-left font-semibold"
            >
              {take.name}
            </button>
          ) : (
            <NameField
              label={`New name of ${take.name}`}
              draft={draft}
              onDraft={setDraft}
              onCommit={rename}
            />
          )}
          {mayWrite && <MoreMenu name={take.name} items={items} />}
        </div>
        {fault === null ? (
          <>
            <p className="flex items-baseline justify-between">
              <span className="text-[1.05rem]">{spreadInWords(reading.spreadMs)}</span>
              <span className="text-quiet text-ink-2">
                {Number.isNaN(reading.spreadMs) ? '' : biasInWords(reading.biasMs)}
              </span>
            </p>
            {height >= 84 && (
              <p
                title={contents}
                className={`text-quiet text-ink-2 ${height >= 120 ? 'line-clamp-2' : 'truncate'}`}
              >
                {contents}
              </p>
            )}
            {height >= 104 && (
              <div className="flex items-center gap-1.5 text-quiet">
                <span className="text-ink-2">slide</span>
                <NumberField
                  label={`Slide of ${take.name}`}
                  tip="Moves the whole take later, below 0 earlier."
                  initial={0}
                  value={Math.round(take.slide * msPerUnit * 10) / 10}
                  min={-600000}
                  max={600000}
                  step={0.1}
                  unit="ms"
                  disabled={!mayWrite}
                  onCommit={(ms) => slide(ms / msPerUnit, `to ${ms} ms`)}
                />
              </div>
            )}
            {height >= 84 && (
              <button
                type="button"
                aria-pressed={isHeard}
                onClick={() => onHear(isHeard ? null : take.id)}
                className={`self-start text-quiet underline decoration-dotted underline-offset-2 ${isHeard ? 'font-semibold text-ink' : 'text-ink-2 hover:text-ink'}`}
              >
                {isHeard ? 'Play what is chosen' : 'Play this take'}
              </button>
            )}
          </>
        ) : (
          <p className="text-quiet font-semibold" title={fault}>
            {fault}
          </p>
        )}
      </div>
    </WithMenu>
  );
});
