import { xmlIdOf } from '@ordle/core';
import type { PlayedScore } from '@/engine/protocol';

const SVG = 'http://www.w3.org/2000/svg';
/** A stroke this near to its place, in ms, bears no mark; from here on marks are as large as they get. */
const [NEAR_MS, FAR_MS] = [12, 120];

/**
 * Draws the playing over an engraved page: under the staff a square to the right for late and a ring to the left for
 * early, the farther the larger; a wrong note as an outline with what was played beside it; a missing one as an
 * outline; an extra one struck through. Everything lies within the engraver's own drawing, so that it is printed with
 * it.
 */
export function paintPlayed(
  page: Element,
  { marks, extras, passages, barNames }: Pick<PlayedScore, 'marks' | 'extras' | 'passages' | 'barNames'>,
): void {
  page.querySelectorAll('g.played').forEach((each) => each.remove());
  for (const note of page.querySelectorAll('g.note')) note.classList.remove('right', 'wrong', 'missing');
  const noteOf = (id: number) => page.querySelector<SVGGElement>(`[id="${xmlIdOf(0, id)}"]`);
  const layers = new Map<Element, SVGGElement>();
  const layerFor = (note: Element): SVGGElement | null => {
    const sheet = note.closest('g.page-margin');
    if (!sheet) return null;
    const there = layers.get(sheet);
    if (there) return there;
    const made = document.createElementNS(SVG, 'g');
    made.setAttribute('class', 'played');
    sheet.append(made);
    layers.set(sheet, made);
    return made;
  };
  const struck = new Map<Element, { layer: SVGGElement; note: Element; head: Box; late: number[] }>();
  for (const note of page.querySelectorAll<SVGGElement>('g.note')) {
    const id = Number(/^p1n(\d+)$/.exec(note.id)?.[1] ?? NaN);
    const mark = marks.at(id);
    const layer = layerFor(note);
    const head = boxOf(note);
    if (Number.isNaN(id) || !mark || !layer || !head) continue;
    note.classList.add(mark.is);
    if (mark.is === 'missing') continue;
    if (mark.played) {
      const at = { x: head.x + 1.9 * head.width, y: head.y - (mark.played.above * head.height) / 2 };
      layer.append(headAt({ ...head, ...at }, 'wrong-played', mark.played.name));
    }
    const chord = note.closest('g.chord') ?? note;
    const own = struck.get(chord);
    if (own) own.late.push(mark.lateMs);
    else struck.set(chord, { layer, note, head, late: [mark.lateMs] });
  }
  // One mark a chord: where it is rolled, for the middle of it.
  for (const { layer, note, head, late } of struck.values())
    paintTiming(layer, note, head, late.reduce((sum, each) => sum + each, 0) / late.length);
  nameBars(page, { passages, barNames }, layerFor);
  for (const { after, before, share, above, name } of extras) {
    const note = noteOf(after);
    const layer = note && layerFor(note);
    const head = note && boxOf(note);
    if (!layer || !head) continue;
    const next = before === null ? null : noteOf(before);
    const nextHead = next && next.closest('g.system') === note.closest('g.system') ? boxOf(next) : null;
    const span = nextHead ? nextHead.x - head.x : 4 * head.width;
    const x = head.x + Math.max(0.4 * head.width, share * span);
    const y = head.y - (above * head.height) / 2;
    const made = headAt({ ...head, x, y }, 'extra', name);
    made.append(
      shape('path', {
        d: `M ${x - 0.3 * head.width} ${y + 1.3 * head.height} L ${x + 1.3 * head.width} ${y - 0.3 * head.height}`,
      }),
    );
    layer.append(made);
  }
}

type Box = Pick<DOMRect, 'x' | 'y' | 'width' | 'height'>;

/** Bars are called what they are in the score; where the playing goes on elsewhere it says so. */
function nameBars(
  page: Element,
  { passages, barNames }: Pick<PlayedScore, 'passages' | 'barNames'>,
  layerFor: (element: Element) => SVGGElement | null,
) {
  const first = Number(page.closest<HTMLElement>('section')?.dataset.from ?? 1);
  const before = page.parentElement?.previousElementSibling?.querySelectorAll('g.measure').length ?? 0;
  page.querySelectorAll<SVGGElement>('g.measure').forEach((measure, index) => {
    const bar = first + before + index;
    const number = measure.querySelector('g.mNum tspan tspan') ?? measure.querySelector('g.mNum tspan');
    if (number && number.children.length === 0) number.textContent = barNames[bar - 1] ?? '';
    const passage = passages.find(({ pageBar }) => pageBar === bar);
    const layer = passage && layerFor(measure);
    const staff = measure.querySelector<SVGPathElement>('g.staff > path')?.getBBox();
    if (!passage || !layer || !staff) return;
    const text = shape('text', { x: staff.x, y: measure.getBBox().y - 90, class: 'goes-on' });
    text.textContent = `bar ${passage.to}, after bar ${passage.from}`;
    layer.append(text);
  });
}

/** The head of a note in the coordinates of the page; null where it is not drawn. */
function boxOf(note: SVGGElement): Box | null {
  const head = note.querySelector<SVGGElement>('g.notehead') ?? note;
  const { x, y, width, height } = head.getBBox();
  return width > 0 ? { x, y, width, height } : null;
}

/** Early and late, under the staff the note stands on. */
function paintTiming(layer: SVGGElement, note: Element, head: Box, lateMs: number) {
  const off = Math.abs(lateMs);
  if (off < NEAR_MS) return;
  const lines = [...(note.closest('g.staff')?.children ?? [])].filter(
    (each): each is SVGPathElement => each instanceof SVGPathElement,
  );
  const space = head.height;
  const bottom = lines.reduce((lowest, line) => Math.max(lowest, line.getBBox().y), head.y + head.height);
  const y = Math.max(bottom + 2.6 * space, head.y + 2 * space);
  const x = head.x + head.width / 2;
  const size = space * (0.35 + 0.65 * Math.min(1, off / FAR_MS));
  const isLate = lateMs > 0;
  const title = document.createElementNS(SVG, 'title');
  title.textContent = `${Math.round(off)} ms ${isLate ? 'late' : 'early'}`;
  const mark = isLate
    ? shape('rect', { x: x + 0.2 * space, y: y - size / 2, width: size, height: size, class: 'late' })
    : shape('circle', { cx: x - 0.2 * space - size / 2, cy: y, r: size / 2, class: 'early' });
  mark.append(title);
  layer.append(mark, shape('path', { d: `M ${x} ${y - 0.6 * space} v ${1.2 * space}`, class: 'place' }));
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
