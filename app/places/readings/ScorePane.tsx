import { sentenceOf, type Part, type PlayedByScore, type ScoreReadings, type Session } from '@ordle/core';
import { lazy, Suspense, useState } from 'react';
import { toast } from 'sonner';
import { engine } from '@/engine/engineClient';
import { useAnswer } from '@/engine/useAnswer';
import { saveAs } from '@/files/saveAs';
import { useOpenBench } from '@/music/useBench';
import { Button, useWidthOf } from '@/ui';
import { figures, msInWords } from '@/words/counts';
import { reportForPlayer } from './reportForPlayer';

const Drawing = lazy(() => import('./Drawing'));
const asked = (of: Parameters<typeof engine.scoreReadings>[0]) => engine.scoreReadings(of);

/** A part beside its score: how much of it was played right, how early and late, how long and loud. */
export function ScorePane({ session, part }: { session: Session; part: Part }) {
  const { timeline } = useOpenBench();
  const { answer, error } = useAnswer(asked, { session, partId: part.id });
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const width = useWidthOf(element);
  if (!answer) return <p className="py-3 text-ink-2">{error ?? 'Reading it by the score ...'}</p>;
  const save = () => {
    try {
      const page = reportForPlayer(part, answer, session, timeline);
      saveAs(`${part.name}, by the score.html`, new TextEncoder().encode(page), 'text/html');
    } catch (reason) {
      toast(sentenceOf(reason));
    }
  };
  return (
    <div ref={setElement} className="flex min-w-0 grow flex-col gap-3 py-3 pr-4">
      <div className="flex items-center gap-3">
        <p className="grow text-ink-2">Beside “{answer.name}”, as played and as cleaned.</p>
        <Button title="A page to be read and printed anywhere: what to practise, and why" onClick={save}>
          Save a report for the player
        </Button>
      </div>
      <Table readings={answer} />
      {width > 0 && (
        <Suspense fallback={null}>
          <h3 className="font-semibold">How late, by written place in the bar</h3>
          <Drawing kind="by-place" bins={answer.byPlace} ink={part.ink} width={width - 16} height={150} />
          <h3 className="font-semibold">How late, along the bars</h3>
          <Drawing kind="along-bars" bins={answer.alongBars} ink={part.ink} width={width - 16} height={150} />
        </Suspense>
      )}
    </div>
  );
}

const lateInWords = (ms: number) => `${msInWords(Math.abs(ms))} ms ${ms < 0 ? 'early' : 'late'}`;

/** Rows of the table: what is told, and of a side what. */
const ROWS: [string, (side: PlayedByScore) => string][] = [
  ['played right', ({ right, written }) => `${figures(right)} of ${figures(written)}`],
  ['wrong', ({ wrong }) => figures(wrong)],
  ['missing', ({ missing }) => figures(missing)],
  ['extra', ({ extra }) => figures(extra)],
  ['on the whole', ({ biasMs }) => lateInWords(biasMs)],
  ['spread', ({ spreadMs }) => `${msInWords(spreadMs)} ms`],
  ['noticeably early, late', ({ early, late }) => `${figures(early)}, ${figures(late)}`],
  ['length of the written one', ({ lengthPct }) => (lengthPct === null ? '–' : `${Math.round(lengthPct)} %`)],
  ['held under half, too long', ({ short, long }) => `${figures(short)}, ${figures(long)}`],
  [
    'louder than written',
    ({ louder, unevenness }) =>
      `${louder < 0 ? '−' : '+'}${Math.abs(louder).toFixed(0)}, uneven by ${unevenness.toFixed(0)}`,
  ],
];

function Table({ readings }: { readings: ScoreReadings }) {
  return (
    <table className="max-w-xl text-work tabular-nums" data-testid="by-score">
      <thead className="text-ink-2">
        <tr className="border-b border-rule text-left">
          <th className="py-1 font-normal" scope="col">
            by the score
          </th>
          <th className="font-normal" scope="col">
            as played
          </th>
          <th className="font-normal" scope="col">
            cleaned
          </th>
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([name, told]) => (
          <tr key={name} className="border-b border-rule">
            <th className="py-0.5 pr-4 text-left font-normal" scope="row">
              {name}
            </th>
            <td className="pr-4">{told(readings.played)}</td>
            <td>{told(readings.cleaned)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
