import { listOf, waitsFor, type Part, type Session } from '@ordle/core';
import { Volume2 } from 'lucide-react';
import { useRef, useState, type RefObject } from 'react';
import type { TakesEditor } from '@/editor';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { BarsZoom } from '@/panels/BarsZoom';
import { Button, Menu, Segmented, Select } from '@/ui';
import { useRoving } from '@/ui/useRoving';
import { counted } from '@/words/counts';
import { SessionTakes } from './SessionTakes';
import type { Bringing } from './useBringTakes';
import type { Heard } from './useHeard';
import type { TakesState } from './useTakes';

interface TakesBarProps {
  session: Session;
  part: Part;
  state: TakesState;
  layers: boolean;
  isProposing: boolean;
  bringing: Bringing;
  editor: RefObject<TakesEditor | null>;
  heard: Heard;
  onLayers(layers: boolean): void;
  onPropose(): void;
}

/** Which part, how a click chooses, and what brings takes in. */
export function TakesBar(props: TakesBarProps) {
  const { session, part, state, layers, isProposing, bringing, editor, heard, onLayers, onPropose } = props;
  const alone = state.rows?.find(({ take }) => take.id === heard.take)?.take.name;
  const bar = useRoving<HTMLDivElement>();
  const dispatch = useAppDispatch();
  const picker = useRef<HTMLInputElement>(null);
  const [other, setOther] = useState(false);
  const others = listOf(session.parts).filter(({ id }) => id !== part.id);
  const count = state.rows?.length ?? 0;
  return (
    <div
      ref={bar}
      role="toolbar"
      aria-label="Takes"
      className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule-strong bg-ground px-3 narrow:max-h-[30vh] narrow:overflow-y-auto narrow:gap-x-2 narrow:py-1"
    >
      <Select
        label="Part"
        tip="The part whose takes are shown."
        value={part.id}
        onChange={(partId) => dispatch(viewChanged({ partId }))}
      >
        {listOf(session.parts).map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </Select>
      <span className="truncate text-ink-2" data-testid="takes-summary">
        {counted(count, 'take')}, {counted(state.lines.length - 1, 'bar')}
        {state.assembled && `; ${counted(state.assembled.seams.length, 'seam')}`}
        {part.layers.order.length > 1 && `; ${part.layers.order.length} layers`}
      </span>
      {(alone !== undefined || heard.isProposal) && (
        <span role="status" className="flex min-w-0 shrink items-center gap-2 font-semibold">
          <Volume2 size={14} aria-hidden="true" className="shrink-0" />
          <span className="truncate">Hearing {alone === undefined ? 'the suggestion' : `${alone} only`}</span>
          <Button className="h-6! shrink-0" onClick={() => heard.onTake(null)}>
            Hear what is chosen
          </Button>
        </span>
      )}
      <span className="grow" />
      <span className="w-32 shrink-0">
        <Segmented
          label="What a click does"
          value={layers ? 'layer' : 'choose'}
          options={[
            {
              value: 'choose',
              label: 'choose',
              title: 'A click on bars of a take puts them in place of what was chosen there',
            },
            {
              value: 'layer',
              label: 'layer',
              title: 'A click on bars of a take lays them over what was chosen there, so that both sound',
            },
          ]}
          onChange={(value) => onLayers(value === 'layer')}
        />
      </span>
      <Button onClick={onPropose} disabled={count < 2 || isProposing}>
        Suggest takes
      </Button>
      <Menu
        trigger={<Button disabled={!bringing.mayWrite}>Add takes ▾</Button>}
        items={[
          { label: 'From files', onSelect: () => picker.current?.click() },
          { label: 'From another session', onSelect: () => setOther(true) },
          ...others.map((other) => ({
            label: `From ${other.name}`,
            hint: waitsFor(other, part.id, session) ? 'It waits for this part' : 'As it is cleaned, live',
            disabled: waitsFor(other, part.id, session),
            onSelect: () => bringing.fromPart(other),
          })),
        ]}
      />
      <BarsZoom editor={editor} />
      {other && (
        <SessionTakes openId={session.id} onBring={bringing.fromSession} onClose={() => setOther(false)} />
      )}
      <input
        ref={picker}
        type="file"
        multiple
        accept=".mid,.midi,.kar,.smf"
        aria-label="Files with takes"
        className="hidden"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          void bringing.fromFiles(files);
        }}
      />
    </div>
  );
}
