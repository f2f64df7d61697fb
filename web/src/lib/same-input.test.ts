import fc from 'fast-check';
import { sameInput } from './same-input';

describe('inputs that are the same', () => {
  it('are the same as their JSON is, whatever they hold', () => {
    fc.assert(
      fc.property(fc.jsonValue(), fc.jsonValue(), (a, b) => {
        const sorted = (v: unknown): unknown =>
          Array.isArray(v)
            ? v.map(sorted)
            : v && typeof v === 'object'
              ? Object.fromEntries(
                  Object.entries(v)
                    .sort(([p], [q]) => (p < q ? -1 : 1))
                    .map(([k, x]) => [k, sorted(x)]),
                )
              : v;
        // JSON does not know the sign of zero.
        const text = (v: unknown) => JSON.stringify(sorted(JSON.parse(JSON.stringify(v))));
        const copy = JSON.parse(JSON.stringify(a)) as unknown;
        expect(sameInput(copy, JSON.parse(JSON.stringify(copy)))).toBe(true);
        if (text(a) !== text(b)) expect(sameInput(a, b)).toBe(false);
      }),
    );
  });
  it('may lack what is undefined in the other', () => {
    expect(sameInput({ a: 1, b: undefined }, { a: 1 })).toBe(true);
    expect(sameInput({ a: 1 }, { a: 1, b: 0 })).toBe(false);
    expect(sameInput({ a: 1, b: 0 }, { a: 1 })).toBe(false);
  });
  it('are told apart by fields with names that every object inherits', () => {
    expect(sameInput({}, { toString: 1 })).toBe(false);
    expect(sameInput({ valueOf: 1 }, {})).toBe(false);
    expect(sameInput({ a: { toString: '' } }, { a: { toString: '' } })).toBe(true);
  });
  it('does not look into what both share', () => {
    const shared = new Proxy(
      {},
      {
        ownKeys: () => {
          throw new Error('looked into');
        },
      },
    );
    expect(sameInput({ part: shared, v: 1 }, { part: shared, v: 1 })).toBe(true);
    expect(sameInput({ part: shared, v: 1 }, { part: shared, v: 2 })).toBe(false);
  });
  it('takes not a number for itself, and other objects for themselves only', () => {
    expect(sameInput([NaN], [NaN])).toBe(true);
    const bytes = new Uint8Array([1]);
    expect(sameInput({ bytes }, { bytes })).toBe(true);
    expect(sameInput({ bytes }, { bytes: new Uint8Array([1]) })).toBe(false);
    expect(sameInput([1], { 0: 1 })).toBe(false);
  });
});
