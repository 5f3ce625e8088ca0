import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import type { EngraveRequest, Engraved } from './engraver';

/** Pixels of the staves for a scale of 1: lengths of the engraver are in tenths of these. */
const TENTHS = 100;
const A4 = Math.SQRT2;

const ready = createVerovioModule().then((module) => new VerovioToolkit(module));

self.addEventListener(
  'message',
  ({ data: { number, xml, width, scale, isPaged } }: MessageEvent<EngraveRequest>) => {
    ready
      .then((toolkit) => {
        // What was set before stays set otherwise.
        toolkit.resetOptions();
        toolkit.setOptions({
          scale,
          pageWidth: Math.max(400, Math.round((width * TENTHS) / scale)),
          // A sheet of A4 is as many times as high as it is wide.
          pageHeight: isPaged ? Math.round((width * A4 * TENTHS) / scale) : 60000,
          pageMarginTop: 60,
          pageMarginBottom: 40,
          pageMarginLeft: 140,
          pageMarginRight: 60,
          adjustPageHeight: !isPaged,
          header: 'none',
          footer: 'none',
          breaks: 'auto',
          svgViewBox: true,
          minLastJustification: 0.7,
        });
        if (!toolkit.loadData(xml)) throw new Error('The engraver could not read the bars.');
        const count = toolkit.getPageCount();
        const pages = Array.from({ length: count }, (_, page) => toolkit.renderToSVG(page + 1));
        const answer: Engraved = { number, pages, error: null };
        postMessage(answer);
      })
      .catch((error: unknown) => {
        const answer: Engraved = {
          number,
          pages: [],
          error: error instanceof Error ? error.message : String(error),
        };
        postMessage(answer);
      });
  },
);
