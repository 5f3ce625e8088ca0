/** What fields of stored sessions were called before, and are called now. */
export const FORMER_NAMES: Readonly<Record<string, string>> = { timeBase: 'lockedTo' };

/**
 * A stored document or history with its fields under today's names, however deep they lie: in parts, in what was folded, in the values and
 * paths of patches. What has none of the former names comes back as the very same value.
 */
export function withTodaysNames(stored: unknown): unknown {
  if (Array.isArray(stored)) {
    const list = stored.map((each) =>
      typeof each === 'string' ? (nameNow(each) ?? each) : withTodaysNames(each),
    );
    return list.every((each, at) => each === stored[at]) ? stored : list;
  }
  if (typeof stored !== 'object' || stored === null) return stored;
  let changed = false;
  const entries = Object.entries(stored).map(([key, value]): [string, unknown] => {
    const name = nameNow(key) ?? key;
    const now = withTodaysNames(value);
    changed ||= name !== key || now !== value;
    return [name, now];
  });
  return changed ? Object.fromEntries(entries) : stored;
}

function nameNow(name: string): string | undefined {
  return Object.hasOwn(FORMER_NAMES, name) ? FORMER_NAMES[name] : undefined;
}
