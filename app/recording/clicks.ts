import {
  barAt,
  createGrid,
  listOf,
  nearestLine,
  passOfStroke,
  sessionTickOf,
  ticksToSeconds,
  type OpenNote,
  type PlaybackPart,
  type Timeline,
} from '@ordle/core';
import { scoreOf } from '@/playback/usePlayback';
import type { CountIn, Score, ScorePart } from '@ordle/sound';
import type { Take, Target } from './takeUnderWay';
import type { RecordSettings } from './settings';

/** How long the music goes on where nobody stops it, and how long it clicks. Seconds. */
const LONGEST = 4 * 3600;
const CLICKED = 45 * 60;

type Clicks = Pick<Score, 'clickTimes' | 'clickAccents'>;
const NO_CLICKS: Clicks = { clickTimes: new Float64Array(0), clickAccents: new Uint8Array(0) };

function clicksOf(list: readonly (readonly [second: number, accent: number])[]): Clicks {
  return {
    clickTimes: Float64Array.from(list, ([second]) => second),
    clickAccents: Uint8Array.from(list, ([, accent]) => accent),
  };
}

/** Clicks on every beat and what divides it, from the start of the session to a second. */
function clicksUntil({ meter, tempo }: Timeline, until: number, { accent, perBeat }: RecordSettings): Clicks {
  const list: [number, number][] = [];
  for (let tick = 0; ticksToSeconds(tempo, tick) < until;) {
    const bar = barAt(meter, tick);
    const beatTicks = meter.beatTicks[bar.row];
    for (let beat = bar.start; beat < bar.end - 1e-6; beat += beatTicks)
      for (let part = 0; part < perBeat; part++)
        list.push([
          ticksToSeconds(tempo, beat + (part * beatTicks) / perBeat),
          part > 0 ? 2 : accent && beat === bar.start ? 1 : 0,
        ]);
    tick = bar.end;
  }
  return clicksOf(list);
}

/** The clicks of so many bars before a tick, in the tempo and meter there. */
export function countInOf(timeline: Timeline, tick: number, bars: number, settings: RecordSettings): CountIn {
  const { meter, tempo } = timeline;
  const bar = barAt(meter, tick);
  const beatTicks = meter.beatTicks[bar.row];
  const beats = Math.max(1, Math.round((bar.end - bar.start) / beatTicks));
  const beatSeconds = ticksToSeconds(tempo, tick + beatTicks) - ticksToSeconds(tempo, tick);
  const count = bars * beats;
  const into = Math.round((tick - bar.start) / beatTicks);
  const list: [number, number][] = [];
  for (let beat = 0; beat < count; beat++)
    for (let part = 0; part < settings.perBeat; part++) {
      const isFirst = (((into + beat - count) % beats) + beats) % beats === 0;
      const accent = part > 0 ? 2 : settings.accent && isFirst ? 1 : 0;
      list.push([(beat + part / settings.perBeat) * beatSeconds, accent]);
    }
  const isHeard = settings.clickWhen === 'counting' || settings.clickWhen === 'both';
  return { seconds: count * beatSeconds, ...(isHeard ? clicksOf(list) : NO_CLICKS) };
}

/** What sounds while somebody records: the session without what is being replaced, and the passes that are layered. */
export async function scoreToRecord(take: Take): Promise<Score> {
  const { session, timeline, settings, targets, plan } = take;
  const request = {
    session,
    stops: {},
    blend: 1,
    partIds: listOf(session.parts).map(({ id }) => id),
  };
  const score = await scoreOf(request, timeline);
  // The score has its parts by their ids.
  const ids = [...request.partIds].sort((a, b) => (a < b ? -1 : 1));
  const isReplaced = settings.mode === 'take' || settings.mode === 'replace';
  const parts = score.parts.map((part, index) =>
    isReplaced && targets.some(({ partId }) => partId === ids[index]) ? { ...part, audible: false } : part,
  );
  const start = ticksToSeconds(timeline.tempo, plan.start);
  const isClicked = settings.clickWhen === 'recording' || settings.clickWhen === 'both';
  const made = {
    parts: [...parts, ...targets.map((target) => layerPart(take, target))],
    end: start + LONGEST,
    ...(isClicked ? clicksUntil(timeline, start + CLICKED, settings) : NO_CLICKS),
  };
  scores.set(take, made);
  return made;
}

const scores = new WeakMap<Take, Score>();

/** The score again with what was layered so far; null where nothing is layered, or nothing new. */
export function scoreWithLayers(take: Take): Score | null {
  const score = scores.get(take);
  if (!score || take.settings.mode !== 'layer' || !take.plan.loop) return null;
  const rest = score.parts.slice(0, score.parts.length - take.targets.length);
  const before = score.parts.slice(rest.length);
  const layers = take.targets.map((target) => layerPart(take, target));
  if (layers.every(({ playback }, at) => playback.noteId.length === before[at].playback.noteId.length))
    return null;
  const next = { ...score, parts: [...rest, ...layers] };
  scores.set(take, next);
  return next;
}

/**
 * The notes of a recording where they lie in the bars, on its grid where one is chosen, each with its pass; only the
 * newest `most` of them.
 */
export function placedNotes(
  take: Take,
  { recording }: Target,
  most = Infinity,
): (OpenNote & { pass: number })[] {
  const { grid } = take.settings;
  const lines = grid ? createGrid(take.timeline.meter, [grid]) : null;
  const { time } = recording;
  const { loop } = recording.settings;
  const length = loop ? loop.to - loop.from : 0;
  const { notes } = recording.open;
  return notes.slice(Math.max(0, notes.length - most)).map((note) => {
    const unrolled = sessionTickOf(time, note.start);
    const pass = passOfStroke(unrolled, loop, take.timeline);
    const start = unrolled - pass * length;
    const at = lines ? nearestLine(lines, Math.max(0, start), { line: 0, step: 0 }).line : start;
    const end =
      note.end === Infinity ? Infinity : sessionTickOf(time, note.end) - pass * length + (at - start);
    return { ...note, start: at, end, pass };
  });
}

function layerPart(take: Take, target: Target): ScorePart {
  const { session, timeline, settings } = take;
  const part = session.parts.byId[target.partId];
  const isHeard = settings.mode === 'layer' && take.plan.loop !== null;
  const notes = isHeard
    ? placedNotes(take, target)
        .filter(({ end, pass }) => end !== Infinity && !take.thrown.has(pass))
        .sort((a, b) => a.start - b.start)
    : [];
  const second = (tick: number) => ticksToSeconds(timeline.tempo, Math.max(0, tick));
  const playback: PlaybackPart = {
    noteId: Float64Array.from(notes, ({ row }) => row),
    noteStart: Float64Array.from(notes, ({ start }) => second(start)),
    noteEnd: Float64Array.from(notes, ({ end }) => second(end)),
    notePitch: Uint8Array.from(notes, ({ pitch }) => pitch),
    noteVelocity: Uint8Array.from(notes, ({ velocity }) => velocity),
    eventTime: new Float64Array(0),
    eventKind: new Uint8Array(0),
    eventData1: new Uint8Array(0),
    eventData2: new Uint8Array(0),
  };
  return { program: part.sound.program, drums: part.sound.drums, audible: !part.muted, playback };
}
