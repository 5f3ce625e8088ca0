import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import type { EngraveRequest, Engraved } from './engraver';

/** Pixels of the staves for a scale of 1: lengths of the engraver are in tenths of these. */
const TENTHS = 100;

const ready = createVerovioModule().then((module) => new VerovioToolkit(module));

self.addEventListener('message', ({ data: { number, xml, width, scale } }: MessageEvent<EngraveRequest>) => {
  ready
    .then((toolkit) => {
      // What was set before stays set otherwise.
      toolkit.resetOptions();
      toolkit.setOptions({
        scale,
        pageWidth: Math.max(400, Math.round((width * TENTHS) / scale)),
        pageHeight: 60000,
        pageMarginTop: 60,
        pageMarginBottom: 40,
        pageMarginLeft: 140,
        pageMarginRight: 60,
        adjustPageHeight: true,
        header: 'none',
        footer: 'none',
        breaks: 'auto',
        svgViewBox: true,
        minLastJustification: 0.7,
      });
      if (!toolkit.loadData(xml)) throw new Error('The engraver could not read the bars.');
      const answer: Engraved = { number, svg: toolkit.renderToSVG(1), error: null };
      postMessage(answer);
    })
    .catch((error: unknown) => {
      const answer: Engraved = {
        number,
        svg: '',
        error: error instanceof Error ? error.message : String(error),
      };
      postMessage(answer);
    });
});
