import { factorise, solveFactorised } from '../numerics';

/** A straight wing for the lifting line: chord, and angle above zero lift at unit α = 0, as functions of the share of the half span. */
export interface LineWing {
  /** m */ span: number;
  chord: (share: number) => number;
  /** Geometric angle above the local zero-lift line at α = 0, rad. */
  angle: (share: number) => number;
  /** Section lift slope, per rad; 2π when absent. */
  slope?: number;
}

/** What lifting-line theory gives for one wing. */
export interface LineResult {
  CL: number;
  CDi: number;
  efficiency: number;
  /** Local lift coefficient at a share of the half span. */
  cl: (share: number) => number;
}

/**
 * Lifting line of a symmetric wing by a Fourier series of its circulation: the second way of computing what the lattice computes.
 * Γ = 2 b V Σ A_n sin nθ with odd n, collocated at the middles of equal steps of θ.
 * @param alpha angle of attack, rad. @param terms odd terms. @source Glauert, The Elements of Aerofoil and Airscrew Theory, 2nd ed., 1947, chapter 11.
 */
export function liftingLine(wing: LineWing, alpha: number, terms = 40): LineResult {
  const slope = wing.slope ?? 2 * Math.PI;
  const a = new Float64Array(terms * terms);
  const b = new Float64Array(terms);
  for (let i = 0; i < terms; i++) {
    const theta = ((i + 0.5) * Math.PI) / (2 * terms);
    const share = Math.cos(theta);
    const mu = (slope * wing.chord(share)) / (4 * wing.span);
    const sin = Math.sin(theta);
    for (let k = 0; k < terms; k++) {
      const n = 2 * k + 1;
      a[i * terms + k] = Math.sin(n * theta) * (sin + n * mu);
    }
    b[i] = mu * (alpha + wing.angle(share)) * sin;
  }
  const A = solveFactorised(factorise(a, terms), b);
  let area = 0;
  const steps = 2000;
  for (let i = 0; i < steps; i++) area += (wing.chord((i + 0.5) / steps) * wing.span) / steps;
  const aspect = (wing.span * wing.span) / area;
  let sum = 0;
  for (let k = 0; k < terms; k++) sum += (2 * k + 1) * A[k] * A[k];
  const CL = Math.PI * aspect * A[0];
  const CDi = Math.PI * aspect * sum;
  return {
    CL,
    CDi,
    efficiency: (CL * CL) / (Math.PI * aspect * CDi),
    cl: (share) => {
      const theta = Math.acos(Math.min(1, Math.abs(share)));
      let g = 0;
      for (let k = 0; k < terms; k++) g += A[k] * Math.sin((2 * k + 1) * theta);
      return (4 * wing.span * g) / wing.chord(share);
    },
  };
}
