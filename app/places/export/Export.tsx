import {
  itemOf,
  listOf,
  sentenceOf,
  timelineOf,
  type ExportCheck,
  type ExportOptions,
  type PartContent,
  type Session,
} from '@ordle/core';
import { useState } from 'react';
import { engine } from '@/engine/engineClient';
import { CheckList } from '@/panels/check/CheckList';
import { additionInWords } from '@/panels/check/checkWords';
import { useExportCheck } from '@/panels/check/useExportCheck';
import { partInWords, usePartContents } from '@/music/usePartContents';
import { selectDocument } from '@/state/sessionSlice';
import { useAppSelector } from '@/state/store';
import { Button, Check, Segmented } from '@/ui';
import { plainNameOf, saveAs } from '@/files/saveAs';
import { counted, figures } from '@/words/counts';
import { layoutsOf, tracksInWords, type Layout } from './layouts';

/** Says what to hand on, see what will be written, and write it. */
export function Export() {
  const session = useAppSelector(selectDocument);
  // What is set aside lives on in other parts, and goes out only when it is asked for.
  const [left, setLeft] = useState<ReadonlySet<string>>(
    () =>
      new Set(
        session
          ? listOf(session.parts)
              .filter(({ setAside }) => setAside)
              .map(({ id }) => id)
          : [],
      ),
  );
  // As it came, until somebody says otherwise.
  const [picked, setFormat] = useState<Layout | null>(null);
  const [version, setVersion] = useState<ExportOptions['version']>('cleaned');
  const [state, setState] = useState<{ busy: boolean; done: string | null; error: string | null }>({
    busy: false,
    done: null,
    error: null,
  });
  const [overlaps, setOverlaps] = useState<'keep' | 'cut'>('keep');
  const mayWrite = useAppSelector((state) => state.session.mayWrite);
  const layouts = session ? layoutsOf(session) : [];
  const layout = picked ?? layouts[0]?.value ?? 'parts';
  const exported = session ? listOf(session.parts).filter(({ id }) => !left.has(id)) : [];
  const options: ExportOptions = {
    format: layout === 'one' ? 0 : 1,
    tracks: layout === 'source' ? 'source' : 'parts',
    version,
    overlaps,
    parts: exported.map(({ id }) => id),
  };
  const { check, fault } = useExportCheck(session, options);
  const waiting = check?.waiting ?? [];
  // What cannot be worked out is not written; the rest is.
  const written = exported.filter(({ id }) => !waiting.some(({ partId }) => partId === id));
  const contents = usePartContents(session);
  if (!session) return null;
  const timeline = timelineOf(session);
  const plainName = plainNameOf(session.name);
  const fileName = `${plainName}${version === 'played' ? ' (as played)' : ''}.mid`;

  const write = async () => {
    setState({ busy: true, done: null, error: null });
    try {
      const bytes = await engine.exportFile({ session, options });
      saveAs(fileName, bytes, 'audio/midi');
      setState({
        busy: false,
        done: `${fileName} was written, ${figures(bytes.length)} bytes.`,
        error: null,
      });
    } catch (error) {
      setState({ busy: false, done: null, error: sentenceOf(error) });
    }
  };

  const writeSession = async () => {
    setState({ busy: true, done: null, error: null });
    try {
      const bytes = await engine.sessionFile({ session });
      const name = `${plainName}.ordle`;
      saveAs(name, bytes, 'application/octet-stream');
      const done = `${name} was written, ${figures(bytes.length)} bytes. Its history stays here.`;
      setState({ busy: false, done, error: null });
    } catch (error) {
      setState({ busy: false, done: null, error: sentenceOf(error) });
    }
  };

  const toggle = (id: string) =>
    setLeft((before) =>
      before.has(id) ? new Set([...before].filter((other) => other !== id)) : new Set([...before, id]),
    );

  const finer = check?.additions.flatMap((each) =>
    each.kind === 'division' ? [each.ticksPerQuarter] : [],
  )[0];
  return (
    <main className="flex grow justify-center overflow-y-auto px-8 py-7 narrow:px-4 narrow:pt-4 narrow:pb-24">
      <div className="grid w-full max-w-4xl grid-cols-[1fr_19rem] gap-10 narrow:grid-cols-[minmax(0,1fr)] narrow:gap-5">
        <section aria-label="Parts to export">
          <h2 className="font-serif text-2xl font-semibold">Export</h2>
          <div className="mt-4 flex items-baseline justify-between">
            <h3 className="font-semibold">Parts</h3>
            <span className="flex gap-1">
              <Button onClick={() => setLeft(new Set())}>All</Button>
              <Button onClick={() => setLeft(new Set(listOf(session.parts).map(({ id }) => id)))}>
                None
              </Button>
            </span>
          </div>
          <ul className="mt-1 border-t border-rule-strong">
            {listOf(session.parts).map((part) => (
              <li key={part.id} className="flex min-h-9 flex-wrap items-center gap-x-3 border-b border-rule">
                <span
                  className="h-5 w-2 rounded-[1px]"
                  style={{ background: `var(--ink-part-${part.ink + 1})` }}
                />
                <span className="grow">
                  <Check checked={!left.has(part.id)} onChange={() => toggle(part.id)}>
                    {part.name}
                    {part.setAside && <span className="ml-2 text-quiet text-ink-2">set aside</span>}
                  </Check>
                </span>
                <span className="text-ink-2">{partInWords(part, contents[part.id])}</span>
                <span className="w-20 text-right text-ink-2">
                  {hasChannel(contents[part.id]) && `channel ${part.channel}`}
                </span>
                <span className="w-24 text-right text-ink-2">
                  {stepsInWords(listOf(part.steps).filter(({ step }) => step.on).length)}
                </span>
              </li>
            ))}
          </ul>
          <section aria-label="Check before export" className="mt-6">
            <h2 className="mb-1 font-semibold">Check</h2>
            {waiting.map(({ partId, why }) => (
              <p key={partId} role="alert" className="mb-1">
                Not written: {why}
              </p>
            ))}
            {fault && <p role="alert">{fault}</p>}
            {written.length === 0 || fault ? null : check ? (
              <CheckList
                session={session}
                check={check}
                ticksPerQuarter={timeline.ticksPerQuarter}
                version={version}
                mayWrite={mayWrite}
                onLeaveOut={toggle}
              />
            ) : (
              <p className="text-ink-2">Looking through the parts ...</p>
            )}
          </section>
        </section>
        <section
          aria-label="What will be written"
          className="flex flex-col gap-4 border-l border-rule pl-8 narrow:border-l-0 narrow:pl-0"
        >
          <div className="flex flex-col gap-1">
            <span className="text-ink-2">Version</span>
            <Segmented
              label="Version"
              value={version}
              options={[
                { value: 'cleaned', label: 'cleaned', title: 'With every step that is on' },
                {
                  value: 'played',
                  label: 'as played',
                  title: 'The takes as they are chosen, without any step',
                },
              ]}
              onChange={setVersion}
            />
          </div>
          <div className="flex flex-col gap-1">
            <span className="text-ink-2">Standard MIDI File</span>
            <Segmented label="Format" value={layout} options={layouts} onChange={setFormat} />
          </div>
          <div className="flex flex-col gap-1">
            <span className="text-ink-2">Overlapping notes of one pitch</span>
            <Segmented
              label="Overlapping notes of one pitch"
              disabled={
                overlaps === 'keep' &&
                !check?.concerns.some(({ kind }) => kind === 'overlap' || kind === 'nested')
              }
              value={overlaps}
              options={[
                {
                  value: 'keep',
                  label: 'as they are',
                  title:
                    'A note may begin before the last of its pitch ended; some instruments then cut it short',
                },
                {
                  value: 'cut',
                  label: 'end the earlier',
                  title: 'A note ends where the next of its pitch begins',
                },
              ]}
              onChange={setOverlaps}
            />
          </div>
          <Button
            look="main"
            className="h-9 justify-center"
            disabled={written.length === 0 || state.busy}
            onClick={() => void write()}
          >
            {state.busy ? 'Writing ...' : 'Export'}
          </Button>
          <Button
            className="justify-center"
            title="The session with its takes, steps and hand edits, to be opened in another browser or read by the command line"
            disabled={state.busy}
            onClick={() => void writeSession()}
          >
            Save a back-up of this session (.ordle)
          </Button>
          <p role="status">{state.done}</p>
          {state.error && (
            <p role="alert" className="font-semibold text-ink">
              {state.error}
            </p>
          )}
          <div>
            <h2 className="font-semibold">What will be written</h2>
            <p className="mt-1 break-words">{fileName}</p>
            <p className="mt-1 text-ink-2">
              {written.length === 0 && exported.length > 0
                ? 'Nothing: what is selected cannot be worked out.'
                : tracksInWords(written, session, layout)}
              {written.length > 0 &&
                (session.division.kind === 'metrical'
                  ? ` ${finer ?? session.division.ticksPerQuarter} ticks to a quarter.`
                  : ' Timed by film frames, as it came.')}
            </p>
            {check && written.length > 0 && (
              <Contents session={session} check={check} parts={written.length} />
            )}
          </div>
        </section>
      </div>
    </main>
  );
}

/** What is as it was played, what is not, and what is added. */
function Contents({ session, check, parts }: { session: Session; check: ExportCheck; parts: number }) {
  const nameOf = (id: string) => itemOf(session.parts, id)?.name ?? '';
  const share = (same: readonly string[], what: string) =>
    same.length === parts
      ? `${what} are as they were played.`
      : same.length === 0
        ? `${what} are as the steps made them.`
        : `${what} are as they were played in ${same.length} of ${parts} parts, in the others as the steps made them.`;
  return (
    <ul className="mt-1 list-none text-ink-2">
      <li>{share(check.sameNotes, 'Notes')}</li>
      <li>{share(check.sameControllers, 'Controllers and programs')}</li>
      <li>Text and system messages are kept as they were.</li>
      {check.additions.length === 0 ? (
        <li>Nothing is added.</li>
      ) : (
        check.additions.map((addition) => {
          const words = additionInWords(addition, nameOf);
          return <li key={words}>{words}</li>;
        })
      )}
    </ul>
  );
}

const hasChannel = (content: PartContent | undefined) => content !== 'text' && content !== 'nothing';

function stepsInWords(count: number): string {
  return count === 0 ? 'no steps' : counted(count, 'step');
}
