import { createTeller, onProgress, takeProgress } from './progress';

describe('progress of the worker', () => {
  it('is said now and then, heard until nobody listens, and told from answers', () => {
    const said: number[] = [];
    const tell = createTeller((message) => takeProgress({ data: message } as MessageEvent));
    const stop = onProgress((share) => said.push(share));
    tell(0.25);
    tell(0.3);
    expect(said).toEqual([0.25]);
    takeProgress({ data: { id: 3, value: 1 } } as MessageEvent);
    takeProgress({ data: null } as MessageEvent);
    expect(said).toHaveLength(1);
    stop();
    takeProgress({ data: { ordleProgress: 0.9 } } as MessageEvent);
    expect(said).toHaveLength(1);
  });
});
