import { z } from 'zod';
import {
  finerShare,
  notePlaces,
  ticksWritten,
  timelineWritten,
  wholeTick,
  type Chosen,
} from '../../evaluate';
import { drumName, pitchName } from '../../midi';
import { mergeOrder } from '../../model';
import { bpmOf, positionAt, ticksToSeconds, type Timeline } from '../../time';
import { csvOf, textField } from '../csv';
import type { FormatKind } from '../formatKind';

const TABLES = ['notes', 'controllers', 'tempo'] as const;
export const csvOptions = z.strictObject({
  tables: z.array(z.enum(TABLES)).min(1).default(['notes']),
});
export type CsvOptions = z.infer<typeof csvOptions>;

const HEADERS: Record<(typeof TABLES)[number], string> = {
  notes:
    'part,channel,bar,beat,tick,startTick,lengthTicks,startSeconds,lengthSeconds,pitch,name,velocity,release',
  controllers: 'part,channel,tick,seconds,lane,value',
  tempo: 'bar,beat,tick,seconds,what,value',
};

const WORDS: Record<(typeof TABLES)[number], string> = {
  notes: 'a line for each note',
  controllers: 'a line for each point of a controller, bend, pressure or program',
  tempo: 'a line for each change of tempo and meter',
};

/**
 * Tables of what was chosen, where it lies in the session: ticks as a MIDI file has them, whole and of the same
 * division, seconds with six decimals.
 */
export const csv: FormatKind<CsvOptions> = {
  id: 'csv',
  title: 'CSV',
  tells: 'tables, for spreadsheets and scripts',
  options: csvOptions,
  isCut: true,
  cannotHold: ({ tables }) => [
    'Texts, lyrics and system messages are in no table.',
    ...(TABLES.every((table) => tables.includes(table))
      ? []
      : [`Left out: ${TABLES.filter((table) => !tables.includes(table)).join(', ')}.`]),
  ],
  files({ chosen, source }, { tables }) {
    const rowsOf = { notes: noteRows, controllers: controllerRows, tempo: tempoRows };
    return TABLES.filter((table) => tables.includes(table)).map((table) => ({
      part: '',
      ...((tables.length > 1 || table !== 'notes') && { what: table }),
      extension: 'csv',
      words: WORDS[table],
      *chunks() {
        // Where it lies in the session, also where only some bars are taken.
        const times = ticksWritten(chosen, {}, source.takeOf);
        const timeline = timelineWritten({ ...chosen, excerpt: null }, source.takeOf, times);
        yield* csvOf(HEADERS[table].split(','), rowsOf[table]({ chosen, times, timeline }));
      },
    }));
  },
};

interface Rows {
  chosen: Chosen;
  times: number;
  timeline: Timeline;
}

function* noteRows({ chosen, times, timeline }: Rows): Generator<string> {
  const seconds = (tick: number) => ticksToSeconds(timeline.tempo, tick);
  for (const { part, assembly, material } of chosen.parts) {
    const share = finerShare({ assembly, material, firstOrder: 0 }, times);
    const { notes } = share.material;
    const places = notePlaces(share.assembly, notes);
    const name = textField(part.name);
    const order = mergeOrder(
      notes.length,
      (a, b) => places.start[a] - places.start[b] || notes.pitch[a] - notes.pitch[b],
    );
    for (const row of order) {
      const [start, end, pitch] = [places.start[row], places.end[row], notes.pitch[row]];
      const { bar, beat, tick } = positionAt(timeline.meter, start);
      const from = seconds(start);
      const named = (part.sound.drums ? drumName(pitch) : null) ?? pitchName(pitch);
      const velocity = Math.min(127, Math.max(1, Math.round(notes.velocity[row])));
      yield `${name},${notes.channel[row] + 1},${bar},${beat},${tick},${start},${end - start},${from.toFixed(6)},${(seconds(end) - from).toFixed(6)},${pitch},${textField(named)},${velocity},${notes.release[row]}`;
    }
  }
}

function* controllerRows({ chosen, times, timeline }: Rows): Generator<string> {
  for (const { part, material } of chosen.parts) {
    const name = textField(part.name);
    const { events } = material;
    for (let row = 0; row < events.length; row++) {
      const status = events.status[row];
      const kind = status & 0xf0;
      if (kind < 0xa0 || kind > 0xe0) continue;
      const [first, second] = [events.data1[row], events.data2[row]];
      const lane =
        kind === 0xa0
          ? `key${first}`
          : kind === 0xb0
            ? `cc${first}`
            : kind === 0xc0
              ? 'program'
              : kind === 0xd0
                ? 'pressure'
                : 'bend';
      const value = kind === 0xe0 ? (second << 7) | first : kind === 0xc0 || kind === 0xd0 ? first : second;
      const tick = wholeTick(events.tick[row] * times);
      yield `${name},${(status & 15) + 1},${tick},${ticksToSeconds(timeline.tempo, tick).toFixed(6)},${lane},${value}`;
    }
  }
}

function* tempoRows({ chosen, timeline }: Rows): Generator<string> {
  const { tempo, meter } = timeline;
  const changes = [
    ...Array.from(meter.tick, (tick, row) => ({
      tick,
      what: 'meter',
      value: `${meter.numerator[row]}/${meter.denominator[row]}`,
    })),
    ...Array.from(tempo.tick, (tick, row) => ({
      tick,
      what: 'tempo',
      value: bpmOf(tempo.microsecondsPerQuarter[row]).toFixed(6),
    })),
  ].sort((a, b) => a.tick - b.tick);
  const { excerpt } = chosen;
  const times = timeline.ticksPerQuarter / chosen.timeline.ticksPerQuarter;
  for (const [at, { tick, what, value }] of changes.entries()) {
    const next = changes.slice(at + 1).find((each) => each.what === what)?.tick ?? Infinity;
    // Of some bars: what holds at their start, and what changes in them.
    if (excerpt && (next <= excerpt.from * times || tick >= excerpt.to * times)) continue;
    const place = positionAt(meter, tick);
    yield `${place.bar},${place.beat},${place.tick},${ticksToSeconds(tempo, tick).toFixed(6)},${what},${value}`;
  }
}
