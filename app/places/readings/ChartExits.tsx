import { sentenceOf, type ChartBin, type ChartKind } from '@ordle/core';
import { toast } from 'sonner';
import { saveAs } from '@/files/saveAs';
import { Button, Menu } from '@/ui';
import { cellsOf, csvOf, pngOf, svgOf } from './chartFiles';

interface ChartExitsProps {
  name: string;
  kind: ChartKind;
  /** None while there is nothing to hand on. */
  bins: readonly ChartBin[] | null;
  /** Whether it is shown as a drawing, and that drawing. */
  isDrawn: boolean;
  drawn(): SVGSVGElement | null;
}

const encoder = new TextEncoder();

/** A chart copied or saved, as a picture or as its figures. */
export function ChartExits({ name, kind, bins, isDrawn, drawn }: ChartExitsProps) {
  const tell = (what: Promise<void>, done: string) =>
    what.then(
      () => toast(done),
      (reason: unknown) => toast.error(`The browser did not allow it: ${sentenceOf(reason)}`),
    );
  const saveFigures = () => saveAs(`${name}.csv`, encoder.encode(csvOf(kind, bins ?? [])), 'text/csv');
  const saveDrawing = () => {
    const picture = drawn();
    if (picture) saveAs(`${name}.svg`, encoder.encode(svgOf(picture)), 'image/svg+xml');
  };
  const savePicture = async () => {
    const picture = drawn();
    if (!picture) return;
    const blob = await pngOf(picture);
    saveAs(`${name}.png`, new Uint8Array(await blob.arrayBuffer()), 'image/png');
  };
  const copyPicture = () => {
    const picture = drawn();
    if (picture)
      void tell(
        navigator.clipboard.write([new ClipboardItem({ 'image/png': pngOf(picture) })]),
        'The picture is copied.',
      );
  };
  return (
    <>
      <Menu
        trigger={<Button disabled={!bins}>Copy ▾</Button>}
        items={[
          {
            label: 'The figures',
            hint: 'to paste in a table',
            onSelect: () =>
              void tell(navigator.clipboard.writeText(cellsOf(kind, bins ?? [])), 'The figures are copied.'),
          },
          { label: 'The picture', disabled: !isDrawn, onSelect: copyPicture },
        ]}
      />
      <Menu
        trigger={<Button disabled={!bins}>Save ▾</Button>}
        items={[
          { label: 'SVG', hint: 'a drawing', disabled: !isDrawn, onSelect: saveDrawing },
          {
            label: 'PNG',
            hint: 'a picture',
            disabled: !isDrawn,
            onSelect: () => void savePicture().catch((reason: unknown) => toast.error(sentenceOf(reason))),
          },
          { label: 'CSV', hint: 'the figures', onSelect: saveFigures },
        ]}
      />
    </>
  );
}
