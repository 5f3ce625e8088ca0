import { expose } from 'comlink';
import { packError } from './packedError';

/**
 * Offers the calls of a thread to the page. Errors cross the thread border as plain values, so that a known error stays
 * known on the other side. `read` is made of every argument first, at once.
 */
export function exposeAnswers(calls: object, read: (given: unknown) => unknown = (given) => given): void {
  const answering = Object.entries(calls).map(([name, call]) => [
    name,
    async (...given: unknown[]) => {
      try {
        const list = given.map(read);
        return { value: await (call as (...list: unknown[]) => Promise<unknown>)(...list) };
      } catch (error) {
        return { error: packError(error) };
      }
    },
  ]);
  expose(Object.fromEntries(answering));
}
