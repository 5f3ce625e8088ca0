import { FORMATS, type Session } from '@ordle/core';
import type { ReactNode } from 'react';
import type { CheckedExport } from '@/engine/protocol';
import { Check } from '@/ui';
import { optionsKept, type KeptChoice } from './exportChoice';
import { MidiForm } from './MidiForm';
import { CsvForm, GrooveForm, MusicXmlForm, SessionFileForm, WavForm } from './forms';

interface FormatListProps {
  session: Session;
  kept: KeptChoice;
  choose(change: Partial<KeptChoice>): void;
  check: CheckedExport | null;
  hasTracks(): boolean;
}

/** Every format there is, each with a tick; what is ticked shows its settings. */
export function FormatList({ session, kept, choose, check, hasTracks }: FormatListProps) {
  /** The settings of a format and how they are changed. */
  const of = <O extends object>(format: string) => ({
    options: optionsKept<O>(kept, format),
    change: (change: Partial<O>) =>
      choose({
        options: { ...kept.options, [format]: { ...optionsKept<O>(kept, format), ...change } },
      }),
  });
  const forms: Record<string, () => ReactNode> = {
    mid: () => <MidiForm {...of('mid')} session={session} check={check} hasTracks={hasTracks()} />,
    musicxml: () => <MusicXmlForm {...of('musicxml')} />,
    csv: () => <CsvForm {...of('csv')} />,
    wav: () => <WavForm {...of('wav')} />,
    ordle: () => <SessionFileForm {...of('ordle')} />,
    groove: () => <GrooveForm {...of('groove')} />,
  };
  return (
    <section aria-label="Formats">
      <h3 className="font-semibold">Formats</h3>
      <ul className="mt-1 border-t border-rule-strong">
        {FORMATS.map(({ id, title, tells }) => {
          const isOn = kept.on.includes(id);
          const form = forms[id];
          return (
            <li key={id} className="border-b border-rule py-1.5">
              <div className="flex items-center justify-between gap-3">
                <Check
                  checked={isOn}
                  onChange={(on) =>
                    choose({ on: on ? [...kept.on, id] : kept.on.filter((each) => each !== id) })
                  }
                >
                  {title}
                </Check>
                <span className="truncate text-quiet text-ink-2">{tells}</span>
              </div>
              {isOn && form !== undefined && (
                <div className="mt-2 mb-1 ml-5.5 flex flex-col gap-2">{form()}</div>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
