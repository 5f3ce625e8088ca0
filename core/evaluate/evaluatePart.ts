import type { Material, Take } from '../model';
import type { Part, Session } from '../session';
import { applyStep, type Step } from '../steps';
import type { Timeline } from '../time';
import { assemble, type Assembly, type TakeSource } from './assemble';

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
  output: Material;
}

/**
 * An evaluator over some takes. A stage is kept by the identity of its input and of the step, so changing step k computes
 * from k on; an assembly is kept by the identity of the part's layers and of the timeline.
 */
export function createEvaluator(takes: (key: string) => Take): Evaluator {
  const assemblies = new WeakMap<Part['layers'], { timeline: Timeline; sound: string; assembly: Assembly }>();
  const outputs = new WeakMap<Material, WeakMap<Step, Memo>>();
  const source: TakeSource = takes;

  function assemblyOf(part: Part, session: Session, timeline: Timeline): Assembly {
    const known = assemblies.get(part.layers);
    const sound = JSON.stringify([part.sound, part.rechannel, part.channel]);
    if (known && known.timeline === timeline && known.sound === sound) return known.assembly;
    const assembly = assemble(part, session, timeline, source);
    assemblies.set(part.layers, { timeline, sound, assembly });
    return assembly;
  }

  function outputOf(input: Material, step: Step, timeline: Timeline, isDrums: boolean): Material {
    let bySteps = outputs.get(input);
    if (!bySteps) outputs.set(input, (bySteps = new WeakMap()));
    const known = bySteps.get(step);
    if (known && known.timeline === timeline && known.isDrums === isDrums) return known.output;
    const output = applyStep(input, step, { timeline, isDrums });
    bySteps.set(step, { timeline, isDrums, output });
    return output;
  }

  return {
    evaluate(part, session, timeline) {
      const assembly = assemblyOf(part, session, timeline);
      const stages = [assembly.material];
      for (const { step } of part.steps) {
        stages.push(outputOf(stages[stages.length - 1], step, timeline, part.sound.drums));
      }
      return { assembly, stages };
    },
  };
}

/** Runs a list of steps over some material once, without remembering anything. */
export function applySteps(
  material: Material,
  steps: readonly Step[],
  context: { timeline: Timeline; isDrums: boolean },
): Material {
  return steps.reduce((current, step) => applyStep(current, step, context), material);
}
