import {
  OrdleError,
  checkFormats,
  checkMidi,
  chosenParts,
  endOfChosen,
  exportSource,
  leftOut,
  listOf,
  midiOptions,
  packSession,
  planExport,
  portionsOf,
  soundingOf,
  storedPart,
  writeExport,
  type ExportCheck,
  type Instruments,
  type KeptContent,
  type Scratch,
  type Session,
} from '@ordle/core';
import { blobOf } from '../blobOf';
import { loadTable } from '@/storage/editTables';
import { loadTake } from '@/storage/takes';
import { loadBank } from '@/sound/bank';
import type { Engine } from '../protocol';
import type { Scenes } from '../scenes';

/** Of no parts there is nothing to know. */
const NOTHING_TO_TELL: ExportCheck = { concerns: [], additions: [], sameNotes: [], sameControllers: [] };
/** Ms of work between two looks at what else is asked. */
const TURN_MS = 40;

/** Room that the browser keeps for us, on disk where there is much. */
function scratchInBrowser(): Scratch {
  let pieces: Blob[] = [];
  return {
    append: (bytes) => void pieces.push(new Blob([bytes as Uint8Array<ArrayBuffer>])),
    async *chunks() {
      for (const piece of pieces) yield new Uint8Array(await piece.arrayBuffer());
    },
    drop() {
      pieces = [];
    },
  };
}

/** The instruments, and all they are played by, are brought when something is to sound for the first time. */
const instruments: Instruments = async (...asked) => {
  sounding ??= Promise.all([import('@ordle/sound'), loadBank()]).then(([{ instrumentsOf }, bank]) =>
    instrumentsOf(bank),
  );
  const loaded = await sounding.catch((error: unknown) => {
    sounding = null;
    throw error;
  });
  return loaded(...asked);
};
let sounding: Promise<Instruments> | null = null;

const nextTurn = () =>
  new Promise<void>((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** What is handed on: said before, heard, and written. */
export function exportQuestions({ library, evaluator, read, tellProgress }: Scenes) {
  const { takeOf, editTable } = library;
  /** Raised by every writing and by every call to stop: an older one notices. */
  let run = 0;

  const kept: KeptContent = {
    take: (key) =>
      takeOrNull(
        async () => takeOf(key),
        () => loadTake(key),
      ),
    table: async (key) => editTable(key) ?? (await loadTable(key).catch(() => null)),
  };
  const sourceOf = (session: Session, history?: unknown) =>
    exportSource({ session, evaluator, takeOf }, kept, history);
  /** What was chosen without what cannot be worked out, and why that is. */
  const readable = async <C extends { parts: readonly string[] }>(session: Session, choice: C) => {
    const { parts, waiting } = await read(
      session,
      listOf(session.parts).filter(({ id }) => choice.parts.includes(id)),
    );
    if (parts.length === 0 && waiting.length > 0)
      throw new OrdleError('nothing-to-export', `There is nothing to export. ${waiting[0].why}`);
    return { only: { ...choice, parts: parts.map(({ part }) => part.id) }, waiting };
  };
  return {
    async checkExport({ session, choice, options }) {
      const { parts, waiting } = await read(
        session,
        listOf(session.parts).filter(({ id }) => choice.parts.includes(id)),
      );
      if (parts.length === 0) return { ...NOTHING_TO_TELL, waiting };
      const only = { ...choice, parts: parts.map(({ part }) => part.id) };
      const chosen = chosenParts(session, only, evaluator);
      const portion = { source: sourceOf(session), chosen, name: '', number: 0 };
      return { ...checkMidi(portion, midiOptions.parse(options)), waiting };
    },

    async planExport({ session, choice }) {
      const { only } = await readable(session, choice);
      const { name, isZip, files } = planExport(sourceOf(session), only);
      return {
        name,
        isZip,
        files: files.map(({ name: own, format, words }) => ({ name: own, format, words })),
        leftOut: leftOut(only.formats),
        endTick: endOfChosen(chosenParts(session, only, evaluator)),
      };
    },

    async checkFormats({ session, choice }) {
      const { only } = await readable(session, choice);
      return checkFormats(sourceOf(session), only);
    },

    async exportSound({ session, choice, at }) {
      const { only } = await readable(session, choice);
      const portions = portionsOf(sourceOf(session), chosenParts(session, only, evaluator), choice.extent);
      const portion = portions.at(at);
      if (!portion)
        throw new OrdleError('nothing-to-export', 'There are no notes in these parts to be heard.');
      return { ...soundingOf(portion.chosen, takeOf), name: portion.name, count: portions.length };
    },

    async writeExport({ session, choice, history }) {
      const own = ++run;
      const { only } = await readable(session, choice);
      const plan = planExport(sourceOf(session, history), only);
      let last = performance.now();
      const told = new Set<string>();
      const workshop = {
        instruments,
        scratch: scratchInBrowser,
        tell: (sentence: string) => void told.add(sentence),
        async pause() {
          if (performance.now() - last > TURN_MS) {
            await nextTurn();
            last = performance.now();
          }
          if (own !== run) throw new OrdleError('cancelled', 'The export was stopped. Nothing was written.');
        },
      };
      const content = await blobOf(writeExport(plan, workshop, tellProgress), { pause: workshop.pause });
      return {
        name: plan.name,
        bytes: content.size,
        files: plan.files.length,
        content,
        told: [...told],
      };
    },

    async packSession(session, history) {
      return packSession(await sourceOf(session, history).everything(history !== undefined));
    },

    async stopExport() {
      run++;
    },
  } satisfies Partial<Engine>;
}

async function takeOrNull(...ways: (() => Promise<Parameters<typeof storedPart>[0]>)[]) {
  for (const way of ways) {
    const take = await way().catch(() => null);
    if (take) return storedPart(take);
  }
  return null;
}
