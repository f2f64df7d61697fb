import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { randomNumbers } from '../simulation';
import { better, type Worth } from './ranked';

/** What a search asks about places of the unit cube, one generation at a time. */
export type AskWorth = (places: number[][]) => Promise<Worth[]>;

export interface CovarianceOptions {
  /** Tries at most. */ budget: number;
  seed: number;
  /** Where it begins, 0 to 1 each. */ start: number[];
  /** Spread of the first generation, as a share of the bounds. */ spread?: number;
  /** Told after each generation. */ tell?: (done: number) => void;
}

const SMALLEST = 1e-11;

/** A place in the unit cube: what lies outside is mirrored back. */
const mirrored = (v: number): number => {
  const w = Math.abs(v) % 2;
  return w > 1 ? 2 - w : w;
};

/**
 * The least aim in the unit cube under what must be held, by evolution whose covariance follows the successful steps.
 * @returns the best place that was tried, with its worth.
 * @source Hansen, arXiv:1604.00772, 2016: weighted recombination, cumulation, rank-one and rank-μ updates; restarts with a doubled population:
 *   IEEE Congress on Evolutionary Computation, 2005, 1769–1776.
 */
export async function covarianceSearch(
  ask: AskWorth,
  { budget, seed, start, spread = 0.25, tell }: CovarianceOptions,
): Promise<{ place: number[]; worth: Worth; tries: number }> {
  const n = start.length;
  const random = randomNumbers(seed);
  let best: { place: number[]; worth: Worth } = { place: [...start], worth: (await ask([start]))[0] };
  let tries = 1;
  let population = 4 + Math.floor(3 * Math.log(n));
  for (let run = 0; tries < budget; run++) {
    const from = run === 0 ? [...start] : run % 2 === 1 ? [...best.place] : start.map(() => random.uniform());
    const used = await evolve(from, population, budget - tries);
    tries += used;
    if (used === 0) break;
    population *= 2;
  }
  return { ...best, tries };

  async function evolve(from: number[], lambda: number, left: number): Promise<number> {
    const mu = Math.floor(lambda / 2);
    const raw = Array.from({ length: mu }, (_, i) => Math.log((lambda + 1) / 2) - Math.log(i + 1));
    const sum = raw.reduce((s, v) => s + v, 0);
    const w = raw.map((v) => v / sum);
    const muEff = 1 / w.reduce((s, v) => s + v * v, 0);
    const cc = (4 + muEff / n) / (n + 4 + (2 * muEff) / n);
    const cs = (muEff + 2) / (n + muEff + 5);
    const c1 = 2 / ((n + 1.3) ** 2 + muEff);
    const cmu = Math.min(1 - c1, (2 * (muEff - 2 + 1 / muEff)) / ((n + 2) ** 2 + muEff));
    const damp = 1 + 2 * Math.max(0, Math.sqrt((muEff - 1) / (n + 1)) - 1) + cs;
    const expected = Math.sqrt(n) * (1 - 1 / (4 * n) + 1 / (21 * n * n));
    let mean = [...from];
    let sigma = spread;
    let C = Matrix.eye(n);
    let B = Matrix.eye(n);
    let D = new Array<number>(n).fill(1);
    let [pc, ps] = [new Array<number>(n).fill(0), new Array<number>(n).fill(0)];
    let used = 0;
    let stuck = 0;
    let before = Infinity;
    for (let generation = 1; used + lambda <= left; generation++) {
      const steps = Array.from({ length: lambda }, () => {
        const z = Array.from({ length: n }, () => random.normal());
        return Array.from({ length: n }, (_, i) => {
          let s = 0;
          for (let k = 0; k < n; k++) s += B.get(i, k) * D[k] * z[k];
          return s;
        });
      });
      const places = steps.map((y) => y.map((v, i) => mirrored(mean[i] + sigma * v)));
      const worths = await ask(places);
      used += lambda;
      const order = worths
        .map((_, i) => i)
        .sort((a, b) => (better(worths[a], worths[b]) ? -1 : better(worths[b], worths[a]) ? 1 : a - b));
      const first = order[0];
      if (better(worths[first], best.worth)) best = { place: places[first], worth: worths[first] };
      tell?.(tries + used);
      // What was mirrored counts as the step to where it was tried.
      const took = places.map((p) => p.map((v, i) => (v - mean[i]) / sigma));
      const yw = Array.from({ length: n }, (_, i) => w.reduce((s, v, k) => s + v * took[order[k]][i], 0));
      mean = mean.map((v, i) => Math.min(1, Math.max(0, v + sigma * yw[i])));
      // C^(−1/2) yw = B D⁻¹ Bᵀ yw.
      const rotated = Array.from({ length: n }, (_, k) => yw.reduce((s, v, i) => s + B.get(i, k) * v, 0) / D[k]);
      const white = Array.from({ length: n }, (_, i) => rotated.reduce((s, v, k) => s + B.get(i, k) * v, 0));
      ps = ps.map((v, i) => (1 - cs) * v + Math.sqrt(cs * (2 - cs) * muEff) * white[i]);
      const size = Math.hypot(...ps);
      const moving = size / Math.sqrt(1 - (1 - cs) ** (2 * generation)) / expected < 1.4 + 2 / (n + 1) ? 1 : 0;
      pc = pc.map((v, i) => (1 - cc) * v + moving * Math.sqrt(cc * (2 - cc) * muEff) * yw[i]);
      const next = Matrix.zeros(n, n);
      for (let i = 0; i < n; i++)
        for (let j = 0; j <= i; j++) {
          let v = (1 - c1 - cmu) * C.get(i, j) + c1 * (pc[i] * pc[j] + (1 - moving) * cc * (2 - cc) * C.get(i, j));
          for (let k = 0; k < mu; k++) v += cmu * w[k] * took[order[k]][i] * took[order[k]][j];
          next.set(i, j, v);
          next.set(j, i, v);
        }
      C = next;
      sigma *= Math.exp((cs / damp) * (size / expected - 1));
      const e = new EigenvalueDecomposition(C, { assumeSymmetric: true });
      B = e.eigenvectorMatrix;
      D = e.realEigenvalues.map((v) => Math.sqrt(Math.max(v, 1e-20)));
      const reach = sigma * Math.max(...D);
      const here = worths[first].miss > 0 ? worths[first].miss : worths[first].aims[0];
      stuck = Math.abs(here - before) <= 1e-13 * Math.max(1e-30, Math.abs(here)) ? stuck + 1 : 0;
      before = here;
      if (reach < SMALLEST || stuck > 20 + 10 * n || !Number.isFinite(sigma) || sigma > 1e3) break;
    }
    return used;
  }
}
