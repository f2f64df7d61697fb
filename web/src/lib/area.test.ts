import { keyOfPlace, placeOfKey } from './area';

it('every one of eleven areas has a key of its own, and no other key leads to one', () => {
  const names = Array.from({ length: 11 }, (_, place) => keyOfPlace(place));
  expect(new Set(names).size).toBe(11);
  expect(names[0]).toBe('Alt 1');
  expect(names[9]).toBe('Alt 0');
  expect(['Digit1', 'Digit9', 'Digit0', 'Minus'].map(placeOfKey)).toEqual([0, 8, 9, 10]);
  expect(placeOfKey('KeyA')).toBe(-1);
});
