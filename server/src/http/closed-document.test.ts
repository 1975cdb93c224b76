import { describeApi } from '../app.ts';
import { Works } from '../testing/works.ts';
import { isOpen } from './closed-document.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

it('tells every field by its type: nothing is only said to be an object (13)', () => {
  const { components } = describeApi(works.app);
  const open = Object.entries(components?.schemas ?? {}).flatMap(([name, schema]) =>
    'properties' in schema
      ? Object.entries(schema.properties ?? {})
          .filter(([, property]) => isOpen(property))
          .map(([field]) => `${name}.${field}`)
      : [],
  );
  // What a setting was before and after, and files before they are read: whatever they are.
  expect(open.toSorted()).toEqual([
    'ChangeDto.after',
    'ChangeDto.before',
    'ReadRecipeDto.file',
    'ReviseRecipeDto.recipe',
  ]);
  // A rack's state has all that the core's has, and the forms of holds are told apart.
  const { BatchState: state, HoldRule: rule } = components?.schemas ?? {};
  expect(Object.keys((state as { properties: object }).properties)).toEqual(
    expect.arrayContaining(['finish', 'sandings', 'marks', 'colours', 'ageing', 'freed', 'slips', 'rests']),
  );
  expect((rule as { anyOf: object[] }).anyOf).toHaveLength(5);
});
