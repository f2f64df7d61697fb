import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { FailedComputation } from '../numerics';
import type { LinearSystem } from './matrices';

/** A mode of motion: one real eigenvalue, or a pair of which the upper one is given. */
export interface Mode {
  name: string;
  /** 1/s */ re: number;
  /** rad/s, 0 or more. */ im: number;
  /** Of the oscillation as it is seen, Hz; 0 of one that does not swing. */ frequencyHz: number;
  /** −re over the size of the eigenvalue: 1 of one that dies out without swinging, negative of one that grows. */ dampingRatio: number;
  /** s */ timeToHalf?: number;
  timeToDouble?: number;
  period?: number;
  /** Eigenvector: size and phase (rad) of each state, the greatest as 1. */
  shape: { state: string; size: number; phase: number }[];
}

interface Root {
  re: number;
  im: number;
  vector: { re: number; im: number }[];
}

/** Parts of an eigenvalue that are rounding. */
const ROUNDING = 1e-12;

/** Eigenvalues with their vectors, those of pairs once. @throws FailedComputation `modes` for a matrix without finite numbers. */
export function rootsOf(A: readonly (readonly number[])[]): Root[] {
  if (!A.flat().every(Number.isFinite))
    throw new FailedComputation(
      'modes',
      'The matrix of motion holds numbers that are not finite.',
      'Check mass, inertia and derivatives.',
    );
  const e = new EigenvalueDecomposition(new Matrix(A.map((row) => [...row])));
  const size = Math.max(1e-300, ...A.flat().map(Math.abs));
  const vectors = e.eigenvectorMatrix;
  const out: Root[] = [];
  const column = (k: number) => A.map((_, i) => vectors.get(i, k));
  for (let k = 0; k < A.length; k++) {
    const re = e.realEigenvalues[k];
    const im = Math.abs(e.imaginaryEigenvalues[k]) < ROUNDING * size ? 0 : e.imaginaryEigenvalues[k];
    if (im === 0) out.push({ re, im: 0, vector: column(k).map((v) => ({ re: v, im: 0 })) });
    else {
      // Columns of a pair are the real and the imaginary part of its vector; the upper eigenvalue comes first.
      const [a, b] = [column(k), column(k + 1)];
      const way = im > 0 ? 1 : -1;
      out.push({ re, im: Math.abs(im), vector: a.map((v, i) => ({ re: v, im: way * b[i] })) });
      k++;
    }
  }
  return out;
}

const sizeOf = (r: Root) => Math.hypot(r.re, r.im);
/** How much of an eigenvector is in some states, against others; velocities count as angles at the speed. */
const content = (r: Root, scale: readonly number[], own: readonly number[]) =>
  own.reduce((sum, i) => sum + Math.hypot(r.vector[i].re, r.vector[i].im) * scale[i], 0);

/** Names longitudinal roots: by their size, and by what moves where a pair has come apart. @param speed m/s. */
function nameLongitudinal(roots: Root[], speed: number): [string, Root][] {
  const pairs = roots.filter((r) => r.im > 0).sort((a, b) => sizeOf(b) - sizeOf(a));
  const reals = roots.filter((r) => r.im === 0).sort((a, b) => sizeOf(b) - sizeOf(a));
  if (pairs.length === 2)
    return [
      ['short period', pairs[0]],
      ['phugoid', pairs[1]],
    ];
  if (pairs.length === 1) {
    const scale = [1 / speed, 1 / speed, 0, 1];
    // A short period changes the angle of attack, a phugoid the speed.
    const short = content(pairs[0], scale, [1]) > content(pairs[0], scale, [0]);
    const [pair, rest] = short ? ['short period', 'phugoid'] : ['phugoid', 'short period'];
    return [[pair, pairs[0]], ...reals.map((r, i): [string, Root] => [`${rest}, real ${i + 1}`, r])];
  }
  return reals.map((r, i) => [`${i < 2 ? 'short period' : 'phugoid'}, real ${(i % 2) + 1}`, r]);
}

/** Names lateral roots. */
function nameLateral(roots: Root[]): [string, Root][] {
  const pairs = roots.filter((r) => r.im > 0).sort((a, b) => sizeOf(b) - sizeOf(a));
  const reals = roots.filter((r) => r.im === 0).sort((a, b) => sizeOf(b) - sizeOf(a));
  // Roll and spiral may merge into a slow oscillation.
  if (pairs.length === 2)
    return [
      ['Dutch roll', pairs[0]],
      ['lateral phugoid', pairs[1]],
    ];
  if (pairs.length === 1)
    return [
      ['roll', reals[0]],
      ['Dutch roll', pairs[0]],
      ['spiral', reals[1]],
    ];
  return reals.map((r, i) => [['roll', 'Dutch roll, real 1', 'Dutch roll, real 2', 'spiral'][i], r]);
}

/** A root as a mode. */
function modeOf(name: string, r: Root, states: readonly string[]): Mode {
  const greatest = Math.max(...r.vector.map((v) => Math.hypot(v.re, v.im)));
  const size = sizeOf(r);
  return {
    name,
    re: r.re,
    im: r.im,
    frequencyHz: r.im / (2 * Math.PI),
    dampingRatio: size > 0 ? -r.re / size : 0,
    ...(r.re < 0 ? { timeToHalf: Math.LN2 / -r.re } : {}),
    ...(r.re > 0 ? { timeToDouble: Math.LN2 / r.re } : {}),
    ...(r.im > 0 ? { period: (2 * Math.PI) / r.im } : {}),
    shape: states.map((state, i) => ({
      state,
      size: Math.hypot(r.vector[i].re, r.vector[i].im) / greatest,
      phase: Math.atan2(r.vector[i].im, r.vector[i].re),
    })),
  };
}

/**
 * A mode that swings by its name, or the two roots that it has come apart into as one, with a damping ratio of 1 or more: s² + 2ζω s + ω².
 * Undefined where there is none, or one of the two grows.
 */
export function pairedMode(modes: readonly Mode[], name: string): Mode | undefined {
  const swings = modes.find((m) => m.name === name);
  if (swings) return swings;
  const [a, b] = modes.filter((m) => m.name.startsWith(`${name}, real`));
  if (!a || !b || a.re >= 0 || b.re >= 0) return undefined;
  return { ...a, name, re: 0.5 * (a.re + b.re), im: 0, dampingRatio: -(a.re + b.re) / (2 * Math.sqrt(a.re * b.re)) };
}

/** The modes of longitudinal and lateral motion, named. @param speed of the steady flight, m/s. */
export function modesOf(longitudinal: LinearSystem, lateral: LinearSystem, speed: number): Mode[] {
  return [
    ...nameLongitudinal(rootsOf(longitudinal.A), speed).map(([n, r]) => modeOf(n, r, longitudinal.states)),
    ...nameLateral(rootsOf(lateral.A)).map(([n, r]) => modeOf(n, r, lateral.states)),
  ];
}
