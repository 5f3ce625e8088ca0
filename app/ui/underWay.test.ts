import { beginWork, whenOver } from './underWay';

test('what waits for work is called when all of it is over, and once', () => {
  const called: string[] = [];
  whenOver(() => called.push('nothing'));
  const [playing, again] = [beginWork('the playing'), beginWork('the playing')];
  whenOver(() => called.push('all'));
  whenOver(
    () => called.push('recording'),
    (work) => work === 'the recording',
  );
  expect(called).toEqual(['nothing', 'recording']);
  playing();
  playing();
  expect(called).toEqual(['nothing', 'recording']);
  again();
  expect(called).toEqual(['nothing', 'recording', 'all']);
  beginWork('the export')();
  expect(called).toHaveLength(3);
});
