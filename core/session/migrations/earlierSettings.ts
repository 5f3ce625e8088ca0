type Loose = Record<string, unknown>;

const isRecord = (value: unknown): value is Loose => typeof value === 'object' && value !== null;

/**
 * The records of a list by id with each of them made anew; what is no such list comes back as it is, for the schema
 * to refuse.
 */
function withEach(list: unknown, made: (record: Loose) => Loose): unknown {
  if (!isRecord(list) || !isRecord(list.byId)) return list;
  const byId = Object.entries(list.byId).map(([id, each]) => [id, isRecord(each) ? made(each) : each]);
  return { ...list, byId: Object.fromEntries(byId) };
}

/**
 * A stored document whose steps name, for settings that came later, what they did before there was a choice: thinning
 * went by the line between points. Without this a default that is wiser today would change how a stored session
 * sounds.
 */
export function withEarlierSettings(document: unknown): unknown {
  if (!isRecord(document)) return document;
  const parts = withEach(document.parts, (part) => ({
    ...part,
    steps: withEach(part.steps, (placed) => ({ ...placed, step: named(placed.step) })),
  }));
  return { ...document, parts };
}

/**
 * A stored document of a time when each part had a pulse of its own, whatever it was recorded with: where a person
 * said something of the beats of several parts, each of those goes on by itself.
 */
export function withOwnPulses(document: unknown): unknown {
  if (!isRecord(document) || !isRecord(document.parts) || !isRecord(document.parts.byId)) return document;
  const hasPulse = (part: unknown) => isRecord(part) && part.pulse !== undefined;
  if (Object.values(document.parts.byId).filter(hasPulse).length < 2) return document;
  const parts = withEach(document.parts, (part) =>
    hasPulse(part) && typeof part.id === 'string' ? { ...part, recording: part.id } : part,
  );
  return { ...document, parts };
}

/**
 * A stored document of a time when one place of the bars could be said of the beats: the time a bar begins at, and its
 * number.
 */
export function withPlacesOfBeats(document: unknown): unknown {
  if (!isRecord(document)) return document;
  const parts = withEach(document.parts, (part) => {
    if (!isRecord(part.pulse)) return part;
    const { barAt, barNumber, ...pulse } = part.pulse;
    if (barAt === undefined) return { ...part, pulse };
    const place = { at: barAt, beat: 1, ...(barNumber !== undefined && { bar: barNumber }) };
    return { ...part, pulse: { ...pulse, places: [place] } };
  });
  return { ...document, parts };
}

const named = (step: unknown): unknown =>
  isRecord(step) && step.kind === 'curve' && step.op === 'thin' && step.by === undefined
    ? { ...step, by: 'line' }
    : step;
