import { childOf, childrenOf, type XmlElement } from './xmlTree';

/** No piece is played longer than so many measures; what would be is a fault of its repeats. */
const MOST_PLAYED = 20_000;

/** What a measure says of where the music goes on. */
interface Signs {
  begins: boolean;
  /** Times the stretch that ends here is played; 0 where none ends. */
  times: number;
  /** The passes in which it is played, by its ending; null: in all. */
  passes: readonly number[] | null;
  sound: Readonly<Record<string, string>>;
}

function signsOf(measures: readonly XmlElement[]): Signs[] {
  let passes: number[] | null = null;
  return measures.map((measure) => {
    const signs = { begins: false, times: 0, sound: {} as Record<string, string> };
    let closes = false;
    for (const line of childrenOf(measure, 'barline')) {
      const repeat = childOf(line, 'repeat')?.attributes;
      if (repeat?.direction === 'forward') signs.begins = true;
      if (repeat?.direction === 'backward')
        signs.times = Math.min(20, Math.max(2, Number(repeat.times ?? 2) || 2));
      const ending = childOf(line, 'ending')?.attributes;
      if (ending?.type === 'start')
        passes = (ending.number ?? '')
          .split(/[ ,]+/)
          .map(Number)
          .filter((pass) => pass > 0);
      else if (ending) closes = true;
    }
    for (const sound of soundsIn(measure)) Object.assign(signs.sound, sound.attributes);
    const own = passes;
    if (closes) passes = null;
    return { ...signs, passes: own && own.length > 0 ? own : null };
  });
}

/** Sound elements of a measure, in it or in its directions. */
export const soundsIn = (measure: XmlElement): XmlElement[] =>
  measure.children.flatMap((child) =>
    child.name === 'sound' ? [child] : child.name === 'direction' ? childrenOf(child, 'sound') : [],
  );

/**
 * The measures in the order they are played, from 0: repeats as often as they say, endings in their passes, da capo and
 * dal segno once, with repeats not taken again, to the fine or by the coda.
 */
export function playingOrder(measures: readonly XmlElement[]): number[] {
  const signs = signsOf(measures);
  const order: number[] = [];
  let [start, pass, hasJumped] = [0, 1, false];
  const taken = new Map<number, number>();
  for (let at = 0; at < measures.length && order.length < MOST_PLAYED; at++) {
    const { begins, times, passes, sound } = signs[at];
    if (begins && start !== at) [start, pass] = [at, 1];
    // An ending of another pass is left out; after a jump the last one is played.
    if (passes && !hasJumped && !passes.includes(pass)) continue;
    if (passes && hasJumped && isFollowedByEnding(signs, at)) continue;
    order.push(at);
    if (hasJumped && sound.fine !== undefined) break;
    if (hasJumped && sound.tocoda !== undefined) {
      const coda = signs.findIndex((each) => each.sound.coda === sound.tocoda);
      if (coda > at) at = coda - 1;
      continue;
    }
    if (times > 0 && !hasJumped && pass < Math.max(passes ? 0 : times, lastPass(signs, at))) {
      const count = (taken.get(at) ?? 1) + 1;
      taken.set(at, count);
      pass = count;
      at = start - 1;
      continue;
    }
    if (times > 0) [start, pass] = [at + 1, 1];
    if (!hasJumped && (sound.dacapo === 'yes' || sound.dalsegno !== undefined)) {
      hasJumped = true;
      const segno = signs.findIndex((each) => each.sound.segno === sound.dalsegno);
      at = (sound.dacapo === 'yes' ? 0 : Math.max(0, segno)) - 1;
      [start, pass] = [at + 1, 1];
    }
  }
  return order;
}

/** Whether another ending follows right behind the one a measure is in. */
function isFollowedByEnding(signs: readonly Signs[], at: number): boolean {
  const own = signs[at].passes;
  const behind = signs.slice(at + 1).find(({ passes }) => passes !== own);
  return behind?.passes != null;
}

/**
 * The last pass that an ending names, or those that follow right behind it; a lone ending is left out in the next pass.
 */
function lastPass(signs: readonly Signs[], at: number): number {
  let last = 0;
  for (let next = at; signs[next]?.passes; next++) last = Math.max(last, ...(signs[next].passes ?? []));
  return signs[at].passes && last < 2 ? 2 : last;
}
