import { CLEFS, DEFAULT_NOTATION, type NotationSettings, type Part } from '@ordle/core';
import { useAppDispatch } from '@/state/store';
import { Check, LabelledRow, NumberField, Segmented, Select } from '@/ui';
import { setNotation } from './scoreActions';

/** Clefs as players call them. */
const CLEF_NAMES: Record<(typeof CLEFS)[number], string> = {
  treble: 'treble',
  bass: 'bass',
  alto: 'alto',
  tenor: 'tenor',
  'treble-8': 'treble, an octave lower',
  percussion: 'percussion',
};
const FINEST = ['1/8', '1/16', '1/32'];

interface NotationPanelProps {
  part: Part;
  mayWrite: boolean;
}

/** How the part that is worked on is written down; the part itself stays as it is. */
export function NotationPanel({ part, mayWrite }: NotationPanelProps) {
  const dispatch = useAppDispatch();
  const settings = { ...DEFAULT_NOTATION, ...part.notation };
  const set = (label: string, change: NotationSettings) => setNotation(dispatch, part.id, label, change);
  const isDrums = part.sound.drums;
  return (
    <section aria-label="How it is written" className="flex flex-col gap-2 border-b border-rule p-4">
      <h2 className="font-serif text-[1.15rem] font-semibold">{part.name}</h2>
      <p className="text-quiet text-ink-2">How it is written down. What is heard stays as it is.</p>
      {!isDrums && (
        <>
          <LabelledRow label="Staves">
            <Segmented
              label="Staves"
              value={String(settings.staves ?? 'auto')}
              options={[
                {
                  value: 'auto',
                  label: 'automatic',
                  title: 'Two where the notes reach over what one staff holds',
                },
                { value: '1', label: 'one', title: 'All notes on one staff' },
                { value: '2', label: 'two', title: 'A staff for each hand' },
              ]}
              disabled={!mayWrite}
              onChange={(value) => set('Staves', { staves: value === 'auto' ? null : value === '1' ? 1 : 2 })}
            />
          </LabelledRow>
          <Check
            checked={settings.handLine !== null}
            disabled={!mayWrite}
            onChange={(on) => set('Line between the hands', { handLine: on ? 60 : null })}
          >
            Hands part at one pitch
          </Check>
          {settings.handLine !== null && (
            <LabelledRow label="Pitch">
              <NumberField
                label="Lowest pitch of the right hand"
                tip="Pitches from here up stand on the upper staff."
                initial={60}
                value={settings.handLine}
                min={1}
                max={127}
                disabled={!mayWrite}
                onCommit={(handLine) => set('Line between the hands', { handLine })}
              />
            </LabelledRow>
          )}
          <LabelledRow label="Clef">
            <Select
              label="Clef"
              tip="The clef of a part on one staff."
              initial="automatic"
              value={settings.clef ?? ''}
              disabled={!mayWrite || settings.staves === 2}
              onChange={(value) => set('Clef', { clef: CLEFS.find((clef) => clef === value) ?? null })}
            >
              <option value="">automatic</option>
              {CLEFS.filter((clef) => clef !== 'percussion').map((clef) => (
                <option key={clef} value={clef}>
                  {CLEF_NAMES[clef]}
                </option>
              ))}
            </Select>
          </LabelledRow>
          <LabelledRow label="Sounds">
            <NumberField
              label="Semitones from what is written to what sounds"
              tip="For instruments that sound otherwise than they are written: -2 for one in B flat."
              initial={0}
              unit="semitones higher"
              value={settings.transposition}
              min={-36}
              max={36}
              disabled={!mayWrite}
              onCommit={(transposition) => set('Transposing instrument', { transposition })}
            />
          </LabelledRow>
        </>
      )}
      <LabelledRow label="Finest">
        <Segmented
          label="Finest note value"
          tip="The shortest value that is written."
          initial="1/16"
          value={`1/${settings.finest}`}
          options={FINEST.map((value) => ({ value, label: value }))}
          disabled={!mayWrite}
          onChange={(value) =>
            set('Finest note value', { finest: value === '1/8' ? 8 : value === '1/16' ? 16 : 32 })
          }
        />
      </LabelledRow>
      <Check
        checked={settings.straightSwing}
        disabled={!mayWrite}
        onChange={(straightSwing) => set('Swing in notation', { straightSwing })}
      >
        Swing written straight
      </Check>
      {!isDrums && (
        <Check
          checked={settings.chordNames}
          disabled={!mayWrite || settings.transposition % 12 !== 0}
          onChange={(chordNames) => set('Chord names in notation', { chordNames })}
        >
          Names of chords
        </Check>
      )}
    </section>
  );
}
