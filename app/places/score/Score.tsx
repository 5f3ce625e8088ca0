import { barAt, listOf, sentenceOf, xmlIdOf } from '@ordle/core';
import { useCallback, useMemo } from 'react';
import { toast } from 'sonner';
import { useCommands } from '@/commands';
import { engine } from '@/engine/engineClient';
import { saveAs } from '@/files/saveAs';
import { useAnswer } from '@/engine/useAnswer';
import { useBench, useOpenBench } from '@/music/useBench';
import { NoParts } from '@/panels/NoParts';
import { BarsFields } from '@/panels/sections/BarsFields';
import { SidePanel } from '@/panels/SidePanel';
import { TransportBar } from '@/panels/transport/TransportBar';
import { usePlayback } from '@/playback/usePlayback';
import { selectionStore } from '@/state/selection';
import { useAppDispatch } from '@/state/store';
import { viewChanged } from '@/state/viewSlice';
import { transport } from '@/sound/transport';
import { Button, Check, Menu, Segmented } from '@/ui';
import './commands';
import { BesideScore } from './BesideScore';
import { ChooseParts } from './ChooseParts';
import { ConcernsList } from './ConcernsList';
import { NotationPanel } from './NotationPanel';
import { PlayedSheet } from './PlayedSheet';
import { ScoreSheet } from './ScoreSheet';
import { SCALES, useScoreChoice } from './scoreChoice';
import { useLayScore } from './useLayScore';

/** The cleaned parts as notation, to check by eye and to hand on. */
export function Score() {
  const bench = useBench();
  if (!bench) return null;
  if (!bench.part) return <NoParts>This session has no parts to be written down.</NoParts>;
  return <ScoreOfSession />;
}

const scoreAsked = (asked: Parameters<typeof engine.score>[0]) => engine.score(asked);
const playedAsked = (asked: Parameters<typeof engine.playedScore>[0]) => engine.playedScore(asked);

const MEDIA_TYPE = 'application/vnd.recordare.musicxml';

/** Bars that are engraved together where the page goes on. */
const BARS_A_STRIP = 12;

const SIZES = [
  { value: '30', label: 'small', title: 'Small staves: more bars at a look' },
  { value: '40', label: 'middle', title: 'Staves of a usual size' },
  { value: '55', label: 'large', title: 'Large staves, to be read from afar' },
];

function ScoreOfSession() {
  const bench = useOpenBench();
  const { session, part, view, mayWrite } = bench;
  const dispatch = useAppDispatch();
  const playback = usePlayback(bench);
  const { choice, choose } = useScoreChoice(session.id);
  const chosen = useMemo(() => {
    const there = choice.parts?.filter((id) => id in session.parts.byId);
    return there && there.length > 0 ? there : part ? [part.id] : [];
  }, [choice.parts, session.parts, part]);
  const [from, to] = choice.bars ?? [1, Number.MAX_SAFE_INTEGER];
  // Pages are broken by the engraver, who must have all bars for that.
  const barsAStrip = choice.layout === 'pages' ? Number.MAX_SAFE_INTEGER : BARS_A_STRIP;
  const asked = { session, parts: chosen.join('\n'), from, to };
  useCommands({
    play: () => void playback.toggle(),
    click: () => dispatch(viewChanged({ click: !view.click })),
    'to-start': () => transport.locate(0),
  });
  const save = async (isCompressed: boolean) => {
    try {
      const bytes = await engine.musicXml({ ...asked, isCompressed });
      saveAs(`${session.name}.${isCompressed ? 'mxl' : 'musicxml'}`, bytes, MEDIA_TYPE);
    } catch (reason) {
      toast(sentenceOf(reason));
    }
  };
  const active = listOf(session.parts).find(({ id }) => id === part?.id && chosen.includes(id)) ?? null;
  const beside = active ?? session.parts.byId[chosen[0]] ?? null;
  const showsScore = choice.page === 'score' && beside?.reference !== undefined;
  // What is not shown is not worked out.
  const shownParts = showsScore ? '' : asked.parts;
  const { answer, isCurrent, error } = useAnswer(scoreAsked, { ...asked, parts: shownParts, barsAStrip });
  const played = useAnswer(playedAsked, {
    session,
    partId: beside?.id ?? '',
    version: choice.version,
    barsAStrip,
  });
  const laying = useLayScore(
    chosen,
    mayWrite,
    // Whatever was looked at before: what was laid is shown.
    useCallback(() => choose({ page: 'score' }), [choose]),
  );
  const select = (partId: string, id: number) => {
    if (part?.id !== partId) dispatch(viewChanged({ partId, together: [] }));
    selectionStore.select(partId, [id]);
  };
  return (
    <main
      className="flex min-w-0 grow flex-col"
      data-testid="score"
      data-busy={!isCurrent || (showsScore && !played.isCurrent)}
    >
      <div
        role="toolbar"
        aria-label="Score"
        className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule-strong bg-ground px-3 print:hidden"
      >
        <ChooseParts session={session} chosen={chosen} onChoose={(parts) => choose({ parts })} />
        <span className="w-44">
          <Segmented
            label="Size of the staves"
            value={String(choice.scale)}
            options={SIZES}
            onChange={(scale) => choose({ scale: SCALES.find((each) => String(each) === scale) })}
          />
        </span>
        <span className="w-40">
          <Segmented
            label="Layout"
            value={choice.layout}
            options={[
              { value: 'continuous', label: 'continuous', title: 'One page that goes on' },
              { value: 'pages', label: 'pages', title: 'Pages as they are printed' },
            ]}
            onChange={(layout) => choose({ layout })}
          />
        </span>
        {beside?.reference && (
          <span className="w-44">
            <Segmented
              label="Page"
              value={choice.page}
              options={[
                { value: 'score', label: 'the score', title: 'What is written, with the playing on it' },
                { value: 'part', label: 'the part', title: 'The part as it would be written' },
              ]}
              onChange={(page) => choose({ page })}
            />
          </span>
        )}
        {showsScore && (
          <span className="w-40">
            <Segmented
              label="Playing on the score"
              value={choice.version}
              options={[
                { value: 'played', label: 'as played', title: 'As it was played, before any step' },
                { value: 'cleaned', label: 'cleaned', title: 'As it is cleaned' },
              ]}
              onChange={(version) => choose({ version })}
            />
          </span>
        )}
        {!showsScore && (
          <Check
            checked={choice.bars !== null}
            disabled={!answer}
            onChange={(on) => choose({ bars: on ? [1, (answer?.bars ?? 0) + 1] : null })}
          >
            Some bars
          </Check>
        )}
        {choice.bars && !showsScore && (
          <span className="flex items-baseline gap-1.5 text-ink-2">
            <BarsFields
              bars={choice.bars}
              most={answer?.bars ?? 1}
              words={['', 'to']}
              onChange={(bars) => choose({ bars })}
            />
          </span>
        )}
        <span className="grow" />
        <span role="status" className="text-ink-2">
          {error ?? (answer ? '' : 'Writing the notes down ...')}
        </span>
        <Menu
          trigger={
            <Button disabled={!isCurrent} title="What is written, for other programs that show notation">
              Save MusicXML ▾
            </Button>
          }
          items={[
            { label: 'Plain (.musicxml)', onSelect: () => void save(false) },
            { label: 'Compressed (.mxl)', onSelect: () => void save(true) },
          ]}
        />
        <Button title="Prints every bar of the score" disabled={!answer} onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <div className="flex min-h-0 grow">
        {showsScore ? (
          <PlayedSheet
            score={played.answer}
            error={played.error}
            scale={choice.scale}
            layout={choice.layout}
            timeline={bench.timeline}
            playing={playback.playing}
            onSelect={select}
          />
        ) : answer && answer.strips.length > 0 ? (
          <ScoreSheet
            strips={answer.strips}
            scale={choice.scale}
            layout={choice.layout}
            timeline={bench.timeline}
            playing={playback.playing}
            barAt={(tick) => barAt(bench.timeline.meter, tick).number}
            onNote={(at, id) => select(answer.partIds[at], id)}
            chosen={({ partId, ids }) => {
              const at = answer.partIds.indexOf(partId ?? '');
              return at < 0 ? [] : Array.from(ids, (id) => xmlIdOf(at, id));
            }}
          />
        ) : (
          <p className="grow p-6 text-ink-2">
            {answer && isCurrent ? 'There are no notes in these parts to be written down.' : ''}
          </p>
        )}
        <SidePanel name="Notation" className="w-72 overflow-y-auto print:hidden">
          {beside && (
            <BesideScore
              session={session}
              part={beside}
              chosen={chosen}
              played={played.answer}
              laying={laying}
              mayWrite={mayWrite}
            />
          )}
          {active ? (
            <NotationPanel part={active} mayWrite={mayWrite} />
          ) : (
            <p className="p-4 text-ink-2">The part that is worked on is not in this score.</p>
          )}
          {!showsScore && <ConcernsList concerns={answer?.concerns ?? []} isRead={answer !== null} />}
        </SidePanel>
      </div>
      <TransportBar playback={playback} />
    </main>
  );
}
