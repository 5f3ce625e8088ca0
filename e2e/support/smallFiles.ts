import { writeMidi, type MidiEvent } from 'midi-file';

/** An event at a tick, as midi-file writes it. */
type Placed = { tick: number } & Record<string, unknown>;

export const note = (
  start: number,
  end: number,
  noteNumber: number,
  velocity = 80,
  channel = 0,
): Placed[] => [
  { tick: start, type: 'noteOn', noteNumber, velocity, channel },
  { tick: end, type: 'noteOff', noteNumber, velocity: 64, channel },
];

export const controller = (tick: number, controllerType: number, value: number, channel = 0): Placed => ({
  tick,
  type: 'controller',
  controllerType,
  value,
  channel,
});

/** A file at 480 ticks a quarter, written by midi-file: a conductor track and one track for each list, with its name. */
export function smallFile(
  name: string,
  tracks: Record<string, Placed[]>,
): { name: string; bytes: Uint8Array } {
  const ordered = Object.entries(tracks).map(([text, events]) => {
    let before = 0;
    const sorted = events.sort((a, b) => a.tick - b.tick || (a.type === 'noteOff' ? -1 : 0));
    const written = sorted.map(({ tick, ...event }) => {
      const deltaTime = tick - before;
      before = tick;
      return { deltaTime, ...event } as MidiEvent;
    });
    return [
      { deltaTime: 0, meta: true, type: 'trackName', text } as MidiEvent,
      ...written,
      { deltaTime: 0, meta: true, type: 'endOfTrack' } as MidiEvent,
    ];
  });
  const conductor: MidiEvent[] = [
    { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 500000 },
    { deltaTime: 0, meta: true, type: 'endOfTrack' },
  ];
  const bytes = writeMidi({
    header: { format: 1, numTracks: ordered.length + 1, ticksPerBeat: 480 },
    tracks: [conductor, ...ordered],
  });
  return { name, bytes: Uint8Array.from(bytes) };
}
