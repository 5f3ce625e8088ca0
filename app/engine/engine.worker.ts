import '@/zodWithoutEval';
import { createDocumentReceiver, type DocumentMessage } from './documentCopy';
import { createLibrary } from './library';
import { exposeAnswers } from './exposeAnswers';
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

exposeAnswers(engine, withDocument);
