import type { MidiFile } from '../midi';
import { joinTables, takesOfFile, type NoteTable } from '../model';
import { createTimeline, ticksToSeconds } from '../time';

/** What several files are: performances of one part, parts of one piece, or pieces of their own. */
export type Belonging = 'takes' | 'parts' | 'sessions';

/** What files seem to be, and why, in words. */
export interface FilesTogether {
  proposal: Belonging;
  /** How many of them hold notes. */
  sounding: number;
  reason: string;
}

/** Two performances of one part share so much of how often each pitch is struck. */
const SAME_PITCHES = 0.8;
/** Lengths that differ by no more than this share are those of one piece. */
const SAME_LENGTH = 0.15;
/** Takes have nearly as many notes as each other: at least this share of the fullest. */
const SAME_COUNT = 0.6;
/** More files than this are a library, and not looked into. */
export const MOST_LOOKED_INTO = 40;

interface Heard {
  count: number;
  seconds: number;
  /** How often each pitch is struck, as a share. */
  pitches: Float64Array;
}

/** Proposes what several files are, from the notes in them. Files without notes say nothing. */
export function filesTogether(files: readonly MidiFile[]): FilesTogether {
  const heard = files.map(heardIn).filter(({ count }) => count > 0);
  const sounding = heard.length;
  if (files.length > MOST_LOOKED_INTO || heard.length < 2)
    return { proposal: 'sessions', sounding, reason: 'Nothing tells that they belong together.' };
  const lengths = heard.map(({ seconds }) => seconds);
  const isOneLength = Math.min(...lengths) >= (1 - SAME_LENGTH) * Math.max(...lengths);
  if (!isOneLength) return { proposal: 'sessions', sounding, reason: 'They are of different lengths.' };
  const [first, ...others] = heard;
  const counts = heard.map(({ count }) => count);
  const isOneCount = Math.min(...counts) >= SAME_COUNT * Math.max(...counts);
  const isOnePart = others.every((other) => inCommon(first, other) >= SAME_PITCHES);
  return isOnePart && isOneCount
    ? { proposal: 'takes', sounding, reason: 'They have the same pitches and length.' }
    : { proposal: 'parts', sounding, reason: 'They have the same length and different notes.' };
}

function heardIn(file: MidiFile): Heard {
  const takes = takesOfFile(file, (_, place) => `${place}`);
  const notes: NoteTable = joinTables(takes.map((take) => take.notes));
  const [time] = takes;
  const { tempo } = createTimeline(file.division, time?.tempos ?? [], time?.meters ?? []);
  const last = notes.end.reduce((most, at) => Math.max(most, at), 0);
  const pitches = new Float64Array(128);
  for (const pitch of notes.pitch) pitches[pitch] += 1 / notes.length;
  const seconds = ticksToSeconds(tempo, last) - ticksToSeconds(tempo, notes.start[0] ?? 0);
  return { count: notes.length, seconds, pitches };
}

/** How much of two ways of spreading notes over the pitches is the same, 0 to 1. */
const inCommon = (one: Heard, other: Heard): number =>
  one.pitches.reduce((sum, share, pitch) => sum + Math.min(share, other.pitches[pitch]), 0);
