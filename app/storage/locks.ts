import { OrdleError } from '@ordle/core';

/** Milliseconds a lock may take to come free: another place of this tab may just be leaving the session. */
const PATIENCE_MS = 500;

const SESSION = 'ordle-session-';
const OFFER = 'ordle-offer-';

/** A tab's right to write a session, or its wait for it. */
export interface Claim {
  /** Whether the right was free when it was asked for. */
  first: Promise<boolean>;
  /** Gives the right back, or stops waiting for it. */
  release(): void;
}

/** Who may write what across tabs, by the Web Locks API. Without it every tab may write everything. */
export interface Locks {
  /**
   * Asks for the right to write a session. The first tab to ask has it until it lets go (closing the tab lets go of
   * itself); the others wait, and `onGranted` is called when it becomes theirs. Claims of one tab share the right.
   */
  claim(id: string, onGranted?: () => void): Claim;
  /**
   * Does some work with the right to write a session. Throws OrdleError `session-open-elsewhere` while another tab
   * has it.
   */
  run<T>(id: string, work: () => Promise<T>): Promise<T>;
  /** Lets every tab know that something can still be brought back, until the returned function is called. */
  offer(id: string): () => void;
  /** Whether some tab has a session open or offers to bring something back. */
  anyHeld(): Promise<boolean>;
}

interface Held {
  granted: boolean;
  first: Promise<boolean>;
  claims: Set<() => void>;
  letGo(): void;
}

export function createLocks(
  manager: LockManager | undefined = typeof navigator === 'undefined' ? undefined : navigator.locks,
): Locks {
  const own = new Map<string, Held>();
  /** Offers of this tab, for browsers without locks. */
  const offers = new Set<string>();

  function hold(name: string): Held {
    let end: () => void = () => undefined;
    const ended = new Promise<void>((resolve) => (end = resolve));
    const waiting = new AbortController();
    let answer: (granted: boolean) => void = () => undefined;
    const held: Held = {
      granted: false,
      first: new Promise<boolean>((resolve) => (answer = resolve)),
      claims: new Set(),
      letGo() {
        waiting.abort();
        end();
      },
    };
    const take = () => {
      if (waiting.signal.aborted) return undefined;
      const late = !held.granted;
      held.granted = true;
      answer(true);
      if (late) held.claims.forEach((onGranted) => onGranted());
      return ended;
    };
    if (!manager) {
      held.granted = true;
      answer(true);
      return held;
    }
    void manager.request(name, { ifAvailable: true }, (lock) => {
      if (lock) {
        held.granted = true;
        answer(true);
        return waiting.signal.aborted ? undefined : ended;
      }
      answer(false);
      void manager.request(name, { signal: waiting.signal }, take).catch(() => undefined);
      return undefined;
    });
    return held;
  }

  return {
    claim(id, onGranted = () => undefined) {
      const held = own.get(id) ?? hold(SESSION + id);
      own.set(id, held);
      // A function of its own for every claim, so that equal ones count apart.
      const claim = () => onGranted();
      held.claims.add(claim);
      return {
        first: held.granted ? Promise.resolve(true) : held.first,
        release() {
          if (!held.claims.delete(claim) || held.claims.size > 0) return;
          own.delete(id);
          held.letGo();
        },
      };
    },

    async run(id, work) {
      if (!manager || own.get(id)?.granted) return work();
      const patience = new AbortController();
      const timer = setTimeout(() => patience.abort(), PATIENCE_MS);
      let begun = false;
      try {
        return await manager.request(SESSION + id, { signal: patience.signal }, () => {
          begun = true;
          clearTimeout(timer);
          return work();
        });
      } catch (error) {
        if (begun) throw error;
        throw new OrdleError(
          'session-open-elsewhere',
          'This session is open in another tab. Do it there, or close that tab first.',
        );
      } finally {
        clearTimeout(timer);
      }
    },

    offer(id) {
      offers.add(id);
      let end: () => void = () => undefined;
      const ended = new Promise<void>((resolve) => (end = resolve));
      void manager?.request(OFFER + id, { mode: 'shared' }, () => ended);
      return () => {
        offers.delete(id);
        end();
      };
    },

    async anyHeld() {
      if (own.size > 0 || offers.size > 0) return true;
      const { held = [], pending = [] } = (await manager?.query()) ?? {};
      return [...held, ...pending].some(({ name }) => name?.startsWith(SESSION) || name?.startsWith(OFFER));
    },
  };
}
