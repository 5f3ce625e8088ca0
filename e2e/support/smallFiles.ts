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

export const marker = (tick: number, text: string): Placed => ({ tick, meta: true, type: 'marker', text });

/**
 * A file at 480 ticks a quarter, written by midi-file: a conductor track and one track for each list, with its name.
 */
export function smallFile(
  name: string,
  tracks: Record<string, Placed[]>,
  markers: Placed[] = [],
): { name: string; bytes: Uint8Array } {
  const ordered = Object.entries(tracks).map(([text, events]) => {
    return [
      { deltaTime: 0, meta: true, type: 'trackName', text } as MidiEvent,
      ...inDeltas(events),
      { deltaTime: 0, meta: true, type: 'endOfTrack' } as MidiEvent,
    ];
  });
  const conductor: MidiEvent[] = [
    { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 500000 },
    ...inDeltas(markers),
    { deltaTime: 0, meta: true, type: 'endOfTrack' },
  ];
  const bytes = writeMidi({
    header: { format: 1, numTracks: ordered.length + 1, ticksPerBeat: 480 },
    tracks: [conductor, ...ordered],
  });
  return { name, bytes: Uint8Array.from(bytes) };
}

/** Events with the time from one to the next, as files have them. */
function inDeltas(events: Placed[]): MidiEvent[] {
  let before = 0;
  return events
    .sort((a, b) => a.tick - b.tick || (a.type === 'noteOff' ? -1 : 0))
    .map(({ tick, ...event }) => {
      const deltaTime = tick - before;
      before = tick;
      return { deltaTime, ...event } as MidiEvent;
    });
}
