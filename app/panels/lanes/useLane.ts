import {
  drawnLines,
  isByHand,
  isCurve,
  goesAlong,
  pointsOf,
  secondsToTicks,
  sentenceOf,
  type DrawnLine,
  type LanePlace,
} from '@ordle/core';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { toast } from 'sonner';
import { createCurveLane, type CurveLane, type LaneKept, type RollEditor } from '@/editor';
import { transport } from '@/sound/transport';
import { abandonGesture } from '@/state/sessionSlice';
import { useAppDispatch } from '@/state/store';
import { changeStep } from '@/steps/changeSteps';
import { applyLaneEdits, placeForEdits } from '@/edits/editActions';
import { gridInForce, useZoomOfGrid } from '@/music/gridInForce';
import { currentStepOf, type ShownLane } from '@/music/laneList';
import { usePartView } from '@/music/partViewStore';
import { usePlayedView } from '@/music/playedView';
import { useOpenBench } from '@/music/useBench';
import { usePlayTick } from '@/playback/usePlayTick';

const NO_POINTS = pointsOf([]);
const NO_LINES: readonly DrawnLine[] = [];

/** What a hand was at in each lane of each part, for coming back from another place. */
const kept = new Map<string, LaneKept>();

/** What a lane is shown of and with. */
export interface LaneOptions {
  editor: RefObject<RollEditor | null>;
  /** The list of lanes this one lies in. */
  stack: RefObject<HTMLElement | null>;
  playing: boolean;
  shown: ShownLane;
  /** Stretches whose points go along with the selected notes. */
  along: readonly [number, number][];
}

/** Keeps the canvas of a lane in step with the Bench, and writes what gestures in it do. */
export function useLane({ editor, stack, playing, shown, along }: LaneOptions) {
  const bench = useOpenBench();
  useZoomOfGrid(bench.part?.id);
  const dispatch = useAppDispatch();
  const canvas = useRef<HTMLCanvasElement>(null);
  const playLine = useRef<HTMLDivElement>(null);
  const lane = useRef<CurveLane | null>(null);
  const latest = useRef(bench);
  const [point, setPoint] = useState<LanePlace | null>(null);
  const [selected, setSelected] = useState<ReadonlySet<number>>(new Set());
  const { view } = usePartView();
  const { part, stop, timeline, mayWrite } = bench;
  const played = usePlayedView();
  // As played what a lane holds is seen and not edited, like the notes.
  const asPlayed = played?.partId === part?.id ? played : null;
  const now = view?.partId === part?.id ? view?.lanes.find((each) => each.lane === shown.lane) : undefined;
  const current = useMemo(() => {
    if (!asPlayed || !now) return now;
    const before = asPlayed.lanes.find((each) => each.lane === shown.lane);
    return before ?? { ...now, points: NO_POINTS, trace: null };
  }, [asPlayed, now, shown.lane]);
  useEffect(() => {
    latest.current = bench;
  });

  useEffect(() => {
    if (!canvas.current || !playLine.current || !editor.current || shown.folded) return;
    const elements = { canvas: canvas.current, playLine: playLine.current, stack: stack.current };
    const made = createCurveLane(elements, editor.current, {
      onEdit: (label, edits, gesture) => applyLaneEdits(dispatch, label, edits, gesture),
      onAbandon: (gesture) => dispatch(abandonGesture(gesture)),
      onMarks(label, marks, gesture) {
        const { part: now, stop: at } = latest.current;
        if (now && at) changeStep(dispatch, now.id, at.id, label, { marks }, gesture);
      },
      onPoint: setPoint,
      onSelection: setSelected,
      onRefused: (error) => toast(sentenceOf(error)),
      onTold: (sentence) => toast(sentence, { duration: 8000 }),
      playTick: () => secondsToTicks(latest.current.timeline.tempo, transport.second()),
    });
    lane.current = made;
    const keyNow = () => `${latest.current.part?.id} ${shown.lane}`;
    const before = kept.get(keyNow());
    if (before) made.restore(before);
    // The benchmark reads painting times from here.
    Object.assign(canvas.current, { ordleLane: made });
    return () => {
      kept.set(keyNow(), made.keep());
      made.destroy();
      lane.current = null;
    };
  }, [dispatch, editor, stack, shown.lane, shown.folded]);

  const errorAt = view?.curve?.errorAt ?? null;
  // Where a gesture would put a step of its own into the line, it is heard once it has ended.
  const stepId = part && stop ? placeForEdits(part, stop).stepId : null;
  const byHand = part && stepId !== null ? part.steps.byId[stepId].step : null;
  const lines = useMemo(
    () =>
      current && byHand && isByHand(byHand)
        ? drawnLines(byHand.curves ?? [], shown.lane, current.channel)
        : NO_LINES,
    [current, byHand, shown.lane],
  );
  useEffect(() => {
    if (!current || !part || !stop) return;
    const step = currentStepOf(bench);
    const marks = step && isCurve(step) && step.op === 'marks' && step.lane === shown.lane ? step : null;
    const writesOn = stop.id === 'cleaned' || stepId !== null;
    lane.current?.setContent({
      view: current,
      timeline,
      grid: gridInForce(bench).values,
      snap: bench.view.snap !== 'off',
      tool: bench.view.tool,
      mayEdit: mayWrite && !asPlayed && bench.view.show !== 'played',
      ink: part.ink,
      playing: playing && writesOn,
      lines,
      marks,
      error: step && isCurve(step) && step.lane === shown.lane ? errorAt : null,
      along: goesAlong(shown.lane) ? along : [],
    });
  }, [
    current,
    asPlayed,
    part,
    stop,
    timeline,
    bench,
    mayWrite,
    playing,
    along,
    errorAt,
    lines,
    stepId,
    shown.lane,
    shown.folded,
  ]);

  usePlayTick(timeline, playing, (tick) => lane.current?.setPlayTick(tick));

  return {
    canvas,
    playLine,
    current,
    point,
    selected,
    lines,
    lane,
  };
}
