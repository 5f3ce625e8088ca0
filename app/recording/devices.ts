import { createSmallStore } from '@/ui/smallStore';
import { addInput, arrive, removeInput, type InputSource } from './inputs';

/** Whether instruments can be reached (W3C Web MIDI), and where they play to. */
export interface DeviceState {
  state: 'not asked' | 'asking' | 'there' | 'refused' | 'none in this browser';
  outputs: readonly { id: string; name: string }[];
}

const store = createSmallStore<DeviceState>({
  state:
    typeof navigator !== 'undefined' && 'requestMIDIAccess' in navigator
      ? 'not asked'
      : 'none in this browser',
  outputs: [],
});
export const useDevices = store.useValue;

let access: MIDIAccess | null = null;

const sourceOf = (port: MIDIInput): InputSource => ({
  id: `device:${port.id}`,
  name: port.name?.trim() || 'Instrument',
  kind: 'device',
});

/** Takes up inputs that are plugged in and lets those go that are not any more. */
function follow(port: MIDIPort): void {
  if (port.type === 'input') {
    const input = port as MIDIInput;
    const source = sourceOf(input);
    if (input.state === 'connected') {
      input.onmidimessage = ({ data, timeStamp }) => data && arrive(source, data, timeStamp);
      addInput(source);
    } else removeInput(source.id);
  }
  const outputs = [...(access?.outputs.values() ?? [])]
    .filter(({ state }) => state === 'connected')
    .map(({ id, name }) => ({ id, name: name?.trim() || 'Instrument' }));
  store.set({ state: 'there', outputs });
}

/** Asks for the instruments at this computer; only when a person wants them. */
export async function askForDevices(): Promise<void> {
  if (store.get().state === 'none in this browser' || access) return;
  store.set({ ...store.get(), state: 'asking' });
  try {
    access = await navigator.requestMIDIAccess();
    access.onstatechange = ({ port }) => port && follow(port);
    store.set({ state: 'there', outputs: [] });
    [...access.inputs.values(), ...access.outputs.values()].forEach(follow);
  } catch {
    store.set({ state: 'refused', outputs: [] });
  }
}

/** An output that is plugged in; null where it is not there. */
export const outputNamed = (id: string): MIDIOutput | null => access?.outputs.get(id) ?? null;
