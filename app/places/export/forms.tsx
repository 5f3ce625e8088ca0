import type {
  CsvOptions,
  GrooveOptions,
  MusicXmlSettings,
  SessionFileOptions,
  WavOptions,
} from '@ordle/core';
import { Check, NumberField, Segmented, Select } from '@/ui';
import { Row } from './Row';

interface Form<O> {
  options: O;
  change(change: Partial<O>): void;
}

/** Whether written music comes as text or as one small file. */
export function MusicXmlForm({ options, change }: Form<MusicXmlSettings>) {
  return (
    <Segmented
      label="Kind of MusicXML file"
      value={options.compressed ? 'mxl' : 'musicxml'}
      options={[
        { value: 'musicxml', label: 'plain (.musicxml)', title: 'Text that every program of the kind opens' },
        { value: 'mxl', label: 'compressed (.mxl)', title: 'The same as a small file' },
      ]}
      onChange={(kind) => change({ compressed: kind === 'mxl' })}
    />
  );
}

const TABLES = [
  ['notes', 'Notes'],
  ['controllers', 'Controllers'],
  ['tempo', 'Tempo and meter'],
] as const;

/** Which tables are written. */
export function CsvForm({ options: { tables }, change }: Form<CsvOptions>) {
  return (
    <div role="group" aria-label="Tables" className="flex flex-wrap gap-x-4 gap-y-1">
      {TABLES.map(([table, name]) => (
        <Check
          key={table}
          checked={tables.includes(table)}
          // One of them has to be there.
          disabled={tables.length === 1 && tables[0] === table}
          onChange={(on) =>
            change({ tables: on ? [...tables, table] : tables.filter((each) => each !== table) })
          }
        >
          {name}
        </Check>
      ))}
    </div>
  );
}

/** How sound is written. */
export function WavForm({ options, change }: Form<WavOptions>) {
  const { rate, bits, level, tail, files } = options;
  return (
    <>
      <Segmented
        label="Sound files"
        value={files}
        options={[
          { value: 'mix', label: 'the mix', title: 'All parts together in one file' },
          { value: 'parts', label: 'a file a part', title: 'Together they are the mix' },
          { value: 'both', label: 'both', title: 'The mix, and a file for each part' },
        ]}
        onChange={(next) => change({ files: next })}
      />
      <Row name="Quality">
        <span className="flex gap-2">
          <Select
            label="Sample rate"
            value={String(rate)}
            onChange={(next) => change({ rate: RATES.find((each) => String(each) === next) })}
          >
            {RATES.map((each) => (
              <option key={each} value={each}>
                {each / 1000} kHz
              </option>
            ))}
          </Select>
          <Select
            label="Bits"
            value={String(bits)}
            onChange={(next) => change({ bits: next === '24' ? 24 : 16 })}
          >
            <option value="16">16 bit</option>
            <option value="24">24 bit</option>
          </Select>
        </span>
      </Row>
      <Row name="Level">
        <Segmented
          label="Level"
          value={level}
          options={[
            {
              value: 'peak',
              label: 'peak at −1 dB',
              title: 'As loud as it can be; the parts as loud as they are in the mix',
            },
            { value: 'heard', label: 'as heard', title: 'As it plays here' },
          ]}
          onChange={(next) => change({ level: next })}
        />
      </Row>
      <Row name="End">
        <Segmented
          label="End"
          value={tail}
          options={[
            { value: 'ring', label: 'rings out', title: 'Until it is silent, ten seconds at most' },
            {
              value: 'bar',
              label: 'at the bar line',
              title: 'Cut where the last bar ends, so that it loops',
            },
          ]}
          onChange={(next) => change({ tail: next })}
        />
      </Row>
    </>
  );
}

const RATES = [44100, 48000, 96000] as const;

/** Whether what was done and undone goes along. */
export function SessionFileForm({ options, change }: Form<SessionFileOptions>) {
  return (
    <Check checked={options.history} onChange={(history) => change({ history })}>
      With its history, so that everything can still be undone there
    </Check>
  );
}

/** The lines a groove is told by, and how long it is. */
export function GrooveForm({ options: { grid, beats }, change }: Form<GrooveOptions>) {
  return (
    <Row name="Lines">
      <span className="flex items-baseline gap-2 text-ink-2">
        <Select label="Lines of the groove" value={grid} onChange={(next) => change({ grid: next })}>
          {['1/4', '1/8', '1/8T', '1/16', '1/16T', '1/32'].map((each) => (
            <option key={each}>{each}</option>
          ))}
        </Select>
        again after
        <NumberField
          label="Length of the groove"
          value={beats}
          min={1}
          max={64}
          onCommit={(next) => change({ beats: next })}
        />
        beats
      </span>
    </Row>
  );
}
