import { evaluateCandidate, sectionLookup, withPlacedMass } from '../candidate';
import { layoutDocument, layoutOf, startingLayout } from '../layouts';
import type { BriefPart, CandidatePart, ProjectDocument } from '../project';
import { findingsOf, nextStep, nextStepWords, quantityOf, type Finding } from '.';

const plan = layoutOf('tailed');
const numbers = { mass: 12, speed: 22, altitude: 300, spanLimit: null, push: 900 };
const document: ProjectDocument = layoutDocument(plan, numbers, startingLayout(plan, numbers));
const lookup = sectionLookup(document.sections);
const whole = document.candidates.a;
const stepOf = (candidate: CandidatePart, brief: BriefPart = document.brief, more: { paused?: number } = {}) => {
  const evaluation = evaluateCandidate(brief, candidate, lookup);
  const findings = findingsOf(brief, withPlacedMass(candidate, lookup), evaluation);
  const of = { sections: 2, brief, candidate, evaluation, findings, paused: 0, ...more };
  return { step: nextStep(of), evaluation };
};

describe('the next step', () => {
  it('is silent when all is well', () => {
    expect(stepOf(whole).step).toBeNull();
  });

  it('asks for sections, then a wing, then masses', () => {
    const { brief } = document;
    const empty = { brief, evaluation: null, findings: [], paused: 0, candidate: undefined };
    expect(nextStep({ ...empty, sections: 0 })).toEqual({ code: 'sections' });
    expect(nextStep({ ...empty, sections: 3 })).toEqual({ code: 'wing' });
    expect(nextStep({ ...empty, sections: 3, candidate: { ...whole, surfaces: [] } })).toEqual({ code: 'wing' });
    expect(stepOf({ ...whole, massItems: [] }).step).toEqual({ code: 'masses' });
  });

  it('places what the brief has beyond the items so that the margin is met', () => {
    const { min, max } = document.brief.bands.staticMargin;
    const wanted = (min! + max!) / 2;
    const without = { ...whole, massItems: whole.massItems.filter((m) => !/payload/i.test(m.name)) };
    const { step } = stepOf(without);
    if (step?.code !== 'payload') throw new Error(`not ${step?.code}`);
    expect(step.balances).toBe(true);
    const placed = { ...without, massItems: [...without.massItems, step.item] };
    const after = stepOf(placed);
    expect(after.evaluation.mass!.mass).toBeCloseTo(numbers.mass, 3);
    // The neutral point is that of the flight before, with less mass.
    expect(Math.abs(after.evaluation.balance!.staticMargin - wanted)).toBeLessThan(0.02);
    expect(after.step?.code).not.toBe('payload');
    expect(nextStepWords(step, 'metric').why).toMatch(/^\d+\.\d\d? kg of the brief’s mass is not placed$/);
    expect(nextStepWords(step, 'metric').does).toMatch(/^Place it at x = -?\d\.\d+ m$/);
  });

  it('puts nothing outside of the aircraft, and says that it does not balance', () => {
    const heavy = { id: 'ballast', name: 'Ballast', mass: 6, position: { x: 1.6, y: 0, z: 0 } };
    const { step } = stepOf({ ...whole, massItems: [heavy] }, { ...document.brief, mass: 6.5 });
    if (step?.code !== 'payload') throw new Error(`not ${step?.code}`);
    const nose = Math.min(...whole.bodies.map((b) => b.position.x));
    expect(step.item.position.x).toBeCloseTo(nose, 3);
    expect(step.balances).toBe(false);
    expect(nextStepWords(step, 'metric').why).toMatch(/no place balances it/);
  });

  it('never takes an id that is there', () => {
    const half = { ...whole.massItems[0], id: 'payload', mass: 1 };
    const { step } = stepOf({ ...whole, massItems: [half] });
    expect(step).toMatchObject({ code: 'payload', item: { id: 'payload-2' } });
  });

  it('moves the mass that goes the least way to the margin that is meant', () => {
    const { min, max } = document.brief.bands.staticMargin;
    const aft = whole.massItems.map((m) =>
      m.part ? m : { ...m, position: { ...m.position, x: m.position.x + 0.06 } },
    );
    const { step } = stepOf({ ...whole, massItems: aft });
    if (step?.code !== 'move-mass') throw new Error(`not ${step?.code}`);
    const moved = aft.map((m) => (m.id === step.item.id ? { ...m, position: { ...m.position, x: step.x } } : m));
    const after = stepOf({ ...whole, massItems: moved });
    expect(Math.abs(after.evaluation.balance!.staticMargin - (min! + max!) / 2)).toBeLessThan(0.02);
    expect(after.step).toBeNull();
    expect(nextStepWords(step, 'metric').does).toMatch(/^Move .+ to x = -?\d\.\d+ m$/);
  });

  it('leads to what changes the margin where no mass can be moved that far', () => {
    const wing = whole.surfaces.find((s) => s.role === 'wing')!;
    const ballast = { id: 'ballast', name: 'Ballast', mass: 12, position: { x: 1.2, y: 0, z: 0 }, part: wing.id };
    const { step } = stepOf(
      { ...whole, massItems: [ballast] },
      { ...document.brief, bands: { ...document.brief.bands, staticMargin: { min: 0.4, max: 0.5 } } },
    );
    expect(step).toMatchObject({ code: 'improve', quantity: expect.stringMatching(/static-margin|trim-angle/) });
  });

  it('offers to solve where a finding can be solved, and leaves wishes alone', () => {
    const bands = { ...document.brief.bands, trimAngleDeg: { min: 8, max: 9 } };
    expect(stepOf(whole, { ...document.brief, bands }).step).toMatchObject({ code: 'solve' });
    const wish = {
      code: 'requirement',
      id: 'requirement-x',
      state: 'outside',
      facts: { name: 'x', value: null, weight: 'wish' },
      evidence: { area: 'balance' },
    } as Finding;
    const { evaluation } = stepOf(whole);
    const of = { sections: 1, brief: document.brief, candidate: whole, evaluation, paused: 0 };
    expect(nextStep({ ...of, findings: [wish] })).toBeNull();
    const must = { ...wish, facts: { ...wish.facts, weight: 'must' } } as Finding;
    expect(nextStep({ ...of, findings: [must] })).toMatchObject({ code: 'see' });
  });

  it('comes to paused polars and doubts last', () => {
    expect(stepOf(whole, document.brief, { paused: 2 }).step).toEqual({ code: 'resume-polars', runs: 2 });
  });

  it('names the quantity of a finding only where studies can tell', () => {
    const margin = { code: 'static-margin', id: 'static-margin', evidence: { area: 'balance' } } as Finding;
    expect(quantityOf(margin)).toBe('static-margin');
    expect(quantityOf({ ...margin, id: 'nothing' } as Finding)).toBeNull();
  });
});
