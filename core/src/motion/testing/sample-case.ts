import { motionCase, type MotionCase } from '../derivatives';

/** An aircraft of 24 kg at 26 m/s for tests, made up. @param derivatives beside those of its lift and pitch. */
export const sampleCase = (derivatives: object = {}): MotionCase =>
  motionCase.parse({
    mass: 24,
    Ixx: 6.1,
    Iyy: 3.4,
    Izz: 9.2,
    area: 1.56,
    chord: 0.33,
    span: 4.8,
    speed: 26,
    density: 1.156,
    CL: 0.386,
    CD: 0.031,
    derivatives: {
      CL_alpha: 5.6,
      CD_alpha: 0.2,
      Cm_alpha: -0.75,
      CL_q: 6,
      Cm_q: -14,
      controls: { Elevator: { CL: 0.4, Cm: -1.1 } },
      ...derivatives,
    },
  });
