import { listOf, type Part, type PartContent, type Session } from '@ordle/core';
import { partInWords } from '@/music/usePartContents';
import { Button, Check } from '@/ui';
import { counted } from '@/words/counts';

interface PartsToExportProps {
  session: Session;
  contents: Readonly<Record<string, PartContent>>;
  isWanted(part: Part): boolean;
  onTick(id: string, isOn: boolean): void;
  onAll(isOn: boolean): void;
}

/** The parts of the session, each with a tick. */
export function PartsToExport({ session, contents, isWanted, onTick, onAll }: PartsToExportProps) {
  return (
    <>
      <div className="mt-4 flex items-baseline justify-between">
        <h3 className="font-semibold">Parts</h3>
        <span className="flex gap-1">
          <Button onClick={() => onAll(true)}>All</Button>
          <Button onClick={() => onAll(false)}>None</Button>
        </span>
      </div>
      <ul className="mt-1 border-t border-rule-strong">
        {listOf(session.parts).map((part) => (
          <li key={part.id} className="flex min-h-8 flex-wrap items-center gap-x-3 border-b border-rule">
            <span
              className="h-5 w-2 rounded-[1px]"
              style={{ background: `var(--ink-part-${part.ink + 1})` }}
            />
            <span className="min-w-0 grow">
              <Check checked={isWanted(part)} onChange={(on) => onTick(part.id, on)}>
                {part.name}
                {part.setAside && <span className="ml-2 text-quiet text-ink-2">set aside</span>}
              </Check>
            </span>
            <span className="text-ink-2">{partInWords(part, contents[part.id])}</span>
            <span className="w-20 text-right text-ink-2">
              {hasChannel(contents[part.id]) && `channel ${part.channel}`}
            </span>
            <span className="w-16 text-right text-ink-2">
              {stepsInWords(listOf(part.steps).filter(({ step }) => step.on).length)}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}

const hasChannel = (content: PartContent | undefined) => content !== 'text' && content !== 'nothing';

function stepsInWords(count: number): string {
  return count === 0 ? 'no steps' : counted(count, 'step');
}
