import { listOf, sectionsOf, type Marker, type NamedSection, type Session } from '@ordle/core';
import { useEffect, useMemo, useState } from 'react';
import { engine } from '@/engine/engineClient';
import { useBench } from './useBench';

const NONE: readonly Marker[] = [];

/** What the markers of files depend on: the takes that are laid, and which of them conducts. */
function filesOf({ conductor, parts, takes }: Session): string {
  const laid = listOf(parts).flatMap(({ layers }) => listOf(layers).flatMap(({ pieces }) => pieces.order));
  return JSON.stringify([conductor, takes.order, laid]);
}

/**
 * The markers of the open session in order of time: as they were left, or as the files have them, which the engine
 * looks up.
 */
export function useMarkers(): readonly Marker[] {
  const session = useBench()?.session;
  const [found, setFound] = useState<{ files: string; markers: readonly Marker[] } | null>(null);
  const files = useMemo(() => (session && !session.markers ? filesOf(session) : ''), [session]);
  useEffect(() => {
    if (!session || files === '' || found?.files === files) return;
    let isAwaited = true;
    engine.markers({ session }).then(
      (markers) => isAwaited && setFound({ files, markers }),
      // Whatever keeps them from being read is told where the music is shown.
      () => undefined,
    );
    return () => {
      isAwaited = false;
    };
  }, [session, files, found]);
  return session?.markers ?? found?.markers ?? NONE;
}

/** The sections of the open session, the last of them up to `endTick`. */
export function useSections(endTick: number): NamedSection[] {
  const meter = useBench()?.timeline.meter;
  const markers = useMarkers();
  return useMemo(() => (meter ? sectionsOf(markers, meter, endTick) : []), [meter, markers, endTick]);
}
