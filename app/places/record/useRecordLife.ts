import { ticksToSeconds, type Session, type Timeline } from '@ordle/core';
import { useEffect } from 'react';
import {
  setPractice,
  practice,
  playPractice,
  preparePractice,
  stopPractice,
  usePractice,
} from '@/recording/practice';
import { outputNamed, useDevices } from '@/recording/devices';
import { soundLive } from '@/recording/liveSound';
import { keepMemory } from '@/recording/memory';
import { watchMonitor } from '@/recording/monitor';
import { currentTake, stopRecording, usePhase, watchRecorder } from '@/recording/recorder';
import { useRecordSettings } from '@/recording/settings';
import { askOnLeaving } from '@/saving/leaving';
import { transport } from '@/sound/transport';
import { store } from '@/state/store';

/** Seconds by which the page may come to know late that the music began. */
const TOLD_LATE = 0.15;

/** What goes on while Record is shown: what is played is heard and kept, and the practice player plays along. */
export function useRecordLife(session: Session, timeline: Timeline): void {
  const { speed, output } = useRecordSettings();
  const { outputs } = useDevices();
  const { on, partId, settings } = usePractice();
  useEffect(() => {
    watchMonitor();
    watchRecorder();
    keepMemory();
    return soundLive();
  }, []);
  useEffect(() => {
    const device = output !== null && outputs.some(({ id }) => id === output) ? outputNamed(output) : null;
    transport.setOutput(device ? (bytes, at) => device.send(bytes, at) : null);
    return () => transport.setOutput(null);
  }, [output, outputs]);
  useEffect(() => {
    transport.setRate(speed / 100);
    return () => transport.setRate(1);
  }, [speed]);

  useEffect(() => {
    if (on) void preparePractice(session, timeline);
  }, [on, partId, settings, session, timeline]);
  useEffect(() => {
    if (!on) return stopPractice;
    let was = transport.state().playing;
    const follow = () => {
      const { playing } = transport.state();
      if (playing === was) return;
      was = playing;
      if (!playing) return stopPractice();
      const { loop } = store.getState().view;
      const ticks = currentTake()?.plan.loop ?? (loop.on && loop.to > loop.from ? loop : null);
      const second = (tick: number) => ticksToSeconds(timeline.tempo, tick);
      const range = ticks && { from: second(ticks.from), to: second(ticks.to) };
      // Where the music began, and not where it is by the time this is told.
      const plan = currentTake()?.plan;
      playPractice(plan ? second(plan.start) : Math.max(0, transport.second() - TOLD_LATE), range, false);
    };
    const stop = transport.subscribe(follow);
    return () => {
      stop();
      stopPractice();
    };
  }, [on, timeline]);
  useEffect(() => () => void (practice().on && setPractice({ on: false })), []);

  const isOn = usePhase() !== 'ready';
  useEffect(() => {
    if (!isOn) return;
    // The screen stays awake while somebody plays, where the browser can do that.
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    void navigator.wakeLock?.request('screen').then(
      (given) => {
        if (isOver) void given.release();
        else lock = given;
      },
      () => undefined,
    );
    askOnLeaving({
      title: 'A recording is going on',
      text: 'Leaving ends it. What was played so far is kept as a take.',
      stay: 'Go on recording',
      leave: 'Keep it and leave',
      onLeave: stopRecording,
    });
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => {
      isOver = true;
      askOnLeaving(null);
      void lock?.release();
      window.removeEventListener('beforeunload', ask);
    };
  }, [isOn]);
  useEffect(() => () => void (currentTake() && stopRecording()), []);
}
