import { initialView, viewSchema } from './viewSlice';

describe('a stored view', () => {
  it('is read as it was stored', () => {
    const view = { ...initialView, velocities: false, velocitiesHeight: 120, grid: '1/8' };
    expect(viewSchema.parse(view)).toEqual(view);
  });

  it('of an earlier version keeps whether and how high velocities were shown', () => {
    const { velocities, velocitiesHeight, ...rest } = initialView;
    expect([velocities, velocitiesHeight]).toEqual([true, 92]);
    expect(viewSchema.parse({ ...rest, lane: false, laneHeight: 120 })).toEqual({
      ...rest,
      velocities: false,
      velocitiesHeight: 120,
    });
    expect(viewSchema.parse({ ...rest, lane: false })).toMatchObject({
      velocities: false,
      velocitiesHeight: 92,
    });
  });
});
