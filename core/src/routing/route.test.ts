import { longRoute } from '../testing/tarrow.ts';
import { operationOf, routeProblems, workMinutes } from './route.ts';

describe('a route', () => {
  it('that can be worked has no problems', () => {
    expect(routeProblems(longRoute)).toEqual([]);
  });

  it('is told what is wrong with it', () => {
    const operations = longRoute.operations.slice(0, 7);
    expect(routeProblems({ ...longRoute, operations })).toEqual([
      "'setup' is the end, but only a join or shipping can end a route",
    ]);
    const [first] = longRoute.operations;
    if (!first) throw new Error('no operation');
    const twice = {
      ...longRoute,
      operations: [{ ...first, reworkTo: 'mill', stations: [] }, first, ...longRoute.operations.slice(2)],
    };
    expect(routeProblems(twice)).toEqual(
      expect.arrayContaining([
        "'dry' stands twice",
        "'dry' has no station",
        "'dry' sends rework to 'mill', which is not in the route",
      ]),
    );
    expect(routeProblems({ ...longRoute, operations: [] })).toEqual(['a route needs at least one operation']);
  });

  it('knows the work in front of a station: loads by the cycle, people by the piece, holds not at all', () => {
    expect(workMinutes(operationOf(longRoute, 'mill'), 12)).toBe(20 + 2 * 60);
    expect(workMinutes(operationOf(longRoute, 'clear'), 12)).toBe(10 + 12 * 15);
    expect(workMinutes(operationOf(longRoute, 'cure'), 12)).toBe(0);
    expect(workMinutes(operationOf(longRoute, 'mill'), 0)).toBe(0);
  });
});
