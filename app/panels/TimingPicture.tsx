import { reachOfStrip, type LatenessStrip } from '@ordle/core';
import { msInWords } from '@/words/counts';

const [WIDTH, HEIGHT] = [80, 20];

interface TimingPictureProps {
  strip: LatenessStrip;
  /** What a bar of full height stands for, in ms, where several are to be compared; else its own most. */
  reach?: number;
  /** What it is shown as. */
  as?: string;
}

/** Late upward and early downward along a session, small: a loose one and a tight one are told apart at a glance. */
export function TimingPicture({ strip, reach = reachOfStrip(strip), as = 'as cleaned' }: TimingPictureProps) {
  const middle = HEIGHT / 2;
  const step = WIDTH / strip.late.length;
  const bars = (side: Float32Array, up: boolean) =>
    [...side]
      .map((ms, bin) => {
        const height = Math.min(middle - 1, (ms / reach) * (middle - 1));
        return height < 0.3
          ? ''
          : `M${bin * step} ${up ? middle - height : middle + 0.5}h${step - 0.4}v${height}h${0.4 - step}z`;
      })
      .join('');
  const [late, early] = [Math.max(...strip.late), Math.max(...strip.early)];
  const words = `late up to ${msInWords(late)} ms, early up to ${msInWords(early)} ms`;
  return (
    <svg role="img" aria-label={words} width={WIDTH} height={HEIGHT} className="shrink-0">
      <title>{`${words}, ${as}; a bar of full height is ${reach} ms`}</title>
      <path d={`M0 ${middle}h${WIDTH}v0.5h-${WIDTH}z`} className="fill-rule-strong" />
      <path d={bars(strip.late, true)} className="fill-late" />
      <path d={bars(strip.early, false)} className="fill-early" />
    </svg>
  );
}
