/** What a try is worth to a search: how far it misses what must be held, and its aims, all to be made small. */
export interface Worth {
  /** Sum of misses, each over the size of its band; Infinity for a try that failed. */ miss: number;
  aims: number[];
}

/** Whether the first is better: what holds before what misses; of those that miss, the nearer; of those that hold, the lesser aim. */
export function better(a: Worth, b: Worth): boolean {
  if (a.miss !== b.miss) return a.miss < b.miss;
  return a.aims[0] < b.aims[0];
}

/** Whether the first is no worse in any aim, and better in one. @source constrained dominance: IEEE Trans. Evol. Comput. 6(2), 2002, 182–197. */
export function dominates(a: Worth, b: Worth): boolean {
  if (a.miss !== b.miss) return a.miss < b.miss;
  if (a.miss === Infinity) return false;
  let less = false;
  for (let k = 0; k < a.aims.length; k++) {
    if (a.aims[k] > b.aims[k]) return false;
    if (a.aims[k] < b.aims[k]) less = true;
  }
  return less;
}
