import type { SessionSummary } from '@/storage/summary';
import { listed } from './order';

const session = (name: string, changedAt: number, notes: number): SessionSummary => ({
  id: name,
  name,
  parts: 1,
  notes,
  changedAt,
  broken: null,
  unsaved: null,
});
const SHELF = [session('Ferry 10', 3, 5), session('ferry 2', 1, 900), session('Fog', 2, 40)];
const names = (...asked: [search: string, order: 'changed' | 'name' | 'notes']) =>
  listed(SHELF, ...asked).map(({ name }) => name);

describe('the order of the shelf', () => {
  it('is by the last change, by name as people count, or by notes', () => {
    expect(names('', 'changed')).toEqual(['Ferry 10', 'Fog', 'ferry 2']);
    expect(names('', 'name')).toEqual(['ferry 2', 'Ferry 10', 'Fog']);
    expect(names('', 'notes')).toEqual(['ferry 2', 'Fog', 'Ferry 10']);
  });

  it('holds what a search names, all of its words, whatever the case', () => {
    expect(names('FERRY', 'name')).toEqual(['ferry 2', 'Ferry 10']);
    expect(names('  10 ferry ', 'name')).toEqual(['Ferry 10']);
    expect(names('buoy', 'name')).toEqual([]);
  });
});
