import { insertItems, itemOf, OrdleError, type Session } from '@ordle/core';
import { engine } from '@/engine/engineClient';
import type { BroughtTakes, GivenFile } from '@/engine/protocol';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import { counted } from '@/words/counts';
import type { Outcome } from './ImportReport';
import { otherTempoInWords } from './otherTempoInWords';

/** The open session may change while files are read: they are read for it again, so many times. */
const MOST_TRIES = 4;

/**
 * Adds the performances of files to the takes of a part of the open session, as one action however many there are.
 * Throws where the session or the part was left meanwhile.
 */
export async function addTakesOfFiles(
  dispatch: AppDispatch,
  partId: string,
  files: GivenFile[],
  isLinedUp: boolean,
): Promise<BroughtTakes> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const session = selectDocument(store.getState());
    if (!session || !itemOf(session.parts, partId)) break;
    const brought = await engine.takesOfFiles({ session, partId, files, isLinedUp });
    if (selectDocument(store.getState()) !== session) continue;
    if (brought.brought.length > 0) put(dispatch, session, brought, files);
    return brought;
  }
  throw new OrdleError(
    'part-left',
    'The part was left before the files could be added to it. Nothing was added.',
  );
}

function put(dispatch: AppDispatch, session: Session, brought: BroughtTakes, files: readonly GivenFile[]) {
  const { part, references, nextPiece } = brought;
  const label =
    files.length === 1 ? `Add takes of ${files[0].name}` : `Add takes of ${counted(files.length, 'file')}`;
  dispatch(
    edit(label, (draft) => {
      insertItems(
        draft.takes,
        references.filter(({ id }) => !Object.hasOwn(session.takes.byId, id)),
      );
      const own = itemOf(draft.parts, part.id);
      if (own && part.takes) own.takes = structuredClone(part.takes);
      draft.nextPiece = nextPiece;
    }),
  );
}

/** What became of each file, as an import tells it. */
export function outcomesOfTakes(
  files: readonly GivenFile[],
  { failed, silent, otherTempo }: Pick<BroughtTakes, 'failed' | 'silent' | 'otherTempo'>,
): Outcome[] {
  return files.map(({ name }): Outcome => {
    const error = failed.find((each) => each.name === name)?.why ?? null;
    const told = [
      ...(silent.includes(name) ? ['It holds no notes, so it brought no take.'] : []),
      ...(otherTempo?.name === name ? [otherTempoInWords('It', otherTempo.tempo)] : []),
    ];
    return { file: name, error, repairs: [], told };
  });
}
