import { createPinia, setActivePinia } from 'pinia';

let mockSent: string[] = [];
let mockAnswer: () => Promise<unknown> = () => Promise.resolve({});
jest.mock('@/api/client', () => {
  class ApiError extends Error {
    constructor(readonly status: number) {
      super('refused');
    }
  }
  return {
    ApiError,
    call: (name: string, options?: { params: { key: string } }) => {
      if (name === 'preferences') return Promise.resolve({});
      mockSent.push(options?.params.key ?? '');
      return mockAnswer();
    },
  };
});
const kept: Record<string, string> = {};
jest.mock('@/lib/browser-storage', () => ({
  readSmall: (key: string) => mockKept()[key] ?? null,
  writeSmall: (key: string, text: string) => {
    mockKept()[key] = text;
  },
}));
const mockKept = () => kept;

import { ApiError } from '@/api/client';
import { usePreferences } from './preferences';

const refused = ApiError as unknown as new (status: number) => Error;
const settle = () => new Promise((done) => setTimeout(done, 300));
beforeEach(() => {
  mockSent = [];
  mockAnswer = () => Promise.resolve({});
  for (const key of Object.keys(kept)) delete kept[key];
  Object.assign(globalThis, { document: { documentElement: { dataset: {} } } });
  setActivePinia(createPinia());
});

describe('a preference', () => {
  it('holds at once, and goes to the server', async () => {
    const preferences = usePreferences();
    preferences.set('decimalMark', 'comma');
    expect(preferences.get('decimalMark', 'point')).toBe('comma');
    await settle();
    expect(mockSent).toEqual(['decimalMark']);
    expect(kept['veldtwind-preferences-unsent']).toBe('[]');
  });
  it.each([
    [503, 'goes again with the next while the server is away', ['a', 'a', 'b']],
    [400, 'stays in this browser where the server refuses it for what it is', ['a', 'b']],
  ])('answered with %d %s', async (status, _, sent) => {
    const preferences = usePreferences();
    mockAnswer = () => Promise.reject(new refused(status));
    preferences.set('a', 1);
    await settle();
    preferences.set('b', 2);
    await settle();
    expect(mockSent).toEqual(sent);
    expect(preferences.get('a', 0)).toBe(1);
  });
});
