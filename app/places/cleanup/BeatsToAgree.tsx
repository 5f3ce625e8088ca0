import {
  NO_HINTS,
  doubledBeats,
  halvedBeats,
  type PlayedBeats,
  type PulseHints,
  type SuggestedRecording,
} from '@ordle/core';
import { Link } from 'react-router';
import { Button } from '@/ui';
import { counted } from '@/words/counts';
import type { CleanUpState } from './useCleanUp';
import { certainty } from './words';

interface BeatsToAgreeProps {
  recording: SuggestedRecording;
  beats: PlayedBeats;
  state: CleanUpState;
  sessionId: string;
  mayWrite: boolean;
  isPlaying: boolean;
  onHear(): void;
}

/** The beats of a free recording: seen and heard, counted otherwise, and agreed to before anything is done by them. */
export function BeatsToAgree({ beats, state, sessionId, mayWrite, isPlaying, onHear }: BeatsToAgreeProps) {
  const { found } = beats;
  const sure = found.sure.reduce((sum, each) => sum + each, 0) / Math.max(1, found.sure.length);
  const { agreed } = state;
  const say = (make: (hints: PulseHints) => PulseHints) =>
    state.say(beats.partId, (hints) => make(hints ?? NO_HINTS));
  return (
    <section
      aria-label="Beats"
      data-testid="beats-to-agree"
      className="mt-4 border-y border-rule-strong py-3"
    >
      <p>
        <b>
          {counted(found.beats.length, 'beat')}, {counted(found.beatsPerBar, 'beat')} to a bar
        </b>
        , found over all parts together; {tempoRange(found.beats)}. {capital(certainty(sure))}.
      </p>
      <BeatsPicture beats={beats} />
      <p className="mt-1 text-ink-2">
        The tempo map of the session becomes these beats; not a note moves in time by that. Listen with the
        click: are these the beats?
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button
          look={agreed ? 'plain' : 'main'}
          disabled={!mayWrite || agreed || !state.isCurrent}
          onClick={state.agree}
        >
          {agreed ? 'Agreed: these are the beats' : 'Yes, these are the beats'}
        </Button>
        <Button onClick={onHear}>{isPlaying ? 'Stop' : 'Hear them'}</Button>
        <Button
          disabled={!mayWrite || !state.isCurrent}
          title="Every second beat is left out"
          onClick={() => say((hints) => halvedBeats(hints, standing(beats)))}
        >
          Half as many
        </Button>
        <Button
          disabled={!mayWrite || !state.isCurrent}
          title="A beat more between each two"
          onClick={() => say((hints) => doubledBeats(hints, standing(beats), beats.strokes))}
        >
          Twice as many
        </Button>
        <Link to={`/s/${sessionId}/tempo`} className="underline hover:text-ink">
          Correct them on Tempo
        </Link>
      </div>
    </section>
  );
}

const standing = ({ found, strokes }: PlayedBeats) => ({ ...found, strokes });
const capital = (words: string) => `${words[0].toUpperCase()}${words.slice(1)}`;

/** The slowest and fastest tempo of four beats in a row. */
function tempoRange(beats: Float64Array): string {
  const span = Math.min(4, beats.length - 1);
  const tempos = Array.from({ length: Math.max(0, beats.length - span) }, (_, at) =>
    Math.round((60 * span) / (beats[at + span] - beats[at])),
  ).sort((a, b) => a - b);
  const [slow, fast] = [tempos.at(0) ?? 0, tempos.at(-1) ?? 0];
  return slow === fast ? `${slow} bpm throughout` : `${slow} to ${fast} bpm`;
}

const [WIDTH, HEIGHT] = [880, 46];
/** What is shown of it at first, in seconds: more would be too fine to be told apart. */
const SHOWN_SECONDS = 24;

/** The beginning of the playing with its beats: notes as dots by pitch, beats as lines, longer where a bar begins. */
function BeatsPicture({ beats: { start, pitch, found } }: { beats: PlayedBeats }) {
  const from = Math.min(start[0] ?? 0, found.beats[0] ?? 0);
  const until = from + SHOWN_SECONDS;
  const across = (second: number) => 4 + ((second - from) / SHOWN_SECONDS) * (WIDTH - 8);
  const rows = [...start.keys()].filter((row) => start[row] < until);
  const low = Math.min(...rows.map((row) => pitch[row]));
  const high = Math.max(low + 1, ...rows.map((row) => pitch[row]));
  const bars = new Set(found.downbeats);
  return (
    <svg
      role="img"
      aria-label={`The first ${SHOWN_SECONDS} seconds with their beats`}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mt-2 w-full bg-well"
    >
      {[...found.beats].map((at, beat) =>
        at > until ? null : (
          <path
            key={beat}
            d={`M${across(at)} ${bars.has(beat) ? 0 : 12}V${HEIGHT}`}
            className={bars.has(beat) ? 'stroke-ink' : 'stroke-edge'}
            strokeWidth={bars.has(beat) ? 1.4 : 0.8}
          />
        ),
      )}
      {rows.map((row) => (
        <rect
          key={row}
          x={across(start[row]) - 1.5}
          y={HEIGHT - 6 - ((pitch[row] - low) / (high - low)) * (HEIGHT - 14)}
          width={5}
          height={3}
          className="fill-accent"
        />
      ))}
    </svg>
  );
}
