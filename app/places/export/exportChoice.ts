import {
  FORMATS,
  exportChoiceSchema,
  formatOf,
  type ExportChoice,
  type Part,
  type Session,
} from '@ordle/core';
import { useEffect } from 'react';
import { z } from 'zod';
import { readPreference, writePreference } from '@/storage/preferences';
import { createSmallStore } from '@/ui/smallStore';

/** What a person last chose to hand on of a session. */
const keptSchema = exportChoiceSchema.pick({ version: true, extent: true, names: true }).extend({
  /** Parts whose tick is another than usual, by id. */
  ticks: z.record(z.string(), z.boolean()),
  /** Ids of the formats that are wanted. */
  on: z.array(z.string()),
  /** The options of formats, wanted or not, by their ids. */
  options: z.record(z.string(), z.unknown()),
});
export type KeptChoice = z.infer<typeof keptSchema>;

const store = createSmallStore<{ sessionId: string; kept: KeptChoice; isRead: boolean } | null>(null);

const keyOf = (sessionId: string) => `export of ${sessionId}`;

/** Where nothing was chosen yet: everything that is in use, cleaned, as a MIDI file laid out as it came. */
const USUAL: KeptChoice = {
  version: 'cleaned',
  extent: { of: 'all' },
  names: null,
  ticks: {},
  on: [FORMATS[0].id],
  options: {},
};

/** What is set aside lives on in other parts, and goes out only when it is asked for. */
export const isWanted = ({ ticks }: KeptChoice, { id, setAside }: Part): boolean => ticks[id] ?? !setAside;

/** Some parts ticked or not; what is as usual is not kept, so that it stays so whatever becomes of the part. */
export function ticked({ ticks }: KeptChoice, parts: readonly Part[], isOn: boolean): KeptChoice['ticks'] {
  const others = Object.entries(ticks).filter(([id]) => !parts.some((part) => part.id === id));
  const own = parts.filter(({ setAside }) => isOn === setAside).map(({ id }) => [id, isOn] as const);
  return Object.fromEntries([...others, ...own]);
}

/** A stored choice as far as it means something here. */
function readKept(stored: unknown): KeptChoice | null {
  const read = keptSchema.safeParse(stored);
  if (!read.success) return null;
  const known = FORMATS.map(({ id }) => id);
  return { ...read.data, on: read.data.on.filter((id) => known.includes(id)) };
}

/** The choice for a session, kept for the next time; `isRead` once that of the last time is known. */
export function useKeptChoice(session: Session) {
  const there = store.useValue();
  const own = there?.sessionId === session.id ? there : null;
  useEffect(() => {
    if (store.get()?.sessionId === session.id) return;
    let wanted = true;
    const begin = (kept: KeptChoice) => wanted && store.set({ sessionId: session.id, kept, isRead: true });
    void readPreference(keyOf(session.id)).then((stored) => begin(readKept(stored) ?? USUAL));
    return () => {
      wanted = false;
    };
    // Read once for a session, whatever is done to it meanwhile.
  }, [session.id]);
  const kept = own?.kept ?? USUAL;
  return {
    kept,
    isRead: own?.isRead ?? false,
    choose(change: Partial<KeptChoice>) {
      const next = { ...kept, ...change };
      store.set({ sessionId: session.id, kept: next, isRead: true });
      void writePreference(keyOf(session.id), next);
    },
  };
}

/** The options of a format as they are kept; those that mean nothing are as usual. */
export function optionsKept<O>(kept: KeptChoice, format: string): O {
  const { options } = formatOf(format);
  const read = options.safeParse(kept.options[format] ?? {});
  return (read.success ? read.data : options.parse({})) as O;
}

/** What is asked of the engine: the parts by their ids, the formats with their options. */
export function choiceOf(kept: KeptChoice, parts: readonly string[]): ExportChoice {
  const { version, extent, names, on } = kept;
  return {
    parts,
    version,
    extent,
    names,
    formats: FORMATS.filter(({ id }) => on.includes(id)).map(({ id }) => ({
      format: id,
      options: optionsKept(kept, id),
    })),
  };
}
