import { z } from 'zod';
import { refusalOf, within } from '.';

const schema = z.strictObject({
  mass: z.number().positive(),
  kind: z.enum(['step', 'doublet']).optional(),
  at: z.array(z.number()).min(2).max(3).optional(),
  name: z.string().max(4).optional(),
  span: within({ label: 'Span', dimension: 'length', min: 1, max: 5 }).optional(),
  angle: z.union([z.number(), z.array(z.tuple([z.number(), z.number()]))]).optional(),
});
const refused = (value: unknown) => refusalOf(schema.safeParse(value).error!, 'The file');

describe('a refusal says where, what is wrong, and what would work', () => {
  it.each([
    [{}, 'mass', /mass: is missing: a number\./, /a number/],
    [{ mass: 'heavy' }, 'mass', /is not a number/, /a number/],
    [{ mass: 0 }, 'mass', /must be more than 0/, /more than 0/],
    [{ mass: 1, kind: 'stpe' }, 'kind', /one of "step", "doublet"/, /"step"/],
    [{ mass: 1, at: [1] }, 'at', /at least 2 entries/, /2 entries would work/],
    [{ mass: 1, name: 'longer' }, 'name', /at most 4 letters/, /4 letters/],
    [{ mass: 1, span: 9 }, 'span', /from 1 m to 5 m.*9 m is not/, /^5 would work/],
    [{ mass: 1, masss: 2 }, '', /"masss".*not known/, /spelling/],
    [{ mass: 1, angle: 'steep' }, 'angle', /a number or a list/, /a number or a list/],
    [{ mass: 1, angle: [[1, 'x']] }, 'angle.0.1', /is not a number/, /a number/],
  ])('%j', (value, path, message, hint) => {
    const error = refused(value);
    expect(error.path).toBe(path);
    expect(error.message).toMatch(message);
    expect(error.hint).toMatch(hint);
  });
});
