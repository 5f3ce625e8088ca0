import { drumName, questionSchema, type Question } from '@ordle/core';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { engine } from '@/engine/engineClient';
import { selectionStore } from '@/state/selection';
import { readPreference, writePreference } from '@/storage/preferences';
import { Button, Dialog, Segmented, Select } from '@/ui';
import { rulingGrid } from '@/music/gridInForce';
import { otherViewsStore } from '@/music/otherViews';
import { pitchesIn, usePartViewValue } from '@/music/partViewStore';
import { parsePitch, parseTyped } from '@/edits/typedValues';
import { useOpenBench } from '@/music/useBench';
import { counted } from '@/words/counts';

const SAVED = 'questions';
const savedSchema = z.array(z.object({ name: z.string(), question: questionSchema }));
type Saved = z.infer<typeof savedSchema>;

type RangeKey = 'pitch' | 'velocity' | 'length' | 'beat' | 'lateMs' | 'bars';
const RANGES: { key: RangeKey; label: string; hint: string }[] = [
  { key: 'pitch', label: 'Pitch', hint: 'C3 or 48' },
  { key: 'velocity', label: 'Velocity', hint: '1 to 127' },
  { key: 'length', label: 'Length in ticks', hint: '' },
  { key: 'beat', label: 'Beat of the bar', hint: '1, 2.5' },
  { key: 'lateMs', label: 'Late in ms, early below 0', hint: '-20 to 20' },
  { key: 'bars', label: 'Bars', hint: '' },
];
const LIMITS: Record<RangeKey, [number, number]> = {
  pitch: [0, 127],
  velocity: [1, 127],
  length: [0, 1e9],
  beat: [1, 256],
  lateMs: [-10000, 10000],
  bars: [1, 1e6],
};

/** Selects notes by a question; the count follows while it is asked. */
export function QuestionDialog({ open, onClose }: { open: boolean; onClose(): void }) {
  const bench = useOpenBench();
  const [texts, setTexts] = useState<Partial<Record<RangeKey, [string, string]>>>({});
  const [voice, setVoice] = useState<'any' | 'highest' | 'lowest' | 'inner'>('any');
  const [found, setFound] = useState<{ ids: Float64Array; others: [string, number[]][] } | null>(null);
  const [saved, setSaved] = useState<Saved>([]);
  const [name, setName] = useState('');
  const { session, part, stop, view } = bench;
  const used = usePartViewValue(part?.sound.drums ? part.id : undefined, pitchesIn) ?? '';
  const pieces = used.split(' ').filter(Boolean);
  const foundCount = found ? found.others.reduce((sum, [, ids]) => sum + ids.length, found.ids.length) : 0;
  const question = questionOf(texts, voice, view.middleC);
  const asked = JSON.stringify(question);

  useEffect(() => {
    void readPreference(SAVED).then((value) => {
      const parsed = savedSchema.safeParse(value);
      if (parsed.success) setSaved(parsed.data);
    });
  }, []);
  useEffect(() => {
    if (!open || !part || !stop) return;
    let wanted = true;
    const timer = setTimeout(() => {
      const pick = (partId: string, at: number) =>
        engine.pickNotes({
          session,
          partId,
          stop: at,
          grid: rulingGrid(view),
          question: JSON.parse(asked) as Question,
        });
      const along = otherViewsStore.get().filter(({ partId }) => partId !== part.id);
      void Promise.all([
        pick(part.id, stop.index),
        ...along.map(({ partId, view: own }) => pick(partId, own.stop)),
      ]).then(
        ([ids, ...others]) =>
          wanted && setFound({ ids, others: along.map(({ partId }, at) => [partId, [...others[at]]]) }),
        () => undefined,
      );
    }, 80);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the text of the question stands for it
  }, [open, asked, part, stop?.index]);

  const keep = (list: Saved) => {
    setSaved(list);
    void writePreference(SAVED, list);
  };
  const load = (kept: Question) => {
    setVoice(kept.voice ?? 'any');
    setTexts(
      Object.fromEntries(RANGES.flatMap(({ key }) => (kept[key] ? [[key, kept[key].map(String)]] : []))),
    );
  };
  const take = (how: 'replace' | 'add') => {
    if (!part || !found) return;
    if (how === 'replace') selectionStore.select(part.id, found.ids, null, found.others);
    else {
      selectionStore.add(part.id, [...found.ids]);
      for (const [id, own] of found.others) if (own.length > 0) selectionStore.addElsewhere(id, own);
    }
    onClose();
  };

  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Select by rule"
      description="All that is filled in must hold. Both ends count."
    >
      <div className="flex flex-col gap-1.5">
        {pieces.length > 1 && (
          <div className="flex items-center gap-2">
            <span className="grow text-ink-2">Only this piece</span>
            <Select
              label="Only this piece"
              value={texts.pitch?.[0] === texts.pitch?.[1] ? (texts.pitch?.[0] ?? '') : ''}
              onChange={(piece) => setTexts((before) => ({ ...before, pitch: [piece, piece] }))}
            >
              <option value="">any piece</option>
              {pieces.map((piece) => (
                <option key={piece} value={piece}>
                  {drumName(Number(piece)) ?? `note ${piece}`}
                </option>
              ))}
            </Select>
          </div>
        )}
        {RANGES.map(({ key, label, hint }) => (
          <div key={key} className="flex items-center gap-2">
            <span className="grow text-ink-2">{label}</span>
            {([0, 1] as const).map((end) => (
              <input
                key={end}
                aria-label={`${label}, ${end === 0 ? 'from' : 'to'}`}
                placeholder={end === 0 ? hint || 'from' : 'to'}
                value={texts[key]?.[end] ?? ''}
                onChange={(event) =>
                  setTexts((before) => ({
                    ...before,
                    [key]: (before[key] ?? ['', '']).with(end, event.target.value) as [string, string],
                  }))
                }
                className="w-24 border border-rule-strong bg-transparent px-1.5 py-0.5 text-right"
              />
            ))}
          </div>
        ))}
        <Segmented
          label="Voice"
          value={voice}
          options={[
            { value: 'any', label: 'any voice' },
            { value: 'highest', label: 'highest of each chord' },
            { value: 'inner', label: 'inner' },
            { value: 'lowest', label: 'lowest' },
          ]}
          onChange={setVoice}
        />
      </div>
      <div className="flex items-center gap-2">
        <b role="status" className="grow" data-testid="found">
          {found === null ? '' : `${counted(foundCount, 'note')} found`}
        </b>
        <Button onClick={() => take('add')} disabled={foundCount === 0}>
          Add to the selection
        </Button>
        <Button look="main" onClick={() => take('replace')} disabled={foundCount === 0}>
          {foundCount > 0 ? `Select ${counted(foundCount, 'note')}` : 'Select'}
        </Button>
      </div>
      <form
        className="flex gap-2 border-t border-rule pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim())
            keep([...saved.filter((entry) => entry.name !== name.trim()), { name: name.trim(), question }]);
          setName('');
        }}
      >
        <input
          aria-label="Name of the rule"
          placeholder="Save this rule as"
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="grow border border-rule-strong bg-transparent px-2 py-0.5"
        />
        <Button type="submit" disabled={!name.trim()}>
          Save
        </Button>
      </form>
      {saved.map((entry) => (
        <div key={entry.name} className="flex items-center gap-2">
          <button
            type="button"
            className="grow text-left hover:underline"
            onClick={() => load(entry.question)}
          >
            {entry.name}
          </button>
          <Button className="h-6" onClick={() => keep(saved.filter((other) => other !== entry))}>
            Delete
          </Button>
        </div>
      ))}
    </Dialog>
  );
}

/** The question the form asks; an end left empty is open, and what cannot be read is left out. */
function questionOf(
  texts: Partial<Record<RangeKey, [string, string]>>,
  voice: string,
  middleC: 3 | 4,
): Question {
  const question: Question = {};
  for (const { key } of RANGES) {
    const [from, to] = texts[key] ?? ['', ''];
    const read = (text: string) =>
      text.trim() === ''
        ? null
        : ((key === 'pitch' ? parsePitch(text, middleC) : parseTyped(text))?.value ?? null);
    const [low, high] = [read(from), read(to)];
    if (low === null && high === null) continue;
    const [least, most] = LIMITS[key];
    question[key] = [
      Math.min(most, Math.max(least, low ?? least)),
      Math.min(most, Math.max(least, high ?? most)),
    ];
  }
  if (voice !== 'any') question.voice = voice as Question['voice'];
  return question;
}
