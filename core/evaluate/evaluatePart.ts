import { OrdleError } from '../errors';
import type { Material, NoteTable, Take } from '../model';
import type { Part, Session } from '../session';
import { applyStep, kindOf, type Step, type StepContext } from '../steps';
import type { Timeline } from '../time';
import { assemble, type Assembly, type TakeSource } from './assemble';
import { createRemembered, ownBytes } from './rememberedStages';

/** A part's material at every stop: `stages[0]` as played, `stages[k]` after step k, the last one cleaned. */
export interface Evaluation {
  assembly: Assembly;
  stages: Material[];
}

/** Evaluates parts, remembering what did not change. */
export interface Evaluator {
  evaluate(part: Part, session: Session, timeline: Timeline): Evaluation;
}

interface Memo {
  timeline: Timeline;
  isDrums: boolean;
  /** What the step heard of another part. */
  other: NoteTable | null;
  output: Material;
}

/**
 * An evaluator over some takes. A stage is kept by the identity of its input and of the step, so changing step k computes
 * from k on, for as long as there is room (`rememberedStages.ts`); an assembly is kept by the identity of the part's layers and of the timeline.
 */
export function createEvaluator(takes: (key: string) => Take): Evaluator {
  const assemblies = new WeakMap<Part['layers'], { timeline: Timeline; sound: string; assembly: Assembly }>();
  const outputs = new WeakMap<Material, WeakMap<Step, Memo>>();
  const remembered = createRemembered();
  const source: TakeSource = takes;

  function assemblyOf(part: Part, session: Session, timeline: Timeline): Assembly {
    const known = assemblies.get(part.layers);
    const sound = JSON.stringify([part.sound, part.rechannel, part.channel]);
    if (known && known.timeline === timeline && known.sound === sound) return known.assembly;
    const assembly = assemble(part, session, timeline, source);
    assemblies.set(part.layers, { timeline, sound, assembly });
    return assembly;
  }

  function outputOf(input: Material, step: Step, context: StepContext): Material {
    const bySteps = outputs.get(input) ?? new WeakMap<Step, Memo>();
    outputs.set(input, bySteps);
    const { timeline, isDrums } = context;
    const reference = step.on ? kindOf(step.kind).reference?.(step) : undefined;
    const other = reference === undefined ? null : (context.otherPart?.(reference) ?? null);
    const known = bySteps.get(step);
    if (known && known.timeline === timeline && known.isDrums === isDrums && known.other === other) {
      remembered.touch(known);
      return known.output;
    }
    const output = applyStep(input, step, { ...context, otherPart: () => other });
    const memo: Memo = { timeline, isDrums, other, output };
    bySteps.set(step, memo);
    remembered.add(memo, ownBytes(output, input), () => {
      if (bySteps.get(step) === memo) bySteps.delete(step);
    });
    return output;
  }

  /** `waiting` are the parts whose evaluation asked for this one, to tell parts that wait for each other. */
  function evaluate(part: Part, session: Session, timeline: Timeline, waiting: readonly Part[]): Evaluation {
    const assembly = assemblyOf(part, session, timeline);
    const otherPart = (idOrName: string): NoteTable | null => {
      const found =
        session.parts.find(({ id }) => id === idOrName) ??
        session.parts.find(({ name }) => name === idOrName);
      if (!found || found.id === part.id) return null;
      const line = [...waiting, part];
      if (line.some(({ id }) => id === found.id)) {
        const names = [...line.slice(line.findIndex(({ id }) => id === found.id)), found].map(
          ({ name }) => name,
        );
        throw new OrdleError(
          'align-cycle',
          `These parts wait for each other: ${names.join(' > ')}. Let one of them not align to the next.`,
        );
      }
      const { stages } = evaluate(found, session, timeline, line);
      return stages[stages.length - 1].notes;
    };
    const context: StepContext = { timeline, isDrums: part.sound.drums, otherPart };
    const stages = [assembly.material];
    for (const { step } of part.steps) stages.push(outputOf(stages[stages.length - 1], step, context));
    return { assembly, stages };
  }

  return {
    evaluate(part, session, timeline) {
      remembered.begin();
      return evaluate(part, session, timeline, []);
    },
  };
}

/** Runs a list of steps over some material once, without remembering anything. */
export function applySteps(material: Material, steps: readonly Step[], context: StepContext): Material {
  return steps.reduce((current, step) => applyStep(current, step, context), material);
}
