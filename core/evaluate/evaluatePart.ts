import { OrdleError } from '../errors';
import { createRememberedFollow, type Follow } from '../following';
import type { EventColumns } from '../midi';
import type { Material, NoteTable, Take } from '../model';
import { itemOf, listOf, namedBy, type Part, type Session } from '../session';
import { applyStep, kindOf, type Step, type StepContext, type WrittenBeside } from '../steps';
import type { Timeline } from '../time';
import { assemble, type Assembly } from '../assembly';
import { createFollower, partsWithScore, type Followed } from './followedParts';
import { createAssemblies } from './rememberedAssemblies';
import { createRemembered, ownBytes } from './rememberedStages';
import { portOfPart } from './portOfPart';
import { waitingFor, type Waiting } from './waiting';

/** A part's material at every stop: `stages[0]` as played, `stages[k]` after step k, the last one cleaned. */
export interface Evaluation {
  assembly: Assembly;
  stages: Material[];
}

/**
 * What a part holds: notes and whatever goes with them, controllers alone, text and system messages alone, or
 * nothing.
 */
export type PartContent = 'notes' | 'controllers' | 'text' | 'nothing';

/**
 * Evaluates parts, remembering what did not change.
 *
 * @public
 */
export interface Evaluator {
  /** Works a part out at every stop of its line. Throws OrdleError where a take or what it is made of is missing. */
  evaluate(part: Part, session: Session, timeline: Timeline): Evaluation;
  /** What a part holds before any step. */
  contentOf(part: Part, session: Session, timeline: Timeline): PartContent;
  /**
   * A part, and those with the same score, as played beside what is written; null where no score is laid beside it.
   */
  followed(part: Part, session: Session, timeline: Timeline): Followed | null;
  /** Follows notes along a score; what was just followed is remembered. */
  follow: Follow;
  /** The other parts that share a part's channel, and its port where files name ports. */
  partsBeside(part: Part, session: Session): Part[];
  /** The same, each as it is when it is evaluated alone. */
  aloneBeside(part: Part, session: Session, timeline: Timeline): { part: Part; material: Material }[];
}

interface Memo {
  timeline: Timeline;
  isDrums: boolean;
  /** What the step heard of another part. */
  other: NoteTable | null;
  /** What is written beside it. */
  written: WrittenBeside | null;
  /** What it read of the other parts on its channel. */
  beside: readonly (EventColumns | NoteTable)[];
  output: Material;
}

const NOTHING: readonly Material[] = [];

/** What steps are given to know, but for what they read of the channel, which depends on the step. */
interface Surroundings extends Omit<StepContext, 'beside'> {
  /** The other parts on the channel, with what steps of theirs take out of their pedals or without. */
  besideKeeping(keepsPresses: boolean): readonly Material[];
}

/** Everything an evaluation is about but the part. */
interface Scene {
  session: Session;
  timeline: Timeline;
  /** The first pass, in which a part sees no events but its own. */
  alone: boolean;
  /** Whether steps that take presses of a pedal out do nothing, for those who are held by them. */
  keepsPresses: boolean;
  /**
   * Whether controllers without notes lie along the bars as the part they follow does; not while it is looked for, or
   * two would look for each other.
   */
  follows: boolean;
  waiting: readonly Waiting[];
  /** What this question has come upon, by part and pass: parts of parts of parts are asked for once each. */
  known: Map<string, Evaluation>;
}

/**
 * An evaluator over some takes. A stage is kept by the identity of its input and of the step, so changing step k
 * computes from k on, for as long as there is room (`rememberedStages.ts`); an assembly by what it is made of.
 *
 * Controllers belong to the channel, so there are two passes: first every part alone; then the steps that read the
 * state of the channel see the first pass of the other parts on it beside their own events. So there is no circle,
 * and a part is evaluated anew only when an input of it has changed.
 *
 * @public
 */
export function createEvaluator(
  takes: (key: string) => Take,
  editTable?: StepContext['editTable'],
): Evaluator {
  const assemblies = createAssemblies();
  const outputs = {
    alone: new WeakMap<Material, WeakMap<Step, Memo>>(),
    beside: new WeakMap<Material, WeakMap<Step, Memo>>(),
  };
  const remembered = createRemembered();
  const follow = createRememberedFollow();
  const follower = createFollower(takes, follow);

  function assemblyOf(part: Part, scene: Scene): Assembly {
    const sources = new Map<string, Material>();
    for (const id of partsIn(part)) {
      const { part: found, waiting } = waitingFor(part, id, 'made of', scene.waiting, scene.session);
      const { stages } = evaluate(found, { ...scene, keepsPresses: false, waiting });
      sources.set(id, stages[stages.length - 1]);
    }
    return assemblies.find(part, scene.timeline, sources, () =>
      assemble(part, scene.timeline, { take: takes, part: (id) => sources.get(id) as Material }),
    );
  }

  function outputOf(input: Material, step: Step, context: Surroundings): Material {
    const { timeline, isDrums } = context;
    const kind = kindOf(step.kind);
    const reference = step.on ? kind.reference?.(step) : undefined;
    const other = reference === undefined ? null : (context.otherPart?.(reference) ?? null);
    const written = step.on && kind.followsScore ? (context.written?.() ?? null) : null;
    const reads = step.on ? (kind.readsChannel?.(step) ?? []) : [];
    const others = reads.length > 0 ? context.besideKeeping(reads.includes('presses')) : NOTHING;
    const beside = others
      .flatMap((material) => reads.map((what) => material[what === 'notes' ? 'notes' : 'events']))
      .filter(({ length }) => length > 0);
    const memos = beside.length > 0 ? outputs.beside : outputs.alone;
    const bySteps = memos.get(input) ?? new WeakMap<Step, Memo>();
    memos.set(input, bySteps);
    const known = bySteps.get(step);
    if (
      known &&
      known.timeline === timeline &&
      known.isDrums === isDrums &&
      known.other === other &&
      known.written === written &&
      same(known.beside, beside)
    ) {
      remembered.touch(known);
      return known.output;
    }
    const output = applyStep(input, step, {
      ...context,
      otherPart: () => other,
      written: () => written,
      beside: () => others,
    });
    const memo: Memo = { timeline, isDrums, other, written, beside, output };
    bySteps.set(step, memo);
    remembered.add(memo, ownBytes(output, input), () => {
      if (bySteps.get(step) === memo) bySteps.delete(step);
    });
    return output;
  }

  function evaluate(part: Part, scene: Scene): Evaluation {
    const { alone, keepsPresses, follows } = scene;
    const key = [alone, keepsPresses, follows, part.id].join(' ');
    const there = scene.known.get(key);
    if (there) return there;
    const made = evaluatedAnew(part, scene);
    scene.known.set(key, made);
    return made;
  }

  function evaluatedAnew(part: Part, scene: Scene): Evaluation {
    const assembly = assemblyOf(part, scene);
    const context: Surroundings = {
      timeline: scene.timeline,
      isDrums: part.sound.drums,
      drawnBy: assembly.drawnBy,
      editTable,
      otherPart(idOrName) {
        const found = partNamed(scene.session, idOrName);
        if (!found || found.id === part.id) return null;
        const { waiting } = waitingFor(part, found.id, 'aligned to', scene.waiting, scene.session);
        const { stages } = evaluate(found, { ...scene, alone: true, keepsPresses: false, waiting });
        return stages[stages.length - 1].notes;
      },
      written: () => followedIn(part, scene)?.beside(part.id) ?? null,
      besideKeeping: (keepsPresses) =>
        scene.alone ? NOTHING : materialsBeside(part, { ...scene, keepsPresses }),
    };
    const stages = [assembly.material];
    for (const { step } of listOf(part.steps)) {
      const input = stages[stages.length - 1];
      const isKept = scene.keepsPresses && kindOf(step.kind).takesPressesOut?.(step);
      stages.push(isKept ? input : outputOf(input, step, context));
    }
    const layout = layoutToFollow(part, assembly, scene);
    if (layout) stages.push(outputOf(stages.pop() ?? assembly.material, layout, context));
    return { assembly, stages };
  }

  /** A part and those with its score, as they were played; those that cannot be worked out are left out. */
  const followedIn = (part: Part, scene: Scene): Followed | null =>
    follower(part, scene.session, scene.timeline, (each) =>
      each.id === part.id
        ? assemblyOf(each, scene).material.notes
        : (ifWhole(() => assemblyOf(each, { ...scene, waiting: [] }))?.material.notes ?? null),
    );

  /**
   * Controllers without notes lie along the bars where the part of their channel with most notes lies; null where
   * there is nothing to follow.
   */
  function layoutToFollow(part: Part, assembly: Assembly, scene: Scene): Step | null {
    const layoutOf = ({ steps }: Part) =>
      listOf(steps).find(({ step }) => step.on && kindOf(step.kind).laysOut)?.step ?? null;
    if (!scene.follows || assembly.material.notes.length > 0 || layoutOf(part)) return null;
    let [leader, most]: [Part | null, number] = [null, 0];
    for (const other of sharers(part, scene.session)) {
      if (isMadeOf(other, part.id, scene.session)) continue;
      const there = ifWhole(() => assemblyOf(other, { ...scene, alone: true, follows: false, waiting: [] }));
      const length = there?.material.notes.length ?? 0;
      if (length > most) [leader, most] = [other, length];
    }
    return leader && layoutOf(leader);
  }

  /** The other parts that share a part's channel, and its port where files name ports. */
  function sharers(part: Part, session: Session): Part[] {
    const port = portOfPart(part, session, takes);
    return partsBeside(part, session).filter(
      (other) => ifWhole(() => portOfPart(other, session, takes)) === port,
    );
  }

  function materialsBeside(part: Part, scene: Scene): Material[] {
    return sharers(part, scene.session).flatMap((other) => {
      const { stages } = ifWhole(() => evaluate(other, { ...scene, alone: true, waiting: [] })) ?? {};
      return stages ? [stages[stages.length - 1]] : [];
    });
  }

  const sceneOf = (session: Session, timeline: Timeline, alone: boolean): Scene => ({
    session,
    timeline,
    alone,
    keepsPresses: false,
    follows: true,
    waiting: [],
    known: new Map(),
  });

  return {
    evaluate(part, session, timeline) {
      remembered.begin();
      return evaluate(part, sceneOf(session, timeline, false));
    },
    contentOf(part, session, timeline) {
      const { notes, events } = assemblyOf(part, sceneOf(session, timeline, true)).material;
      if (notes.length > 0) return 'notes';
      if (events.status.some((status) => status < 0xf0)) return 'controllers';
      return events.length > 0 ? 'text' : 'nothing';
    },
    follow,
    followed: (part, session, timeline) => followedIn(part, sceneOf(session, timeline, true)),
    partsBeside: sharers,
    aloneBeside(part, session, timeline) {
      const scene = sceneOf(session, timeline, true);
      return sharers(part, session).flatMap((other) => {
        const { stages } = ifWhole(() => evaluate(other, scene)) ?? {};
        return stages ? [{ part: other, material: stages[stages.length - 1] }] : [];
      });
    },
  };
}

/**
 * What comes of a part beside; null where that part cannot be worked out, which it says itself: the others are as if
 * it were not there.
 */
function ifWhole<T>(work: () => T): T | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof OrdleError) return null;
    throw error;
  }
}

/** The part of a session with an id, or else the first with a name. */
export function partNamed(session: Session, idOrName: string): Part | undefined {
  return itemOf(session.parts, idOrName) ?? listOf(session.parts).find(({ name }) => name === idOrName);
}

/** The other parts a part is made of, by id. */
export const partsIn = (part: Part): string[] => [...namedBy(part).parts];

/** Whether a part is made of another, through however many. */
function isMadeOf(part: Part, id: string, session: Session, seen = new Set<string>()): boolean {
  return partsIn(part).some((source) => {
    if (source === id) return true;
    const found = itemOf(session.parts, source);
    if (!found || seen.has(source)) return false;
    seen.add(source);
    return isMadeOf(found, id, session, seen);
  });
}

/** The takes a part is made of, by key. */
export const takesIn = (part: Part): string[] => [...namedBy(part).takes];

/** The other parts that play on a part's channel, of any port. */
export function partsBeside(part: Part, session: Session): Part[] {
  return listOf(session.parts).filter(
    (other) => other.id !== part.id && other.channel === part.channel && !other.setAside,
  );
}

/**
 * The parts whose changes may change what a part sounds like: those its steps listen to, those it is made of, those
 * on its channel; and the same of each of those, since the pedal a source is held by may be that of yet another part.
 */
export function partsHeard(part: Part, session: Session): Part[] {
  const heard = new Map<string, Part>();
  const add = (other: Part | undefined) => {
    if (!other || other.id === part.id || heard.has(other.id)) return;
    heard.set(other.id, other);
    follow(other);
  };
  const follow = (from: Part) => {
    for (const id of partsIn(from)) add(itemOf(session.parts, id));
    for (const { step } of listOf(from.steps)) {
      const reference = step.on ? kindOf(step.kind).reference?.(step) : undefined;
      if (reference !== undefined) add(partNamed(session, reference));
    }
    partsWithScore(from, session).forEach(add);
    partsBeside(from, session).forEach(add);
  };
  follow(part);
  return [...heard.values()];
}

function same(a: readonly unknown[], b: readonly unknown[]): boolean {
  return a.length === b.length && a.every((item, at) => item === b[at]);
}
