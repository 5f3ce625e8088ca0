import type { PlayedScore } from '@/engine/protocol';

const SVG = 'http://www.w3.org/2000/svg';
/** A stroke this near to its place, in ms, bears no mark; from here on marks are as large as they get. */
const [NEAR_MS, FAR_MS] = [12, 120];
const STATES = ['right', 'wrong', 'missing'];

type Box = Pick<DOMRect, 'x' | 'y' | 'width' | 'height'>;
type Played = Pick<PlayedScore, 'marks' | 'extras' | 'passages' | 'barNames'>;

/**
 * Draws the playing over an engraved page: under the staff a square to the right for late and a ring to the left for
 * early, the farther the larger; a wrong note as an outline with what was played beside it; a missing one as an
 * outline; an extra one struck through. Everything lies within the engraver's own drawing, so that it is printed with
 * it. Places are read from what the engraver wrote, not measured: a page of dense music takes long to be laid out.
 */
export function paintPlayed(page: Element, played: Played): void {
  page.querySelectorAll('g.played').forEach((each) => each.remove());
  const drawing = createDrawing();
  const read = createReader(page);
  paintNotes(read, played, drawing);
  paintExtras(read, played, drawing);
  nameBars(page, played, drawing);
  drawing.draw();
}

/** What is to be drawn, by the sheet it is drawn on, and what notes are to be called. */
function createDrawing() {
  const bySheet = new Map<Element, SVGElement[]>();
  const states: [note: Element, state: string][] = [];
  return {
    add(beside: Element, ...shapes: SVGElement[]) {
      const sheet = beside.closest('g.page-margin');
      if (!sheet) return;
      const own = bySheet.get(sheet);
      if (own) own.push(...shapes);
      else bySheet.set(sheet, shapes);
    },
    call: (note: Element, state: string) => states.push([note, state]),
    draw() {
      for (const [note, state] of states) {
        note.classList.remove(...STATES);
        note.classList.add(state);
      }
      for (const [sheet, shapes] of bySheet) {
        const layer = shape('g', { class: 'played' });
        layer.append(...shapes);
        sheet.append(layer);
      }
    },
  };
}

type Drawing = ReturnType<typeof createDrawing>;

/** The notes of a page by their ids, where their heads are, and where staves end; in coordinates of the page. */
function createReader(page: Element) {
  const notes = new Map<number, SVGGElement>();
  for (const note of page.querySelectorAll<SVGGElement>('g.note')) {
    const [, id] = /^p1n(\d+)$/.exec(note.id) ?? [];
    if (id !== undefined) notes.set(Number(id), note);
  }
  const bottoms = new Map<Element, number>();
  return {
    notes,
    headOf(note: SVGGElement): Box | null {
      const glyph = note.querySelector('g.notehead > use');
      const [, x, y, scale] = PLACED.exec(glyph?.getAttribute('transform') ?? '') ?? [];
      if (scale === undefined) return null;
      const isWhole = (glyph?.getAttribute('xlink:href') ?? '').includes(WHOLE_HEAD);
      const [width, height] = [(isWhole ? 422 : 314) * Number(scale), SPACE * Number(scale)];
      return { x: Number(x), y: Number(y) - height / 2, width, height };
    },
    /** Where the lowest line of the staff is a note stands on. */
    bottomOf(note: Element): number {
      const staff = note.closest('g.staff');
      if (!staff) return -Infinity;
      const known = bottoms.get(staff);
      if (known !== undefined) return known;
      const bottom = linesOf(staff).reduce((lowest, [, y]) => Math.max(lowest, y), -Infinity);
      bottoms.set(staff, bottom);
      return bottom;
    },
  };
}

type Reader = ReturnType<typeof createReader>;

/** A glyph as the engraver places it; heads are of a font of 250 units a staff space (SMuFL). */
const PLACED = /translate\((-?[\d.]+), ?(-?[\d.]+)\) scale\((-?[\d.]+)/;
const SPACE = 250;
/** The head of a whole note, by its place in that font. */
const WHOLE_HEAD = 'E0A2';

/** Where each line of a staff begins. */
const linesOf = (staff: Element): [x: number, y: number][] =>
  [...staff.children].flatMap((line): [number, number][] => {
    const [, x, y] = /^M(-?[\d.]+) (-?[\d.]+)/.exec(line.getAttribute('d') ?? '') ?? [];
    return y === undefined ? [] : [[Number(x), Number(y)]];
  });

function paintNotes({ notes, headOf, bottomOf }: Reader, { marks }: Played, drawing: Drawing) {
  const struck = new Map<Element, { note: SVGGElement; head: Box; late: number[] }>();
  for (const [id, note] of notes) {
    const mark = marks.at(id);
    const head = mark && headOf(note);
    if (!head) continue;
    drawing.call(note, mark.is);
    if (mark.is === 'missing') continue;
    if (mark.played) {
      const at = { x: head.x + 1.9 * head.width, y: head.y - (mark.played.above * head.height) / 2 };
      drawing.add(note, headAt({ ...head, ...at }, 'wrong-played', mark.played.name));
    }
    const chord = note.closest('g.chord') ?? note;
    const own = struck.get(chord);
    if (own) own.late.push(mark.lateMs);
    else struck.set(chord, { note, head, late: [mark.lateMs] });
  }
  // One mark a chord: where it is rolled, for the middle of it.
  for (const { note, head, late } of struck.values()) {
    const middle = late.reduce((sum, each) => sum + each, 0) / late.length;
    drawing.add(note, ...timingOf(head, bottomOf(note), middle));
  }
}

function paintExtras({ notes, headOf }: Reader, { extras }: Played, drawing: Drawing) {
  for (const { after, before, share, above, name } of extras) {
    const note = notes.get(after);
    const head = note && headOf(note);
    if (!head) continue;
    const next = before === null ? undefined : notes.get(before);
    const nextHead = next && next.closest('g.system') === note.closest('g.system') ? headOf(next) : null;
    const span = nextHead ? nextHead.x - head.x : 4 * head.width;
    const x = head.x + Math.max(0.4 * head.width, share * span);
    const y = head.y - (above * head.height) / 2;
    const made = headAt({ ...head, x, y }, 'extra', name);
    made.append(
      shape('path', {
        d: `M ${x - 0.3 * head.width} ${y + 1.3 * head.height} L ${x + 1.3 * head.width} ${y - 0.3 * head.height}`,
      }),
    );
    drawing.add(note, made);
  }
}

/** How high a part of a measure reaches, as the engraver wrote it. */
function placeOf(part: Element): number | null {
  const [, , head] = PLACED.exec(part.getAttribute('transform') ?? '') ?? [];
  if (head !== undefined) return Number(head);
  const numbers = (part.getAttribute('d') ?? part.getAttribute('points') ?? '').match(/-?\d+(?:\.\d+)?/g);
  const heights = (numbers ?? []).filter((_, at) => at % 2 === 1).map(Number);
  return heights.length === 0 ? null : Math.min(...heights);
}

/** Bars are called what they are in the score; where the playing goes on elsewhere it says so. */
function nameBars(page: Element, { passages, barNames }: Played, drawing: Drawing) {
  const from = Number(page.closest<HTMLElement>('section')?.dataset.from ?? 1);
  const before = page.parentElement?.previousElementSibling?.querySelectorAll('g.measure').length ?? 0;
  page.querySelectorAll<SVGGElement>('g.measure').forEach((measure, index) => {
    const bar = from + before + index;
    const number = measure.querySelector('g.mNum tspan tspan') ?? measure.querySelector('g.mNum tspan');
    const name = barNames[bar - 1] ?? '';
    if (number && number.children.length === 0 && number.textContent !== name) number.textContent = name;
    const passage = passages.find(({ pageBar }) => pageBar === bar);
    if (!passage) return;
    const staff = measure.querySelector('g.staff');
    const [first] = staff ? linesOf(staff) : [];
    if (!first) return;
    // Above whatever stands over the staff.
    const tops = [...measure.querySelectorAll('g.notehead > use, g.stem > path, g.beam > polygon')].flatMap(
      (each) => placeOf(each) ?? [],
    );
    const [x, top] = first;
    const y = Math.min(top, ...tops) - 150;
    const text = shape('text', { x, y, class: 'goes-on' });
    text.textContent = `bar ${passage.to}, after bar ${passage.from}`;
    drawing.add(measure, text);
  });
}

/** Early or late, under the staff the note stands on; nothing where it is neither. */
function timingOf(head: Box, staffBottom: number, lateMs: number): SVGElement[] {
  const off = Math.abs(lateMs);
  if (off < NEAR_MS) return [];
  const space = head.height;
  const y = Math.max(staffBottom, head.y + head.height) + 2.6 * space;
  const x = head.x + head.width / 2;
  const size = space * (0.35 + 0.65 * Math.min(1, off / FAR_MS));
  const isLate = lateMs > 0;
  const title = document.createElementNS(SVG, 'title');
  title.textContent = `${Math.round(off)} ms ${isLate ? 'late' : 'early'}`;
  const mark = isLate
    ? shape('rect', { x: x + 0.2 * space, y: y - size / 2, width: size, height: size, class: 'late' })
    : shape('circle', { cx: x - 0.2 * space - size / 2, cy: y, r: size / 2, class: 'early' });
  mark.append(title);
  return [mark, shape('path', { d: `M ${x} ${y - 0.6 * space} v ${1.2 * space}`, class: 'place' })];
}

function headAt(box: Box, name: string, title: string) {
  const group = shape('g', { class: name });
  const told = document.createElementNS(SVG, 'title');
  told.textContent = title;
  group.append(
    told,
    shape('ellipse', {
      cx: box.x + box.width / 2,
      cy: box.y + box.height / 2,
      rx: box.width / 2,
      ry: box.height / 2.4,
    }),
  );
  return group;
}

function shape(name: string, attributes: Record<string, string | number>): SVGElement {
  const made = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, String(value));
  return made;
}
