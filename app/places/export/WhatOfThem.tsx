import { NAME_TOKENS, PACK_PATTERN, PLAIN_PATTERN, type ExportChoice } from '@ordle/core';
import { useSections } from '@/music/useMarkers';
import { BarsFields } from '@/panels/sections/BarsFields';
import { SectionSelect } from '@/panels/sections/SectionSelect';
import { Segmented, TextField } from '@/ui';
import type { KeptChoice } from './exportChoice';
import { Row } from './Row';

interface WhatOfThemProps {
  /** Where the music that is chosen ends, in ticks; 0 while that is not known. */
  endTick: number;
  kept: KeptChoice;
  choose(change: Partial<KeptChoice>): void;
}

type Extent = ExportChoice['extent']['of'];
const MOST_BARS = 99999;

/** As played or cleaned; all of it, some bars, or each section or block by itself; and what files are called. */
export function WhatOfThem({ endTick, kept, choose }: WhatOfThemProps) {
  const sections = useSections(endTick);
  const { extent, names } = kept;
  const usual = extent.of === 'sections' || extent.of === 'blocks' ? PACK_PATTERN : PLAIN_PATTERN;
  return (
    <div className="flex flex-col gap-2.5">
      <Row name="Version">
        <Segmented
          label="Version"
          value={kept.version}
          options={[
            { value: 'cleaned', label: 'cleaned', title: 'With every step that is on' },
            {
              value: 'played',
              label: 'as played',
              title: 'The takes as they are chosen, without any step',
            },
          ]}
          onChange={(version) => choose({ version })}
        />
      </Row>
      <Row name="Which bars">
        <Segmented
          label="Which bars"
          value={extent.of}
          options={EXTENTS}
          onChange={(of) => choose({ extent: of === 'bars' ? { of, bars: [1, 5] } : { of } })}
        />
      </Row>
      {extent.of === 'bars' && (
        <Row name="">
          <span className="flex items-baseline gap-1.5 text-ink-2">
            <BarsFields
              bars={extent.bars}
              most={MOST_BARS}
              words={['from', 'to']}
              onChange={(bars) => choose({ extent: { of: 'bars', bars } })}
            />
          </span>
          <span className="mt-1.5 block">
            <SectionSelect
              sections={sections}
              bars={extent.bars}
              disabled={false}
              onChange={({ bars }) => choose({ extent: { of: 'bars', bars } })}
            />
          </span>
        </Row>
      )}
      <Row name="Names">
        <TextField
          label="Names of files"
          value={names ?? usual}
          className="w-full border-edge!"
          onCommit={(text) => choose({ names: text.trim() === '' || text === usual ? null : text })}
        />
        <p className="mt-0.5 text-quiet text-ink-2">{NAME_TOKENS.map((token) => `{${token}}`).join(' ')}</p>
      </Row>
    </div>
  );
}

const EXTENTS: { value: Extent; label: string; title: string }[] = [
  { value: 'all', label: 'all', title: 'From the first bar to the last' },
  { value: 'bars', label: 'some bars', title: 'Cut at bar lines; the files begin with the first of them' },
  {
    value: 'sections',
    label: 'each section',
    title: 'A file for each section that the markers make, cut at bar lines',
  },
  { value: 'blocks', label: 'each block', title: 'A file for each block of each part, cut at bar lines' },
];
