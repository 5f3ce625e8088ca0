import { readFileSync } from 'node:fs';
import path from 'node:path';
import { listOf, type ExportChoice, type Part, type Session, type Step } from '@ordle/core';
import { put, withSteps } from '../../../core/testing/quay';
import { createLibrary } from '../library';
import type { Engine } from '../protocol';
import { editQuestions } from '../questions/edits';
import { exportQuestions } from '../questions/exports';
import { fileQuestions } from '../questions/files';
import { partQuestions } from '../questions/part';
import { scoreQuestions } from '../questions/scores';
import { sessionQuestions } from '../questions/session';
import { createScenes } from '../scenes';

/** The engine as its thread has it, asked directly; takes come from and go to the storage of the test. */
export function createEngine(): Engine {
  const scenes = createScenes(createLibrary());
  return {
    ...fileQuestions(scenes),
    ...partQuestions(scenes),
    ...sessionQuestions(scenes),
    ...scoreQuestions(scenes),
    ...editQuestions(scenes),
    ...exportQuestions(scenes),
  };
}

/** The bytes of what is exported: all parts as a MIDI file as they came, where nothing else is said. */
export async function exported(
  engine: Engine,
  session: Session,
  change: Partial<ExportChoice> = {},
): Promise<Uint8Array> {
  const choice: ExportChoice = {
    parts: session.parts.order,
    version: 'cleaned',
    extent: { of: 'all' },
    names: null,
    formats: [{ format: 'mid', options: {} }],
    ...change,
  };
  const { content } = await engine.writeExport({ session, choice });
  return new Uint8Array(await content.arrayBuffer());
}

/** A file of the demo. */
export const demoFile = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(path.resolve(__dirname, '../../public/demo', name)));

export const partOf = ({ parts }: Session, name: string): Part => {
  const part = listOf(parts).find((each) => each.name === name);
  if (!part) throw new Error(`no part ${name}`);
  return part;
};

/** The session with some steps on one of its parts. */
export const stepsOn = (session: Session, partId: string, steps: readonly Step[]): Session =>
  put(session, withSteps(session.parts.byId[partId], steps));
