import type { BenchRow } from '../core';
import { judgedFindings } from './judged';
import { ratesOf, tallyOfPlanted } from './planted';

/** Least share of planted faults that are found, and of what is told that was planted. */
export const REACH = { recall: 0.9, precision: 0.8 };
const SEEDS = 10;

/** How many of the faults planted in the demo's music are found, and what else is told, by kind. */
export function benchFindings(): BenchRow[] {
  const tallies = tallyOfPlanted(SEEDS);
  const judged = judgedFindings();
  const { recall, precision } = ratesOf(tallies.values());
  const kinds = [...tallies].map(([kind, { planted, found, falseAlarms }]): BenchRow => ({
    work: `planted: ${kind}`,
    ours: `${found}/${planted}`,
    peer: `${falseAlarms} false alarms`,
    reach: '',
    met: true,
  }));
  const rate = (work: string, value: number, reach: number): BenchRow => ({
    work,
    ours: value.toFixed(3),
    peer: '',
    reach: `at least ${reach}`,
    met: value >= reach,
  });
  return [
    ...kinds,
    rate('planted faults that are found', recall, REACH.recall),
    rate(
      `findings in files by others that an editor would sign, ${judged.signed + judged.refused}`,
      judged.signed / (judged.signed + judged.refused),
      0.85,
    ),
    rate('findings that were planted', precision, REACH.precision),
  ];
}
