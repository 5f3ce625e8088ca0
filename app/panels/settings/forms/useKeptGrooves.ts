import { groovePatternSchema, type GroovePattern } from '@ordle/core';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { readPreference, writePreference } from '@/storage/preferences';

const KEPT = 'grooves';

/** The person's own grooves, kept in this browser for all sessions. */
export function useKeptGrooves(): [GroovePattern[], (grooves: GroovePattern[]) => void] {
  const [grooves, setGrooves] = useState<GroovePattern[]>([]);
  useEffect(() => {
    void readPreference(KEPT).then((value) => {
      const parsed = z.array(groovePatternSchema).safeParse(value);
      if (parsed.success) setGrooves(parsed.data);
    });
  }, []);
  return [
    grooves,
    (list) => {
      setGrooves(list);
      void writePreference(KEPT, list);
    },
  ];
}
