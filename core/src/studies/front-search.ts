import { randomNumbers } from '../simulation';
import type { AskWorth } from './covariance-search';
import { evenPoints } from './quasi-random';
import { dominates, type Worth } from './ranked';

interface Member {
  place: number[];
  worth: Worth;
  rank: number;
  crowding: number;
}

export interface FrontOptions {
  /** Tries at most. */ budget: number;
  seed: number;
  /** Where it also begins. */ start: number[];
  population?: number;
  tell?: (done: number) => void;
}

/** Indices of distribution of crossing and mutation, and how often two are crossed. */
const CROSSING = 15;
const MUTATION = 20;
const CROSSED = 0.9;
/** Share of mutations that go anywhere: our own. */
const JUMPS = 0.1;

/** Ranks of members by dominance: those that none dominates are of rank 0. */
function ranked(members: Member[]): Member[][] {
  const beaten = members.map(() => 0);
  const beats: number[][] = members.map(() => []);
  for (let i = 0; i < members.length; i++)
    for (let j = i + 1; j < members.length; j++) {
      if (dominates(members[i].worth, members[j].worth)) {
        beats[i].push(j);
        beaten[j]++;
      } else if (dominates(members[j].worth, members[i].worth)) {
        beats[j].push(i);
        beaten[i]++;
      }
    }
  const fronts: Member[][] = [];
  let now = members.map((_, i) => i).filter((i) => beaten[i] === 0);
  while (now.length > 0) {
    fronts.push(now.map((i) => members[i]));
    now.forEach((i) => (members[i].rank = fronts.length - 1));
    const next: number[] = [];
    for (const i of now) for (const j of beats[i]) if (--beaten[j] === 0) next.push(j);
    now = next;
  }
  return fronts;
}

const same = (a: Worth, b: Worth) => a.miss === b.miss && a.aims.every((v, k) => v === b.aims[k]);

/** How far the neighbours of each member of a front are, in its aims. */
function crowd(front: Member[]): void {
  front.forEach((m) => (m.crowding = 0));
  const aims = front[0]?.worth.aims.length ?? 0;
  for (let k = 0; k < aims; k++) {
    const sorted = [...front].sort((a, b) => a.worth.aims[k] - b.worth.aims[k]);
    const range = sorted[sorted.length - 1].worth.aims[k] - sorted[0].worth.aims[k];
    sorted[0].crowding = sorted[sorted.length - 1].crowding = Infinity;
    if (!(range > 0)) continue;
    for (let i = 1; i + 1 < sorted.length; i++)
      sorted[i].crowding += (sorted[i + 1].worth.aims[k] - sorted[i - 1].worth.aims[k]) / range;
  }
}

/**
 * Places of the unit cube that no other one tried beats in all aims, under what must be held: evolution by non-dominated sorting.
 * @source IEEE Trans. Evol. Comput. 6(2), 2002, 182–197: sorting, crowding, simulated binary crossing and polynomial mutation.
 */
export async function frontSearch(
  ask: AskWorth,
  { budget, seed, start, population = 100, tell }: FrontOptions,
): Promise<{ place: number[]; worth: Worth }[]> {
  const n = start.length;
  const size = Math.max(4, Math.min(population, budget) & ~1);
  const random = randomNumbers(seed);
  // The population holds few; what no try has beaten so far is the front.
  let front: { place: number[]; worth: Worth }[] = [];
  const made = async (places: number[][]): Promise<Member[]> => {
    const worths = await ask(places);
    return places.map((place, i) => {
      const worth = worths[i];
      if (worth.miss < Infinity && !front.some((m) => dominates(m.worth, worth) || same(m.worth, worth))) {
        front = front.filter((m) => !dominates(worth, m.worth));
        front.push({ place, worth });
      }
      return { place, worth, rank: 0, crowding: 0 };
    });
  };
  let members = await made([start, ...evenPoints(size - 1, n, seed)]);
  let tries = size;
  ranked(members).forEach(crowd);
  const pick = (): Member => {
    const [a, b] = [0, 1].map(() => members[Math.floor(random.uniform() * members.length)]);
    if (a.rank !== b.rank) return a.rank < b.rank ? a : b;
    return a.crowding >= b.crowding ? a : b;
  };
  const within = (v: number) => Math.min(1, Math.max(0, v));
  function crossed(a: number[], b: number[]): [number[], number[]] {
    const [c, d] = [[...a], [...b]];
    if (random.uniform() > CROSSED) return [c, d];
    for (let i = 0; i < n; i++) {
      if (random.uniform() > 0.5 || Math.abs(a[i] - b[i]) < 1e-14) continue;
      const u = random.uniform();
      const k = u <= 0.5 ? (2 * u) ** (1 / (CROSSING + 1)) : (1 / (2 * (1 - u))) ** (1 / (CROSSING + 1));
      c[i] = within(0.5 * ((1 + k) * a[i] + (1 - k) * b[i]));
      d[i] = within(0.5 * ((1 - k) * a[i] + (1 + k) * b[i]));
    }
    return [c, d];
  }
  const mutated = (p: number[]): number[] =>
    p.map((v) => {
      if (random.uniform() > 1 / n) return v;
      // A part of the front that was lost is found again by a jump.
      if (random.uniform() < JUMPS) return random.uniform();
      const u = random.uniform();
      const k = u < 0.5 ? (2 * u) ** (1 / (MUTATION + 1)) - 1 : 1 - (2 * (1 - u)) ** (1 / (MUTATION + 1));
      return within(v + k);
    });
  while (tries + size <= budget) {
    const places: number[][] = [];
    while (places.length < size) places.push(...crossed(pick().place, pick().place).map(mutated));
    const all = [...members, ...(await made(places))];
    tries += size;
    const kept: Member[] = [];
    for (const equal of ranked(all)) {
      crowd(equal);
      if (kept.length + equal.length <= size) kept.push(...equal);
      else kept.push(...equal.sort((a, b) => b.crowding - a.crowding).slice(0, size - kept.length));
      if (kept.length >= size) break;
    }
    members = kept;
    tell?.(tries);
  }
  return front.sort((a, b) => a.worth.aims[0] - b.worth.aims[0]);
}
