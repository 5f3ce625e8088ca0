import { OrdleError } from '../errors';

/** One change of a document: what stands at a path now; without `value` it is gone. */
export interface DocumentPatch {
  path: (string | number)[];
  value?: unknown;
}

/**
 * What has to be changed in one document to have another. Documents are never written into and share what they have
 * in common, so only what is not the very same object is looked at: the cost is that of the change, whatever the size
 * of the document.
 */
export function patchesBetween(before: unknown, after: unknown): DocumentPatch[] {
  const patches: DocumentPatch[] = [];
  compare(before, after, [], patches);
  return patches;
}

function compare(before: unknown, after: unknown, path: (string | number)[], patches: DocumentPatch[]): void {
  if (before === after) return;
  if (!isRecord(before) || !isRecord(after)) {
    patches.push({ path, value: after });
    return;
  }
  for (const key of Object.keys(before))
    if (!Object.hasOwn(after, key)) patches.push({ path: [...path, key] });
  for (const key of Object.keys(after)) {
    if (!Object.hasOwn(before, key)) patches.push({ path: [...path, key], value: after[key] });
    else compare(before[key], after[key], [...path, key], patches);
  }
}

/** Patches as a tree: of each place, the patch of it itself, and those of what lies in it, in their order. */
interface Branch {
  patch: DocumentPatch | null;
  inside: Map<string | number, Branch>;
}

/**
 * The document with patches applied, everything they do not touch shared. Of patches of one place the last counts.
 * Everything that holds a change is made anew once, however many changes it holds. Throws OrdleError `patch-place`
 * where a path leads nowhere.
 */
export function withPatches<T>(document: T, patches: readonly DocumentPatch[]): T {
  if (patches.length === 0) return document;
  const root: Branch = { patch: null, inside: new Map() };
  for (const patch of patches) {
    let branch = root;
    for (const key of patch.path) {
      let next = branch.inside.get(key);
      if (!next) branch.inside.set(key, (next = { patch: null, inside: new Map() }));
      branch = next;
    }
    // What was said of anything in it before is said of what is no more.
    branch.patch = patch;
    branch.inside.clear();
  }
  return grown(document, root) as T;
}

function grown(node: unknown, { patch, inside }: Branch): unknown {
  const base = patch ? patch.value : node;
  if (inside.size === 0) return base;
  if (!isRecord(base)) throw misplaced(firstPatch(inside));
  const next = { ...base };
  for (const [key, branch] of inside) {
    const isGone = branch.patch !== null && !('value' in branch.patch) && branch.inside.size === 0;
    if (isGone) delete next[key];
    else next[key] = grown(base[key], branch);
  }
  return next;
}

function firstPatch(inside: Branch['inside']): DocumentPatch {
  const [branch] = inside.values();
  return branch.patch ?? firstPatch(branch.inside);
}

const misplaced = ({ path }: DocumentPatch) =>
  new OrdleError('patch-place', `The document has no ${path.join('.')}, where something was to change.`);

/** A plain object; lists are replaced whole: the document keeps things by id, and its lists are short. */
const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && !ArrayBuffer.isView(value);
