import type { NamedSection, Where } from '@ordle/core';
import { Popover } from 'radix-ui';
import { BarsFields } from '@/panels/sections/BarsFields';
import { SectionSelect } from '@/panels/sections/SectionSelect';
import { WhereNotes } from '@/panels/settings/forms/WhereNotes';
import { Button, Segmented } from '@/ui';

interface WhereBarProps {
  where: Where;
  lastBar: number;
  /** The pieces of the drum parts, by note number. */
  pieces: readonly number[];
  sections: readonly NamedSection[];
  onChange(where: Where): void;
}

/** Which bars, and which notes of them, are measured, in one line. */
export function WhereBar({ where, lastBar, pieces, sections, onChange }: WhereBarProps) {
  const { bars, ...others } = where;
  const limits = Object.keys(others).length;
  return (
    <div className="flex items-center gap-2 text-ink-2">
      <div className="w-36">
        <Segmented
          label="Where"
          value={bars ? 'bars' : 'whole'}
          options={[
            { value: 'whole', label: 'whole parts', title: 'Everything below is of the whole parts' },
            { value: 'bars', label: 'bars', title: 'Everything below is of these bars alone' },
          ]}
          onChange={(next) =>
            onChange(next === 'whole' ? others : { ...others, bars: bars ?? [1, lastBar + 1] })
          }
        />
      </div>
      {bars && (
        <>
          <BarsFields
            bars={bars}
            most={lastBar}
            words={['', 'to']}
            onChange={(next) => onChange({ ...others, bars: next })}
          />
          <div className="max-w-40">
            <SectionSelect
              bars={bars}
              sections={sections}
              disabled={false}
              onChange={(section) => onChange({ ...others, bars: [...section.bars] })}
            />
          </div>
        </>
      )}
      <Popover.Root>
        <Popover.Trigger asChild>
          <Button look="quiet" className="h-6">
            {limits === 0 ? 'Choose notes ...' : 'Some notes ...'}
          </Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-40 max-h-[70vh] w-64 overflow-y-auto rounded-medium border border-edge bg-sheet p-3"
          >
            <WhereNotes
              where={where}
              label="which notes are measured"
              open
              facts={null}
              pieces={pieces}
              hasHands
              disabled={false}
              onChange={onChange}
            />
            {limits > 0 && (
              <Button look="quiet" className="mt-2 h-6 px-0" onClick={() => onChange(bars ? { bars } : {})}>
                measure all notes
              </Button>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
