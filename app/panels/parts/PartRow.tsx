import { takesIn, type Part, type PartContent } from '@ordle/core';
import { Ellipsis, Eye, EyeOff } from 'lucide-react';
import { memo } from 'react';
import { deletePart } from '@/edits/deletePart';
import { isWithoutNotes, partInWords } from '@/music/usePartContents';
import { edit } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { shownToggled, togetherToggled, viewChanged } from '@/state/viewSlice';
import { WithMenu } from '@/ui';
import { msInWords } from '@/words/counts';
import { partOf } from './PartSettings';
import { RowToggle, ON_DEMAND } from './RowToggle';

interface PartRowProps {
  part: Part;
  isActive: boolean;
  isTogether: boolean;
  heard: boolean;
  shown: boolean;
  content: PartContent | undefined;
  /** How far it is off the grid as it is cleaned, in ms. */
  offMs: number | undefined;
  /** Rows of one line, so that all are as high. */
  single: boolean;
  mayWrite: boolean;
  onSettings(partId: string): void;
}

/** What a part sounds like; where that is its name already, the channel it is on. */
function soundInWords(part: Part, content: PartContent | undefined): string {
  const words = partInWords(part, content);
  return part.name.startsWith(words) ? `channel ${part.channel}` : words;
}

const inkOfPart = ({ ink }: Part) => `var(--ink-part-${ink + 1})`;

/** A part that is not heard keeps its ink, hatched. */
const hatched = (ink: string) => `repeating-linear-gradient(135deg, ${ink} 0 2px, var(--sheet) 2px 4px)`;

/** Kept from rendering again while another part is worked on. */
export const PartRow = memo(function PartRow(props: PartRowProps) {
  const { part, isActive, isTogether, heard, mayWrite, onSettings } = props;
  const dispatch = useAppDispatch();
  const takes = takesIn(part).length;
  const shown = isActive || props.shown;
  const toggle = (key: 'muted' | 'soloed', label: string) =>
    dispatch(
      edit(label, (draft) => {
        const own = partOf(draft, part.id);
        if (own) own[key] = !own[key];
      }),
    );
  const switchMuted = () => toggle('muted', part.muted ? `Unmute ${part.name}` : `Mute ${part.name}`);
  const switchSoloed = () => toggle('soloed', part.soloed ? `End solo of ${part.name}` : `Solo ${part.name}`);
  return (
    <WithMenu
      items={() => [
        {
          label: 'Set together with the active part',
          checked: isTogether,
          disabled: isActive,
          onSelect: () => dispatch(togetherToggled(part.id)),
        },
        {
          label: props.shown ? 'Show no longer' : 'Show behind the active part',
          disabled: isActive,
          onSelect: () => dispatch(shownToggled(part.id)),
        },
        null,
        {
          label: part.muted ? 'Unmute' : 'Mute',
          disabled: !mayWrite,
          onSelect: switchMuted,
        },
        {
          label: part.soloed ? 'End solo' : 'Solo',
          disabled: !mayWrite,
          onSelect: switchSoloed,
        },
        null,
        {
          label: 'Name, colour and sound',
          onSelect: () => {
            dispatch(viewChanged({ partId: part.id, together: [] }));
            onSettings(part.id);
          },
        },
        {
          label: 'Delete part',
          disabled: !mayWrite,
          onSelect: () => deletePart(dispatch, part),
        },
      ]}
    >
      <li
        data-active={isActive}
        className={`group relative flex min-h-7 items-center border-l-3 ${isActive ? 'border-ink bg-sheet' : isTogether ? 'border-ink-3 bg-sheet' : 'border-transparent hover:bg-well/60'}`}
      >
        <button
          type="button"
          aria-current={isActive}
          aria-label={isTogether ? `${part.name}, selected together` : undefined}
          title={`${part.name}: ${partInWords(part, props.content)}. ${props.offMs === undefined ? '' : `${msInWords(props.offMs)} ms off the grid. `}Ctrl or Shift and click to set several parts together`}
          onClick={(event) =>
            dispatch(
              event.ctrlKey || event.metaKey || event.shiftKey
                ? togetherToggled(part.id)
                : viewChanged({ partId: part.id, together: [] }),
            )
          }
          className="flex min-w-0 grow items-center gap-2 py-1 pr-8 pl-2 text-left"
        >
          <span
            className={`w-2 shrink-0 rounded-[1px] ${isActive && !props.single ? 'h-11' : 'h-4.5'}`}
            style={{ background: heard ? inkOfPart(part) : hatched(inkOfPart(part)) }}
          />
          <span className="min-w-0">
            <span
              className={`block truncate ${isActive ? 'font-semibold' : ''} ${heard ? '' : 'text-ink-3'}`}
            >
              {part.name}
              {!isActive && isWithoutNotes(props.content) && (
                <span className="text-quiet text-ink-2">, {partInWords(part, props.content)}</span>
              )}
            </span>
            {isActive && !props.single && (
              <span className="-mr-7 block h-6 truncate text-quiet leading-6 text-ink-2">
                {soundInWords(part, props.content)}
                {takes > 1 && `, ${takes} takes`}
              </span>
            )}
          </span>
        </button>
        {props.offMs !== undefined && (
          <span
            className={`pointer-events-none absolute top-1 right-3 text-ink-2 ${isActive && !props.single ? 'group-focus-within:invisible group-hover:invisible' : part.muted || part.soloed ? 'hidden' : 'group-focus-within:invisible group-hover:invisible'}`}
          >
            {msInWords(props.offMs)} <span className="text-quiet">ms</span>
          </span>
        )}
        {isActive && (
          <button
            type="button"
            aria-label={`Name, colour and sound of ${part.name}`}
            title="Name, colour and sound"
            onClick={() => onSettings(part.id)}
            className={`absolute flex top-0.5 right-1 h-6 w-6 items-center justify-center bg-sheet text-ink-2 hover:text-ink ${ON_DEMAND}`}
          >
            <Ellipsis size={13} aria-hidden="true" />
          </button>
        )}
        <span
          className={`absolute right-1 flex items-center gap-px ${isActive && !props.single ? 'bottom-px' : 'top-0.5'}`}
        >
          {!isActive && (
            <RowToggle
              label={`Show ${part.name}`}
              on={shown}
              disabled={false}
              onClick={() => dispatch(shownToggled(part.id))}
            >
              {shown ? <Eye size={13} aria-hidden="true" /> : <EyeOff size={13} aria-hidden="true" />}
            </RowToggle>
          )}
          <RowToggle
            label={`Mute ${part.name}`}
            on={part.muted}
            filled
            disabled={!mayWrite}
            onClick={switchMuted}
          >
            M
          </RowToggle>
          <RowToggle
            label={`Solo ${part.name}`}
            on={part.soloed}
            filled
            disabled={!mayWrite}
            onClick={switchSoloed}
          >
            S
          </RowToggle>
        </span>
      </li>
    </WithMenu>
  );
});
