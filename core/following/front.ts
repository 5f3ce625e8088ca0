/** Steps that were kept, as columns that grow. */
export function createRecords() {
  const records = {
    parent: [] as number[],
    group: [] as number[],
    chord: [] as number[],
    isJump: [] as number[],
    add(parent: number, group: number, chord: number, what: number) {
      records.parent.push(parent);
      records.group.push(group);
      records.chord.push(chord);
      records.isJump.push(what);
      return records.parent.length - 1;
    },
  };
  return records;
}

/** The best way to each chord that is thought of, as columns by chord. */
export function createFront(count: number) {
  const score = new Float64Array(count);
  const isThere = new Uint8Array(count);
  const front = {
    active: [] as number[],
    score,
    time: new Float64Array(count),
    spq: new Float64Array(count),
    used: new Uint32Array(count),
    record: new Int32Array(count),
    /** How this group came there: -1 not at all, 0 on, 1 by a jump. */
    what: new Int8Array(count),
    clear() {
      for (const at of front.active) isThere[at] = 0;
      front.active = [];
    },
    offer(at: number, value: number, time: number, spq: number, used: number, record: number, what: number) {
      if (isThere[at] === 1 && score[at] >= value) return;
      if (isThere[at] === 0) {
        isThere[at] = 1;
        front.active.push(at);
      }
      score[at] = value;
      front.time[at] = time;
      front.spq[at] = spq;
      front.used[at] = used;
      front.record[at] = record;
      front.what[at] = what;
    },
    keepBest(most: number) {
      if (front.active.length <= most) return;
      const sorted = Float64Array.from(front.active, (at) => score[at]).sort();
      const least = sorted[sorted.length - most];
      const kept: number[] = [];
      for (const at of front.active)
        if (score[at] >= least && kept.length < most) kept.push(at);
        else isThere[at] = 0;
      front.active = kept;
    },
    best() {
      let best = front.active[0];
      for (const at of front.active) if (score[at] > score[best]) best = at;
      return best;
    },
  };
  return front;
}
