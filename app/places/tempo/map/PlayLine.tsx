import { secondsToTicks, type Timeline } from '@ordle/core';
import { useEffect, useRef } from 'react';
import { transport } from '@/sound/transport';
import { xOf, type CurveShape } from './curveGeometry';

/** Where the play line is, written straight into the drawing at every frame while it plays. */
export function PlayLine({
  timeline,
  shape,
  height,
}: {
  timeline: Timeline;
  shape: CurveShape;
  height: number;
}) {
  const line = useRef<SVGLineElement>(null);
  useEffect(() => {
    let frame = 0;
    const write = () => {
      const x = String(xOf(secondsToTicks(timeline.tempo, transport.second()), shape));
      line.current?.setAttribute('x1', x);
      line.current?.setAttribute('x2', x);
      cancelAnimationFrame(frame);
      if (transport.state().playing) frame = requestAnimationFrame(write);
    };
    write();
    const stop = transport.subscribe(write);
    return () => {
      cancelAnimationFrame(frame);
      stop();
    };
  }, [timeline, shape]);
  return <line ref={line} y1={0} y2={height} stroke="var(--accent)" strokeWidth={1.5} pointerEvents="none" />;
}
