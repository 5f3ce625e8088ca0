import { addParts, insertItems, OrdleError, type Part, type Session, type TakeReference } from '@ordle/core';
import { produce } from 'immer';
import { engine } from '@/engine/engineClient';
import { applyAnswer } from '@/state/answers';
import { edit, selectDocument } from '@/state/sessionSlice';
import { store, type AppDispatch } from '@/state/store';
import type { Outcome } from './ImportReport';
import { otherTempoInWords } from './otherTempoInWords';

interface Added {
  name: string;
  references: readonly TakeReference[];
  parts: readonly Part[];
}

/** Files that are added to the open session together: read one after the other, put in as one action. */
export interface Joining {
  /** Reads a file; the parts of those before it are there already, as far as names go. */
  read(name: string, bytes: Uint8Array): Promise<Outcome>;
  /** Puts everything that was read into the session. */
  finish(dispatch: AppDispatch): void;
}

function put(draft: Session, { references, parts }: Added): void {
  insertItems(draft.takes, references);
  // Pieces are numbered as they are put in, so that the parts fit whatever was done meanwhile.
  addParts(draft, parts);
}

export function createJoining(): Joining {
  const open = selectDocument(store.getState());
  let document = open;
  const added: Added[] = [];
  return {
    async read(name, bytes) {
      if (!document) throw new OrdleError('no-session', 'No session is open to add the file to.');
      const { references, parts, repairs, otherTempo } = await engine.joinFile({ session: document, bytes });
      const read = { name, references, parts };
      added.push(read);
      document = produce(document, (draft) => put(draft as Session, read));
      const told = otherTempo ? [otherTempoInWords('It', otherTempo)] : [];
      return { file: name, error: null, repairs, told };
    },
    finish(dispatch) {
      if (!open || added.length === 0) return;
      const label = added.length === 1 ? `Add ${added[0].name}` : `Add ${added.length} files`;
      void applyAnswer({
        asked: { sessionId: open.id, partId: null },
        apply: () =>
          void dispatch(
            edit(label, (draft) => {
              for (const each of added) put(draft, each);
            }),
          ),
        gone() {
          throw new OrdleError('session-left', 'The session was left before the files could be added to it.');
        },
      });
    },
  };
}
