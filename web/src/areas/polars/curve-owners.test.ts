import { CURVE_VERSION, type CurveInput } from '@veldtwind/core/polar';
import { designationSection, type SectionPart } from '@veldtwind/core/project';
import type { SectionSource } from '@veldtwind/core/shaping';
import { curveOwners } from './curve-owners';

const digits = (designation: string): SectionSource => ({ kind: 'designation', designation, trailingEdge: 'sharp' });
let id = 0;
const curve = (source: SectionSource, section: string | null, name = 'Karoo 14') => ({
  id: ++id,
  key: `key-${id}`,
  version: CURVE_VERSION,
  name,
  section,
  at: '2026-11-20T14:20:00Z',
  input: { source } as CurveInput,
});
const part = (key: string, designation: string, more: Partial<SectionPart> = {}): SectionPart => ({
  ...designationSection(key, key.toUpperCase(), designation),
  source: { kind: 'designation', designation, trailingEdge: 'sharp' },
  ...more,
});
const thin = { id: 's1', kind: 'set-thickness', to: 0.11 } as const;
const bent = { id: 's2', kind: 'set-camber', to: 0.03 } as const;
const recipe = (...steps: object[]) => ({ kind: 'recipe', source: digits('4415'), steps }) as SectionSource;

describe('whose a curve is', () => {
  const only = (c: ReturnType<typeof curve>, sections: SectionPart[]) =>
    curveOwners([c], Object.fromEntries(sections.map((s) => [s.id, s]))).get(c.id)!;

  it('is that of its section by its present name, whatever the run was called', () => {
    expect(only(curve(digits('4415'), 'k', 'Old name'), [part('k', '4415')])).toEqual({
      key: 'k',
      section: 'k',
      name: 'K',
      mark: '',
    });
  });
  it('of an earlier shape is marked, and comes back to life when the step goes', () => {
    const stepped = part('k', '4415', { steps: [thin, bent] });
    expect(only(curve(digits('4415'), 'k'), [stepped]).mark).toBe('before step 1');
    expect(only(curve(recipe(thin), 'k'), [stepped]).mark).toBe('before step 2');
    expect(only(curve(recipe(thin, bent), 'k'), [stepped]).mark).toBe('');
    expect(only(curve(recipe(bent), 'k'), [stepped]).mark).toMatch(/^as of /);
    expect(only(curve(recipe(bent), 'k'), [{ ...stepped, steps: [bent] }]).mark).toBe('');
    expect(only(curve(digits('4415'), 'k'), [{ ...stepped, steps: [] }]).mark).toBe('');
  });
  it('goes to another section that has the shape now, as a copy that was left as it was has', () => {
    const sections = [part('k', '4415', { steps: [thin] }), part('copy', '4415')];
    expect(only(curve(digits('4415'), 'k'), sections)).toMatchObject({ key: 'copy', mark: '' });
  });
  it('of a section that is gone says so; one that never was the project’s is as it was solved', () => {
    expect(only(curve(digits('4415'), 'k'), [])).toEqual({
      key: 'Karoo 14',
      section: null,
      name: 'Karoo 14',
      mark: 'section removed',
    });
    expect(only(curve(digits('4415'), null, 'naca:4415'), []).mark).toBe('');
    const broken = part('k', '4415', { source: { kind: 'mix', a: 'x', b: 'y', fraction: 0.5 } });
    expect(only(curve(digits('4415'), 'k'), [broken]).mark).toMatch(/^as of /);
  });
});
