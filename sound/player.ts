import type { PlaybackPart } from '@ordle/core';
import { HOLDING_CONTROLLERS, chaseMessages, heldNotes, messagesBetween, stateAfter } from './chase';
import { MESSAGE, RELEASE, dueOf, type Sounding, type Voice } from './due';
import { createLive } from './live';
import type { Sink } from './sink';

/** A part of the score: how it sounds and what it plays. */
export interface ScorePart {
  program: number;
  drums: boolean;
  audible: boolean;
  playback: PlaybackPart;
  /** The channel (0-15) it goes out on, where it does not sound here. */
  channel?: number;
}

/** What is to be played: parts, where it ends, and the click's strokes. Seconds. */
export interface Score {
  parts: ScorePart[];
  end: number;
  clickTimes: Float64Array;
  /** 1 for the first of a bar, 0 for other beats, 2 for what divides them. */
  clickAccents: Uint8Array;
}

/** Clicks before the music begins: how many seconds of it they last, and where each is, in seconds from their start. */
export interface CountIn {
  seconds: number;
  clickTimes: Float64Array;
  clickAccents: Uint8Array;
}

/** Seconds within which a note just struck is not struck again when a setting moves it a little later. */
const RESTRIKE_SECONDS = 0.3;

/** A single note from the editor. */
export interface Strike {
  program: number;
  drums: boolean;
  pitch: number;
  velocity: number;
}

/**
 * Plays a score into a sink in audio time: the caller renders `framesUntilNext()` frames, says `advance`, and so on;
 * every event is sent exactly at its frame. Holding the whole score here, in the audio thread, means nothing the page
 * is busy with can shift a note. Frames are counted from the start of the music.
 */
export function createPlayer(sampleRate: number, sink: Sink) {
  let score: Score = { parts: [], end: 0, clickTimes: new Float64Array(0), clickAccents: new Uint8Array(0) };
  let voices: Voice[] = [];
  let now = 0;
  let playing = false;
  let ended = false;
  let loop: { from: number; to: number } | null = null;
  let clickLevel = 0;
  let nextClick = 0;
  /** Seconds of music in a second of sound. */
  let rate = 1;
  /** Frames that were played since it began, through loops; and the second it began at. */
  let ran = 0;
  let began = 0;
  /** What is left of counting in: frames, and those at which there is a click. */
  let counting: { left: number; clicks: { left: number; accent: number }[] } | null = null;
  const frameOf = (second: number) => Math.round((second / rate) * sampleRate);
  const secondOf = (frame: number) => (frame / sampleRate) * rate;
  const live = createLive(sampleRate, sink, () => voices.length);

  function releaseAll() {
    voices.forEach((voice, index) => {
      for (const { pitch } of voice.sounding) sink.noteOff(index, pitch);
      voice.sounding = [];
    });
  }

  /**
   * Lets go what only pedals hold on a voice. While music goes on, the pedals themselves go back to where they are,
   * for notes to come.
   */
  function liftPedals(voice: Voice, index: number, goesOn: boolean) {
    const { controllers } = stateAfter(voice.part.playback, voice.nextEvent);
    for (const controller of HOLDING_CONTROLLERS) {
      const value = controllers.get(controller) ?? 0;
      if (value === 0) continue;
      sink.message(index, 0xb0, controller, 0);
      if (goesOn) sink.message(index, 0xb0, controller, value);
    }
  }

  /** Puts cursors at `frame` and the instruments into the state they have there; held notes sound when playing. */
  function seek(frame: number) {
    releaseAll();
    now = frame;
    const second = secondOf(frame);
    nextClick = firstAtOrAfter(score.clickTimes, frame);
    voices.forEach((voice, index) => {
      const { playback, program, drums, audible } = voice.part;
      voice.struck = new Map();
      sink.reset(index);
      sink.prepare(index, program, drums);
      for (const [kind, data1, data2] of chaseMessages(playback, second))
        sink.message(index, kind, data1, data2);
      voice.nextNote = firstAtOrAfter(playback.noteStart, frame);
      voice.nextEvent = firstAtOrAfter(playback.eventTime, frame);
      // A drum stroke has no middle to sound from.
      if (playing && !counting && audible && !drums) {
        for (const row of heldNotes(playback, second))
          if (frameOf(playback.noteStart[row]) < frame) strike(voice, index, row);
      }
    });
  }

  function strike(voice: Voice, index: number, row: number) {
    const { playback } = voice.part;
    const id = playback.noteId[row];
    const pitch = playback.notePitch[row];
    const endFrame = Math.max(frameOf(playback.noteEnd[row]), now + 1);
    const again = voice.sounding.findIndex((note) => note.pitch === pitch);
    if (again >= 0) {
      sink.noteOff(index, pitch);
      voice.sounding.splice(again, 1);
    }
    sink.noteOn(index, pitch, playback.noteVelocity[row]);
    voice.sounding.push({ id, pitch, endFrame, place: playback.places?.off[row] ?? -Infinity });
    voice.struck.set(id, now);
  }

  /** First row whose frame is not before `frame`, in an ascending column of seconds. */
  function firstAtOrAfter(column: Float64Array, frame: number): number {
    let low = 0;
    let high = column.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (frameOf(column[middle]) < frame) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** Sends everything due at the present frame: releases, then controllers, then strokes. */
  function dispatch() {
    live.dispatch();
    if (!playing) return;
    if (counting) {
      while (counting.clicks.length > 0 && counting.clicks[0].left >= counting.left)
        click(counting.clicks.shift()?.accent ?? 0);
      if (counting.left > 0) return;
      counting = null;
      seek(now);
    }
    if (loop && now >= frameOf(loop.to)) seek(frameOf(loop.from));
    if (!loop && now >= frameOf(score.end)) {
      stop();
      ended = true;
      return;
    }
    voices.forEach((voice, index) => dispatchVoice(voice, index));
    while (nextClick < score.clickTimes.length && frameOf(score.clickTimes[nextClick]) <= now) {
      click(score.clickAccents[nextClick]);
      nextClick++;
    }
  }

  function click(accent: number) {
    if (clickLevel > 0) sink.click(accent === 1, accent === 2 ? clickLevel / 2 : clickLevel);
  }

  function dispatchVoice(voice: Voice, index: number) {
    const { playback, audible } = voice.part;
    const due = dueOf(voice, now, frameOf);
    for (const { kind, row } of due) {
      if (kind === RELEASE) {
        const at = voice.sounding.findIndex((note) => note.id === row && note.endFrame <= now);
        if (at < 0) continue;
        sink.noteOff(index, voice.sounding[at].pitch);
        voice.sounding.splice(at, 1);
      } else if (kind === MESSAGE)
        sink.message(index, playback.eventKind[row], playback.eventData1[row], playback.eventData2[row]);
      else {
        const last = voice.struck.get(playback.noteId[row]);
        const again = last !== undefined && now - last < RESTRIKE_SECONDS * sampleRate;
        if (audible && !again) strike(voice, index, row);
      }
    }
  }

  function stop() {
    releaseAll();
    // A pedal left down at the end of the music must not hold it for ever.
    voices.forEach((voice, index) => liftPedals(voice, index, false));
    playing = false;
    counting = null;
  }

  /** Frames until something is due; at least 1. */
  function framesUntilNext(): number {
    if (!playing) return Infinity;
    if (counting) return Math.max(1, counting.left - (counting.clicks[0]?.left ?? 0));
    let next = loop ? frameOf(loop.to) : frameOf(score.end);
    for (const { part, nextNote, nextEvent, sounding } of voices) {
      const { noteStart, eventTime } = part.playback;
      if (nextNote < noteStart.length) next = Math.min(next, frameOf(noteStart[nextNote]));
      if (nextEvent < eventTime.length) next = Math.min(next, frameOf(eventTime[nextEvent]));
      for (const { endFrame } of sounding) next = Math.min(next, endFrame);
    }
    if (nextClick < score.clickTimes.length) next = Math.min(next, frameOf(score.clickTimes[nextClick]));
    return Math.max(1, next - now);
  }

  /**
   * Replaces the score; while playing, notes that sound go on to their new ends, the rest is heard from here on, and
   * every instrument is left as if the music had been started here.
   */
  function setScore(next: Score) {
    const same = next.parts.length === voices.length;
    if (!same) {
      releaseAll();
      live.letGo();
    }
    const before = voices;
    // Instruments no part plays any more hold nothing.
    for (let index = next.parts.length; index < before.length; index++) sink.reset(index);
    score = next;
    nextClick = firstAtOrAfter(score.clickTimes, now);
    voices = next.parts.map((part, index): Voice => {
      const old = same ? before[index] : undefined;
      const isOther = !old || old.part.program !== part.program || old.part.drums !== part.drums;
      if (isOther) sink.prepare(index, part.program, part.drums);
      const voice: Voice = {
        part,
        nextNote: firstAtOrAfter(part.playback.noteStart, now),
        nextEvent: firstAtOrAfter(part.playback.eventTime, now),
        sounding: [],
        struck: old?.struck ?? new Map(),
      };
      if (old) {
        voice.sounding = carryOver(old, part, index);
        if (playing) followState(old, voice, index, isOther);
      }
      return voice;
    });
    if (!same && playing) seek(now);
  }

  /** Brings a voice from the state the old score gave it into the one the new score has here. */
  function followState(old: Voice, voice: Voice, index: number, isOther: boolean) {
    const from = stateAfter(old.part.playback, old.nextEvent);
    // The instrument that was just put in stands at no program change of the music.
    if (isOther) from.program = null;
    const to = stateAfter(voice.part.playback, voice.nextEvent);
    for (const [kind, data1, data2] of messagesBetween(from, to, voice.part.program))
      sink.message(index, kind, data1, data2);
    if (old.part.audible && !voice.part.audible) liftPedals(voice, index, true);
  }

  function carryOver(old: Voice, part: ScorePart, index: number): Sounding[] {
    if (old.sounding.length === 0) return [];
    const ends = new Map<number, number>();
    const wanted = new Set(old.sounding.map(({ id }) => id));
    part.playback.noteId.forEach((id, row) => {
      if (wanted.has(id)) ends.set(id, frameOf(part.playback.noteEnd[row]));
    });
    return old.sounding.flatMap((note) => {
      const endFrame = ends.get(note.id);
      if (endFrame !== undefined && part.audible) return [{ ...note, endFrame }];
      sink.noteOff(index, note.pitch);
      return [];
    });
  }

  return {
    dispatch,
    framesUntilNext,
    setScore,
    advance(frames: number) {
      live.advance(frames);
      if (!playing) return;
      if (counting) counting.left -= frames;
      else {
        now += frames;
        ran += frames;
      }
    },
    /** Sounds a single note beside the music, on a voice of its own; and plays what comes by hand. */
    strike: live.strike,
    live: live.play,
    letGo: live.letGo,
    /** Plays from a second on, after counting in where that is asked for. */
    play(second: number, countIn: CountIn | null = null) {
      sink.silence();
      playing = true;
      ended = false;
      began = second;
      ran = 0;
      const left = countIn ? frameOf(countIn.seconds) : 0;
      counting = countIn && {
        left,
        clicks: Array.from(countIn.clickTimes, (at, row) => ({
          left: left - frameOf(at),
          accent: countIn.clickAccents[row],
        })),
      };
      seek(frameOf(second));
    },
    stop() {
      stop();
      live.letGo();
      sink.silence();
    },
    /** How fast the music runs: 1 is its own tempo. Where it is it goes on. */
    setRate(next: number) {
      if (next === rate) return;
      const second = secondOf(now);
      began += secondOf(ran);
      ran = 0;
      rate = next;
      if (playing) seek(frameOf(second));
      else now = frameOf(second);
    },
    setLoop(range: { from: number; to: number } | null) {
      loop = range && range.to > range.from ? range : null;
    },
    /** How loud the click is: 1 as it is made, 0 for none. */
    setClick(level: number) {
      clickLevel = level;
    },
    /** Seconds from the start of the music; before counting in is over, where it will begin. */
    position: () => secondOf(now),
    /** Seconds of music since playing began, counted on from its start through loops; before it while counting in. */
    unrolled: () => began + secondOf(counting ? -counting.left : ran),
    isCounting: () => counting !== null,
    isPlaying: () => playing,
    hasEnded: () => ended,
  };
}

export type Player = ReturnType<typeof createPlayer>;
