import { RAD } from '../numerics';
import { applyChanges, checkReferences, freshProject, indexOf, resolvedSource, sectionPart } from '../project';
import { checkOutline } from '../section';
import { asSolved, ViscousSection } from '../section-flow';
import { sourceFacts, sourceOutline } from '../shaping';
import figures from './figures.json';
import { ownStarterSections, starterLibrary } from '.';

const library = starterLibrary();
const document = applyChanges(
  freshProject(),
  library.map((value) => ({ part: `section:${value.id}`, value })),
);

describe('the starter library', () => {
  it('has more than sixty sections of every kind, each with a note and a name of its own', () => {
    expect(library.length).toBeGreaterThanOrEqual(60);
    expect(new Set(library.map((s) => s.id)).size).toBe(library.length);
    expect(new Set(library.map((s) => s.name)).size).toBe(library.length);
    for (const tag of [
      'four digits',
      'five digits',
      'modified four digits',
      '16-series',
      'low Reynolds number',
      'tailless',
      'tail',
    ])
      expect(library.filter((s) => s.tags.includes(tag)).length).toBeGreaterThanOrEqual(5);
    for (const s of library) {
      expect(sectionPart.parse(s)).toEqual(s);
      expect(s.note.length).toBeGreaterThan(20);
    }
    expect(() =>
      checkReferences(
        indexOf(document),
        library.map((s) => `section:${s.id}`),
      ),
    ).not.toThrow();
  });
  it('can all be computed', () => {
    for (const s of library)
      expect(() => checkOutline(sourceOutline(resolvedSource(document.sections, s.id)))).not.toThrow();
  });
  it('has tailless sections with a tail turned up, and tails without camber', () => {
    for (const plan of ownStarterSections()) {
      const part = library.find((s) => s.name === plan.name)!;
      const facts = sourceFacts(resolvedSource(document.sections, part.id));
      if (plan.tags.includes('symmetric')) expect(Math.abs(facts.camber.max)).toBeLessThan(1e-6);
      const own = (figures as Record<string, { cmBest: number; clMax: number; cdLeast: number }>)[plan.name];
      if (plan.tags.includes('tailless')) expect(Math.abs(own.cmBest)).toBeLessThan(0.012);
      expect(own.clMax).toBeGreaterThan(0.6);
      expect(own.cdLeast).toBeLessThan(0.012);
    }
  });
  it('says what the solver says', () => {
    const kite = resolvedSource(document.sections, 'kite-10-18');
    const point = asSolved(new ViscousSection(sourceOutline(kite, 241)).at(4 * RAD, { reynolds: 400_000 }));
    expect(point.status).toBe('solved');
    expect(Math.abs(point.cm)).toBeLessThan(0.02);
    expect(point.cd).toBeGreaterThan(figures['Kite 10-18'].cdLeast * 0.99);
    expect(point.cl / point.cd).toBeLessThan(figures['Kite 10-18'].bestRatio * 1.02);
  });
});
