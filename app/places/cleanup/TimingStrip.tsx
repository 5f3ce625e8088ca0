import { reachOfStrip, type LieWithSteps } from '@ordle/core';
import { msInWords } from '@/words/counts';

const [WIDTH, HEIGHT] = [160, 28];

/** Late upward and early downward along a part: before in outline, after filled. */
export function TimingStrip({ picture, before, after }: LieWithSteps) {
  if (!picture) return <span className="inline-block" style={{ width: WIDTH }} />;
  const reach = reachOfStrip(picture.before);
  const middle = HEIGHT / 2;
  const bar = WIDTH / picture.before.late.length;
  const height = (ms: number) => Math.min(middle - 1, (ms / reach) * (middle - 1));
  const bars = (side: Float32Array, up: boolean) =>
    [...side]
      .map((ms, bin) => {
        const tall = height(ms);
        return tall < 0.3
          ? ''
          : `M${bin * bar + 0.5} ${up ? middle - tall : middle}h${bar - 1}v${tall}h${1 - bar}z`;
      })
      .join('');
  const words = `Off the grid by ${msInWords(before.offMs)} ms before, ${msInWords(after.offMs)} ms after`;
  return (
    <svg role="img" aria-label={words} width={WIDTH} height={HEIGHT} className="shrink-0">
      <title>{`Late up, early down along the part; outline before, filled after. A bar of full height is ${reach} ms`}</title>
      <path d={`M0 ${middle}h${WIDTH}`} className="stroke-edge" strokeWidth={0.5} />
      <path d={bars(picture.after.late, true)} className="fill-late" />
      <path d={bars(picture.after.early, false)} className="fill-early" />
      <path d={bars(picture.before.late, true)} className="fill-none stroke-late" strokeWidth={0.8} />
      <path d={bars(picture.before.early, false)} className="fill-none stroke-early" strokeWidth={0.8} />
    </svg>
  );
}
