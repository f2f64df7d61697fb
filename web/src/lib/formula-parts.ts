/** A stretch of a formula; `low` stands as an index. */
export interface FormulaPart {
  text: string;
  low: boolean;
}

const INDEX = /_(\p{L}+)|(?<![\p{L}])(d?C)(Di|[LDmlnY][αβpqr]?)(?![\p{Ll}])/gu;

/** A formula of the registry with its indices set apart: `x_np`, and the index of a coefficient such as CL or Cmα. */
export function formulaParts(formula: string): FormulaPart[] {
  const parts: FormulaPart[] = [];
  let at = 0;
  for (const m of formula.matchAll(INDEX)) {
    const [all, index, letter, of] = m;
    parts.push({ text: formula.slice(at, m.index) + (letter ?? ''), low: false }, { text: index ?? of, low: true });
    at = m.index + all.length;
  }
  parts.push({ text: formula.slice(at), low: false });
  return parts.filter((p) => p.text !== '');
}
