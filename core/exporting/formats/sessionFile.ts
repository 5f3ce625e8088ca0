import { gzipSync, strToU8 } from 'fflate';
import { z } from 'zod';
import { writeSessionFile, type SessionFile } from '../../formats';
import type { FormatKind } from '../formatKind';

export const sessionFileOptions = z.strictObject({ history: z.boolean().default(false) });
export type SessionFileOptions = z.infer<typeof sessionFileOptions>;

/** A session with all it refers to as the bytes of a file: JSON, compressed (gzip, RFC 1952) with no time in it. */
export const packSession = (file: SessionFile): Uint8Array =>
  gzipSync(strToU8(writeSessionFile(file)), { mtime: 0 });

/** The whole session, to be opened elsewhere. */
export const sessionFile: FormatKind<SessionFileOptions> = {
  id: 'ordle',
  title: 'Session file',
  tells: 'everything, to open elsewhere or to keep',
  options: sessionFileOptions,
  isCut: false,
  cannotHold: ({ history }) => [
    'Every part is in it, chosen or not.',
    ...(history ? [] : ['What was done and undone stays here.']),
  ],
  files: ({ source }, { history }) => [
    {
      part: '',
      extension: 'ordle',
      words: history ? 'the session with its history' : 'the session',
      async *chunks() {
        yield packSession(await source.everything(history));
      },
    },
  ],
};
