import {
  playerReport,
  type Part,
  type ScoreReadings,
  type Session,
  type Timeline,
  CHART_WORDS,
  alongMarks,
  binMark,
} from '@ordle/core';
import { placeInWords } from '@/panels/notes/noteColumns';
import { counted, figures, msInWords } from '@/words/counts';

/** Bars that are named to be practised. */
const MOST_BARS = 12;
/** Bars that are off by more than this without a wrong note are named too, in ms. */
const UNEVEN_MS = 40;
/** A player is on the whole early or late from here on, in ms. */
const ON_THE_WHOLE_MS = 8;

/** How a part was played beside its score, as a page of HTML for the player. */
export function reportForPlayer(
  part: Part,
  readings: ScoreReadings & { faults: readonly { tick: number; reason: string }[] },
  session: Session,
  timeline: Timeline,
): string {
  const { played } = readings;
  const troubles = readings.bars
    .map((bar) => ({ ...bar, weight: 60 * (bar.wrong + bar.missing) + 30 * bar.extra + bar.offMs }))
    .filter(({ wrong, missing, extra, offMs }) => wrong + missing + extra > 0 || offMs > UNEVEN_MS)
    .sort((a, b) => b.weight - a.weight);
  return playerReport({
    part: part.name,
    score: readings.name,
    made: `${session.name}. Made on ${new Date().toLocaleDateString('en-GB', { dateStyle: 'long' })}.`,
    sentences: [
      `${figures(played.right)} of ${counted(played.written, 'note')} were played right: ${counted(played.wrong, 'wrong note')}, ${figures(played.missing)} missing, ${figures(played.extra)} extra.`,
      timingInWords(readings),
      `${counted(played.early, 'note')} noticeably early, ${figures(played.late)} noticeably late.`,
      ...(played.lengthPct === null
        ? []
        : [
            `Notes sound for ${Math.round(played.lengthPct)} % of what is written; ${figures(played.short)} less than half, ${figures(played.long)} longer than written.`,
          ]),
    ],
    charts: (['by-place', 'along-bars'] as const).map((kind) => {
      const bins = kind === 'by-place' ? readings.byPlace : readings.alongBars;
      return {
        caption: `How late (${CHART_WORDS[kind].of}; ${CHART_WORDS[kind].along})`,
        bins,
        marks: alongMarks(kind, bins, 5).map((bin) => ({ bin, mark: binMark(kind, bins[bin]) })),
        isCounted: false,
      };
    }),
    bars: troubles.slice(0, MOST_BARS),
    faults: readings.faults.map(({ tick, reason }) => ({
      place: placeInWords(tick, { timeline, time: 'bars' }),
      what: reason,
    })),
  });
}

function timingInWords({ played: { biasMs, spreadMs }, isByBars }: ScoreReadings): string {
  const by = isByBars ? 'the written places' : 'the tempo that was played';
  const whole =
    Math.abs(biasMs) < ON_THE_WHOLE_MS
      ? 'neither early nor late on the whole'
      : `${msInWords(Math.abs(biasMs))} ms ${biasMs < 0 ? 'early' : 'late'} on the whole`;
  return `Against ${by} it is ${whole}, with a spread of ${msInWords(spreadMs)} ms.`;
}
