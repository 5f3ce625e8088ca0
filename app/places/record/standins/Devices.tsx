import { askForDevices, useDevices } from '@/recording/devices';
import { useInputs } from '@/recording/inputs';
import { setRecordSettings, useRecordSettings } from '@/recording/settings';
import { Button, Select } from '@/ui';

/** Instruments at this computer: asked for only when they are wanted; where there are none it says so. */
export function Devices() {
  const { state, outputs } = useDevices();
  const { output } = useRecordSettings();
  const found = useInputs().filter(({ kind }) => kind === 'device');
  return (
    <div className="flex min-h-0 grow flex-col items-start gap-3 px-1">
      {state === 'none in this browser' && (
        <p className="max-w-xl">
          This browser does not reach instruments (it has no Web MIDI). The keys, pads and controls here work
          all the same, and files that were recorded elsewhere can be imported.
        </p>
      )}
      {state === 'refused' && (
        <p className="max-w-xl">
          The browser does not let this page reach instruments. To allow it, change the permission for this
          page in the browser’s settings and try again.
        </p>
      )}
      {(state === 'not asked' || state === 'refused') && (
        <Button onClick={() => void askForDevices()}>Look for instruments</Button>
      )}
      {state === 'asking' && <p role="status">The browser asks whether this page may reach instruments.</p>}
      {state === 'there' && (
        <>
          {found.length === 0 ? (
            <p>No instrument is plugged in. It is taken up as soon as one is.</p>
          ) : (
            <ul className="flex flex-col gap-1">
              {found.map(({ id, name }) => (
                <li key={id} className="font-semibold">
                  {name}
                </li>
              ))}
            </ul>
          )}
          <label className="flex items-center gap-2 text-ink-2">
            What is played sounds by
            <Select
              label="Where what is played sounds"
              value={output ?? ''}
              onChange={(id) => setRecordSettings({ output: id === '' ? null : id })}
            >
              <option value="">the built-in sound</option>
              {outputs.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Select>
          </label>
        </>
      )}
    </div>
  );
}
