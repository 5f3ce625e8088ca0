import type { z } from 'zod';
import type { Chosen, Evaluator } from '../evaluate';
import { collectSessionFile, type KeptContent, type SessionFile } from '../formats';
import type { Take } from '../model';
import type { Session } from '../session';
import type { Instruments, Scratch } from './wav/sounding';

/** What formats are written from. */
export interface ExportSource {
  session: Session;
  evaluator: Evaluator;
  takeOf(key: string): Take;
  /** The session with all it refers to; with its history where there is one and it is wanted. */
  everything(withHistory: boolean): Promise<SessionFile>;
}

/** What formats are written from, of a session that was opened; `kept` has whatever it refers to. */
export const exportSource = (
  opened: Pick<ExportSource, 'session' | 'evaluator' | 'takeOf'>,
  kept: KeptContent,
  history?: unknown,
): ExportSource => ({
  ...opened,
  everything: (withHistory) => collectSessionFile(opened.session, kept, withHistory ? history : undefined),
});

/** What the writing of files needs of the place where it is done. */
export interface Workshop {
  instruments: Instruments;
  /** Room for samples that wait until it is known how loud they are to be. */
  scratch(): Scratch;
  /** Called now and then with the share of the file's work that is done; throws where the work was cancelled. */
  pause(share: number): Promise<void>;
  /** Something to know of what was written, in a sentence. */
  tell?(sentence: string): void;
}

/** A portion of what was chosen, to be written as files. */
export interface Portion {
  source: ExportSource;
  chosen: Chosen;
  /** The name of the section or block, and the so-manieth it is, from 1; empty and 0 where everything is written. */
  name: string;
  number: number;
}

/** A file that is going to be written. */
export interface PlannedFile {
  /** The part it is of, by name, where it is of one alone. */
  part: string;
  /** What it holds beside others of its format: "controllers". */
  what?: string;
  extension: string;
  /** What is in it, in a sentence. */
  words: string;
  /** How much work it is, in seconds of music that has to sound; next to nothing where it is not told. */
  seconds?: number;
  chunks(workshop: Workshop): Iterable<Uint8Array> | AsyncIterable<Uint8Array>;
}

/**
 * A format that a session can be handed on in. A new one is a file of its own with one of these, and a line in
 * `formats.ts`.
 */
export interface FormatKind<O = unknown> {
  id: string;
  title: string;
  /** What it is, in a few words beside its title. */
  tells: string;
  options: z.ZodType<O>;
  /** Whether sections, blocks or bars are written as files of their own; else it is of the whole session, once. */
  isCut: boolean;
  /** What it cannot hold, in sentences. */
  cannotHold(options: O): string[];
  /** What there is to know of these very parts before they are written so, in sentences; it may take a while. */
  check?(portion: Portion, options: O): string[];
  /** The files it makes of a portion. Throws OrdleError where it can make none. */
  files(portion: Portion, options: O): PlannedFile[];
}
