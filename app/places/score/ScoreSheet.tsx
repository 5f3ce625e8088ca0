import { noteOfXmlId, type ScoreStrip, type Timeline } from '@ordle/core';
import { useEffect, useRef, useState, useSyncExternalStore, type MouseEvent, type RefObject } from 'react';
import { useCommands } from '@/commands';
import { createEngraver, type Engraver } from '@/engine/engraver/engraver';
import { usePlayTick } from '@/playback/usePlayTick';
import { selectionStore, type Selection } from '@/state/selection';
import { useWidthOf } from '@/ui';

interface ScoreSheetProps {
  strips: readonly ScoreStrip[];
  /** Size of the staves, in percent. */
  scale: number;
  layout: 'continuous' | 'pages';
  timeline: Timeline;
  playing: boolean;
  /** The bar of the page that is heard at a tick of the session, counted from 1. */
  barAt(tick: number): number;
  /** A note was clicked: of the so-manieth part of the page, by its id there. */
  onNote(part: number, id: number): void;
  /** The elements of the page that stand for what is selected. */
  chosen(selection: Selection): readonly string[];
  /** Draws over a page that was just engraved. */
  decorate?(page: Element): void;
}

/** The written page: strips of bars that are engraved once they come near what is in sight. */
export function ScoreSheet(props: ScoreSheetProps) {
  const { strips, scale, layout, onNote } = props;
  const page = useRef<HTMLDivElement>(null);
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const width = useWidthOf(element);
  const [engraver] = useState(createEngraver);
  useEffect(() => () => engraver.close(), [engraver]);
  useFollow(page, props);
  useSelectedInk(page, props);
  useDecoration(page, props);
  useWalk(page, props);
  return (
    <div
      ref={(made) => {
        page.current = made;
        setElement(made);
      }}
      tabIndex={0}
      aria-label="The written page"
      role="region"
      className="score min-w-0 grow overflow-y-auto bg-sheet text-ink"
      onClick={(event) => {
        const found = noteAt(event);
        const note = found && noteOfXmlId(found.id);
        if (note) onNote(note.part, note.id);
      }}
    >
      {width > 0 &&
        strips.map((strip) => (
          <Strip
            key={strip.from}
            strip={strip}
            width={width}
            scale={scale}
            isPaged={layout === 'pages'}
            engraver={engraver}
          />
        ))}
    </div>
  );
}

/** Pixels around the head of a note in which it is meant. */
const NEAR = 16;

/** The note under a click, or the nearest one. */
function noteAt({ target, clientX, clientY }: MouseEvent): Element | null {
  const under = (target as Element).closest('g.note');
  if (under) return under;
  let [best, least]: [Element | null, number] = [null, NEAR];
  for (const head of (target as Element).closest('section')?.querySelectorAll('g.notehead') ?? []) {
    const { left, right, top, bottom } = head.getBoundingClientRect();
    const away = Math.hypot((left + right) / 2 - clientX, (top + bottom) / 2 - clientY);
    if (away < least) [best, least] = [head.closest('g.note'), away];
  }
  return best;
}

interface StripProps {
  strip: ScoreStrip;
  width: number;
  scale: number;
  isPaged: boolean;
  engraver: Engraver;
}

/** How wide a page is at most, in pixels. */
const PAGE = 900;
/** Pixels before a strip comes into sight in which it is engraved already. */
const AHEAD = 600;

function Strip({ strip, width, scale, isPaged, engraver }: StripProps) {
  const element = useRef<HTMLElement>(null);
  const [isNear, setNear] = useState(false);
  const [drawn, setDrawn] = useState<{ pages: string[]; error: string | null } | null>(null);
  const { xml, from, to, words } = strip;
  useEffect(() => {
    const watched = element.current;
    if (!watched || isNear) return;
    const watch = new IntersectionObserver(
      (entries) => entries.some((entry) => entry.isIntersecting) && setNear(true),
      { rootMargin: `${AHEAD}px` },
    );
    watch.observe(watched);
    const all = () => setNear(true);
    globalThis.addEventListener('beforeprint', all);
    return () => {
      watch.disconnect();
      globalThis.removeEventListener('beforeprint', all);
    };
  }, [isNear]);
  useEffect(() => {
    if (!isNear) return;
    let isWanted = true;
    engraver.engrave({ xml, width: isPaged ? Math.min(width, PAGE) : width, scale, isPaged }).then(
      (pages) => isWanted && setDrawn({ pages, error: null }),
      (error: unknown) =>
        isWanted && setDrawn({ pages: [], error: error instanceof Error ? error.message : String(error) }),
    );
    return () => void (isWanted = false);
  }, [engraver, isNear, xml, width, scale, isPaged]);
  return (
    <section
      ref={element}
      data-from={from}
      data-to={to}
      data-drawn={drawn !== null && drawn.error === null}
      aria-label={`Bars ${from} to ${to - 1}`}
      className="relative min-h-40"
    >
      <ul className="sr-only">
        {words.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
      {drawn?.error && (
        <p role="alert" className="p-4">
          Bars {from} to {to - 1}: {drawn.error}
        </p>
      )}
      {drawn === null && (
        <p className="p-4 text-ink-2">
          Engraving bars {from} to {to - 1} ...
        </p>
      )}
      {/* Made by the engraver from a document of ours, in which every text is escaped. */}
      {drawn?.pages.map((page, index) => (
        <div
          key={index}
          aria-hidden="true"
          className={isPaged ? 'page mx-auto my-4 border border-rule bg-ground' : ''}
          style={isPaged ? { maxWidth: PAGE } : undefined}
          dangerouslySetInnerHTML={{ __html: page }}
        />
      ))}
    </section>
  );
}

type PageRef = RefObject<HTMLDivElement | null>;

/** Does something to the page now, and again whenever more of it is engraved. */
function useOnPage(page: PageRef, act: () => void) {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
    act();
  });
  useEffect(() => {
    const watch = new MutationObserver(() => latest.current());
    if (page.current) watch.observe(page.current, { childList: true, subtree: true });
    return () => watch.disconnect();
  }, [page]);
}

/** Shows the bar that is heard, and keeps it in sight while music plays. */
function useFollow(page: PageRef, { strips, timeline, playing, barAt }: ScoreSheetProps) {
  const heard = useRef(1);
  const mark = () => {
    page.current?.querySelectorAll('.now').forEach((each) => each.classList.remove('now'));
    const strip = strips.find(({ from, to }) => heard.current >= from && heard.current < to);
    const bar = page.current
      ?.querySelector(`[data-from="${strip?.from ?? 0}"]`)
      ?.querySelectorAll('g.measure')[heard.current - (strip?.from ?? 0)];
    bar?.classList.add('now');
    if (playing) bar?.scrollIntoView({ block: 'nearest', behavior: 'auto' });
  };
  useOnPage(page, mark);
  usePlayTick(timeline, playing, (tick) => {
    const number = barAt(tick);
    if (number === heard.current) return;
    heard.current = number;
    mark();
  });
}

/** More notes than this are not marked one by one. */
const MOST_MARKED = 2000;

/** Notes that are selected anywhere are so here. */
function useSelectedInk(page: PageRef, { chosen }: ScoreSheetProps) {
  const selection = useSyncExternalStore(selectionStore.subscribe, selectionStore.get);
  useOnPage(page, () => {
    page.current?.querySelectorAll('.chosen').forEach((each) => each.classList.remove('chosen'));
    for (const id of chosen(selection).slice(0, MOST_MARKED))
      document.getElementById(id)?.classList.add('chosen');
  });
}

/** From the selected note to the one before it or behind it on the page, by key. */
function useWalk(page: PageRef, { onNote }: ScoreSheetProps) {
  const walk = (step: 1 | -1) => {
    const notes = [...(page.current?.querySelectorAll<SVGGElement>('g.note[id^=p]') ?? [])];
    const at = notes.findIndex((note) => note.classList.contains('chosen'));
    const next = notes.at(at < 0 ? (step > 0 ? 0 : -1) : Math.min(notes.length - 1, Math.max(0, at + step)));
    const named = next && noteOfXmlId(next.id);
    if (!named) return;
    onNote(named.part, named.id);
    next.scrollIntoView({ block: 'nearest' });
  };
  useCommands({ 'written-before': () => walk(-1), 'written-next': () => walk(1) });
}

/** Each page is drawn over once after it was engraved, and again when there is something else to be drawn. */
function useDecoration(page: PageRef, { decorate }: ScoreSheetProps) {
  const done = useRef(new WeakMap<Element, unknown>());
  useOnPage(page, () => {
    if (!decorate) return;
    for (const svg of page.current?.querySelectorAll('section > div > svg') ?? []) {
      if (done.current.get(svg) === decorate) continue;
      done.current.set(svg, decorate);
      decorate(svg);
    }
  });
}
