import { seedsnipe } from '@veldtwind/demo/seedsnipe';
import {
  airframeMotion,
  asymmetry,
  controlNames,
  inputsOfMotion,
  inputsOfStrength,
  inputsOfZeroLiftDrag,
  sectionLookup,
  sectionsUsed,
  structureStrength,
  zeroLiftDrag,
} from '../candidate';
import { surveyLoops } from '../control';
import { keptMeanLine } from '../lift';
import { ASYMMETRY_QUANTITIES, LOOPS_QUANTITIES, quantityIn, STRENGTH_QUANTITIES } from '../quantities';
import { answersFor } from './answers';

const { document } = seedsnipe();
const { speed, altitude, assumptions } = document.brief;
const lookup = sectionLookup(document.sections);
const method = { polars: null, settings: assumptions.performance };
const IDS = [
  'drag.zeroLiftCoefficient',
  'control.leastGainMargin',
  'control.leastPhaseMargin',
  'structure.leastReserve',
  'structure.mass',
  'asymmetry.rollRate',
  'asymmetry.rollingMoment',
];
const subjectOf = (candidate: (typeof document.candidates)['a']) => ({
  candidate,
  sections: sectionsUsed(document.sections, candidate),
  flight: { speed, altitude },
});
const ask = (candidate: (typeof document.candidates)['a']) =>
  answersFor(
    subjectOf(candidate),
    lookup,
    IDS.map((id) => ({ id })),
    method,
  );

describe('answers about drag, loops, structure and asymmetry', () => {
  it('are those of the areas, to the last digit', async () => {
    const own = structuredClone(document.candidates.a);
    own.surfaces[0].structure = {
      spars: [
        {
          id: 'main',
          name: 'Main spar',
          kind: 'tube',
          material: 'carbon-rod',
          at: 0.35,
          from: 0,
          to: 1,
          width: 0.02,
          wall: 0.002,
        },
      ],
    };
    own.surfaces[0].asymmetry = { incidenceDeg: 0.4, mass: 0.05 };
    const built = { ...document, candidates: { ...document.candidates, a: own } };
    const { values, reasons } = await ask(own);
    const drag = await zeroLiftDrag.run(inputsOfZeroLiftDrag(built, 'a', null), {});
    expect(values[0]).toBe(drag.CD);
    const { candidate, ...flight } = inputsOfMotion(built, 'a', speed, undefined, null);
    const motion = airframeMotion(candidate, lookup, (key) => keptMeanLine(lookup(key)), flight);
    const loops = surveyLoops({ of: motion.case, scale: {}, settings: own.autopilot!, controls: controlNames(own) });
    expect(values[1]).toBeCloseTo(quantityIn(LOOPS_QUANTITIES, 'control.leastGainMargin').of(loops)!, 9);
    expect(values[2]).toBeCloseTo(quantityIn(LOOPS_QUANTITIES, 'control.leastPhaseMargin').of(loops)!, 9);
    const strength = await structureStrength.run(inputsOfStrength(built, 'a', null), {});
    expect(values[3]).toBe(quantityIn(STRENGTH_QUANTITIES, 'structure.leastReserve').of(strength));
    expect(values[4]).toBe(strength.surfaces[0].mass);
    const { now } = await asymmetry.run({ of: inputsOfMotion(built, 'a', speed, undefined, null), speeds: [] }, {});
    expect(values[5]).toBeCloseTo(quantityIn(ASYMMETRY_QUANTITIES, 'asymmetry.rollRate').of(now)!, 9);
    expect(values[6]).toBeCloseTo(now.rollMoment, 9);
    expect(now.rollMoment).not.toBe(0);
    expect(reasons).toEqual({});
  });
  it('say why there is none', async () => {
    const { autopilot: _, ...plain } = document.candidates.a;
    const { values, reasons } = await ask(plain as never);
    expect(values.slice(1)).toEqual([null, null, null, null, 0, 0]);
    expect(reasons['control.leastGainMargin']).toMatch(/no control loops/);
    expect(reasons['structure.mass']).toMatch(/what it is made of/);
  });
});
