import { keptByPart } from './by-part';

it('what is made from a part is made again when the part, or what is under it, is another', () => {
  const kept = keptByPart<object, number>();
  let made = 0;
  const [a, b, under] = [{}, {}, {}];
  const ask = (part: object, base: object = under, kind = 'plan') => kept(base, part, kind, () => ++made);
  expect([ask(a), ask(a), ask(b), ask(a, under, 'front'), ask(a)]).toEqual([1, 1, 2, 3, 1]);
  expect(ask(a, {})).toBe(4);
});
