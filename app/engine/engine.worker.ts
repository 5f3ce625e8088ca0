import '@/zodWithoutEval';
import { expose } from 'comlink';
import { createDocumentReceiver, type DocumentMessage } from './documentCopy';
import { createLibrary } from './library';
import { packError } from './packedError';
import { createTeller } from './progress';
import type { Engine } from './protocol';
import { editQuestions } from './questions/edits';
import { exportQuestions } from './questions/exports';
import { fileQuestions } from './questions/files';
import { partQuestions } from './questions/part';
import { scoreQuestions } from './questions/scores';
import { sessionQuestions } from './questions/session';
import { createScenes } from './scenes';

const library = createLibrary();
const scenes = createScenes(
  library,
  createTeller((message) => postMessage(message)),
);
const engine: Engine = {
  ...fileQuestions(scenes),
  ...partQuestions(scenes),
  ...sessionQuestions(scenes),
  ...scoreQuestions(scenes),
  ...editQuestions(scenes),
  ...exportQuestions(scenes),
};

const received = createDocumentReceiver();

/**
 * A question with the document it means in place of the message about it; read at once, since the next message may
 * change it.
 */
function withDocument(argument: unknown): unknown {
  if (typeof argument !== 'object' || argument === null || !('document' in argument)) return argument;
  const { document, ...rest } = argument as { document: DocumentMessage };
  const session = received.read(document);
  library.letGo(session);
  return { ...rest, session };
}

/** Errors cross the thread border as plain values, so that a known error stays known on the other side. */
expose(
  Object.fromEntries(
    Object.entries(engine).map(([name, method]) => [
      name,
      async (...args: unknown[]) => {
        try {
          const list = args.map(withDocument);
          return { value: await (method as (...list: unknown[]) => Promise<unknown>)(...list) };
        } catch (error) {
          return { error: packError(error) };
        }
      },
    ]),
  ),
);
