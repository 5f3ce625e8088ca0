import { strToU8, zipSync, type Zippable } from 'fflate';
import { NO_TIME } from '../noTime';

/** The media types of compressed MusicXML and of what is in it (MusicXML 4.0, compressed .mxl files). */
const MIMETYPE = 'application/vnd.recordare.musicxml';
const CONTAINER = `<?xml version="1.0" encoding="UTF-8"?>
<container>
<rootfiles>
<rootfile full-path="score.musicxml" media-type="application/vnd.recordare.musicxml+xml"/>
</rootfiles>
</container>
`;

/** A MusicXML document as a compressed .mxl file: its media type, first and plain, the container, the score. */
export function writeMxl(xml: string): Uint8Array {
  const files: Zippable = {
    mimetype: [strToU8(MIMETYPE), { level: 0, mtime: NO_TIME }],
    'META-INF/container.xml': [strToU8(CONTAINER), { mtime: NO_TIME }],
    'score.musicxml': [strToU8(xml), { mtime: NO_TIME }],
  };
  return zipSync(files);
}
