import { programName, type SeamFacts, type TakeReference } from '@ordle/core';
import { msInWords } from '@/words/counts';

/** How even a performance is, in ms. */
export const spreadInWords = (ms: number): string => (Number.isNaN(ms) ? 'no notes' : `±${msInWords(ms)} ms`);

/** How late or early it is on the whole. */
export function biasInWords(ms: number): string {
  const rounded = Math.round(ms);
  return rounded === 0 ? 'on the grid' : rounded > 0 ? `late ${rounded} ms` : `early ${-rounded} ms`;
}

/** How a take was recorded here: on what, how much was taken off for its latency, how fast, and whether it is whole. */
export function recordedInWords(recorded: TakeReference['recorded']): string {
  if (!recorded) return '';
  const { input, latencyMs, speed, slips } = recorded;
  const facts = [
    `recorded here on ${input === '' ? 'an input without a name' : input}`,
    latencyMs === 0 ? '' : `${latencyMs} ms taken off for latency`,
    speed === 1 ? '' : `played at ${Math.round(speed * 100)} % of the tempo`,
    slips === 0 ? '' : `the sound broke off ${slips} times meanwhile, so places may be off`,
  ];
  return facts.filter(Boolean).join(', ');
}

export const sum = (counts: ArrayLike<number>): number =>
  Array.from(counts).reduce((total, own) => total + own, 0);

/** What jumps under notes that ring over a seam, a sentence each. */
export function jumpInWords({ jump }: SeamFacts): string[] {
  if (!jump) return [];
  const { from, to } = jump;
  const cents = (value: number) => `${value > 0.5 ? '+' : ''}${Math.round(value)}`;
  const semitones = (range: number) => String(Math.round(range) / 100);
  const sound = (program: number | null) => (program === null ? 'no sound of its own' : programName(program));
  return [
    Math.abs(from.bendCents - to.bendCents) >= 0.5
      ? `What rings over jumps from ${cents(from.bendCents)} to ${cents(to.bendCents)} cents of bend.`
      : '',
    from.bendRange !== to.bendRange
      ? `The bend range goes from ${semitones(from.bendRange)} to ${semitones(to.bendRange)} semitones, also for what rings over.`
      : '',
    from.program !== to.program
      ? `The sound goes from ${sound(from.program)} to ${sound(to.program)}, which may cut or change what rings over.`
      : '',
  ].filter(Boolean);
}
