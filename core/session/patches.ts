import { OrdleError } from '../errors';

/** One change of a document: what stands at a path now; without `value` it is gone. */
export interface DocumentPatch {
  path: (string | number)[];
  value?: unknown;
}

/** Past so many changes of one record it is sent whole. */
const MOST_OF_A_RECORD = 64;

/**
 * What has to be changed in one document to have another. Documents are never written into and share what they have in common, so only what is
 * not the very same object is looked at: the cost is that of the change, whatever the size of the document.
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
  const own: DocumentPatch[] = [];
  for (const key of Object.keys(before)) if (!Object.hasOwn(after, key)) own.push({ path: [...path, key] });
  for (const key of Object.keys(after)) {
    if (own.length > MOST_OF_A_RECORD) break;
    if (!Object.hasOwn(before, key)) own.push({ path: [...path, key], value: after[key] });
    else compare(before[key], after[key], [...path, key], own);
  }
  if (own.length > MOST_OF_A_RECORD) patches.push({ path, value: after });
  else patches.push(...own);
}

/** The document with patches applied, everything they do not touch shared. Throws OrdleError `patch-place` where a path leads nowhere. */
export function withPatches<T>(document: T, patches: readonly DocumentPatch[]): T {
  return patches.reduce((current, patch) => withPatch(current, patch.path, patch), document as unknown) as T;
}

function withPatch(node: unknown, path: readonly (string | number)[], patch: DocumentPatch): unknown {
  if (path.length === 0) return patch.value;
  if (!isRecord(node))
    throw new OrdleError(
      'patch-place',
      `The document has no ${patch.path.join('.')}, where something was to change.`,
    );
  const [key, ...rest] = path;
  const next = { ...node };
  if (rest.length === 0 && !('value' in patch)) delete next[key];
  else next[key] = withPatch(node[key], rest, patch);
  return next;
}

/** A plain object; lists are replaced whole: the document keeps things by id, and its lists are short. */
const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && !ArrayBuffer.isView(value);
