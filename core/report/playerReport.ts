import { drawnChart, type ReportedChart } from './drawnChart';
import { escaped, figure, pageOf, tableOf } from './page';

/** How a player did beside the score, as it is told to the player. */
export interface PlayerReport {
  part: string;
  score: string;
  made: string;
  /** Sentences on the whole, most important first. */
  sentences: readonly string[];
  charts: readonly ReportedChart[];
  /** Bars in which most is to be done, the first the most. */
  bars: readonly {
    name: string;
    wrong: number;
    missing: number;
    extra: number;
    offMs: number;
  }[];
  faults: readonly { place: string; what: string }[];
}

/** Faults that are told one by one. */
const MOST_FAULTS = 300;

/** A report for a player as a page of HTML that stands alone: how it went, where to practise, what was wrong. */
export function playerReport({ part, score, made, sentences, charts, bars, faults }: PlayerReport): string {
  const more = faults.length - MOST_FAULTS;
  return pageOf(
    `${part}, ${score}`,
    `<h1>${escaped(part)}</h1><p>beside the score “${escaped(score)}”</p><p class="quiet">${escaped(made)}</p>
<section><h2>How it went</h2>${sentences.map((each) => `<p>${escaped(each)}</p>`).join('')}
${charts.map(drawnChart).join('')}</section>
<section><h2>Bars to practise</h2>${
      bars.length === 0
        ? '<p>No bar stands out.</p>'
        : tableOf(
            ['bar', 'wrong', 'missing', 'extra', 'off by, ms'],
            bars.map(({ name, wrong, missing, extra, offMs }) => [
              escaped(name),
              String(wrong),
              String(missing),
              String(extra),
              figure(offMs, 0),
            ]),
          )
    }</section>
<section><h2>Note by note</h2>${
      faults.length === 0
        ? '<p>No note was wrong, missing or extra.</p>'
        : tableOf(
            ['at', 'what'],
            faults.slice(0, MOST_FAULTS).map(({ place, what }) => [escaped(place), escaped(what)]),
          )
    }${more > 0 ? `<p class="quiet">and ${more} more</p>` : ''}</section>`,
  );
}
