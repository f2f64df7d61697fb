import Papa from 'papaparse';
import { plainCell } from '../spreadsheet';
import { InvalidInput } from '../numerics';
import { controlName, controlOf, CONTROL_COEFFICIENTS, DERIVATIVE_NAMES, type NamedDerivatives } from './named';

const HINT = `Give JSON with derivatives, or lines "name,value" with names such as ${DERIVATIVE_NAMES.slice(0, 3).join(', ')}; per rad, stability axes, rates with b/2V and c/2V.`;
const refuse = (message: string): never => {
  throw new InvalidInput('derivatives', message, HINT);
};
/** Names as they are written elsewhere: without regard to case, underscores and blanks. */
const plain = (name: string) =>
  name
    .toLowerCase()
    .replace(/[\s_-]/g, '')
    .replace('adot', 'alphadot')
    .replace('alphalphadot', 'alphadot');
/** C_l of rolling and C_L of lifting differ in their case alone. */
const LIFT = DERIVATIVE_NAMES.filter((n) => n.startsWith('CL_'));
const ROLL = DERIVATIVE_NAMES.filter((n) => n.startsWith('Cl_'));
function nameOf(written: string): string | null {
  const exact = DERIVATIVE_NAMES.find((n) => n === written.trim());
  if (exact) return exact;
  if (controlOf(written.trim())) return written.trim();
  const key = plain(written.trim());
  const among = /^\s*C_?L/.test(written)
    ? LIFT
    : /^\s*C_?l/.test(written)
      ? ROLL
      : DERIVATIVE_NAMES.filter((n) => !/^C[Ll]_/.test(n));
  return among.find((n) => plain(n) === key) ?? null;
}

/**
 * Reads derivatives that were measured or computed elsewhere: JSON with `derivatives` (as `vw motion` prints and reads them) or of the names alone, or
 * a table of names and numbers. @returns those that are there. @throws InvalidInput `derivatives`.
 */
export function readDerivatives(text: string): NamedDerivatives {
  if (text.length > 1_000_000) refuse('The file is longer than a million characters.');
  const trimmed = text.replace(/^\uFEFF/, '').trim();
  if (trimmed === '') refuse('The file is empty.');
  const pairs = trimmed.startsWith('{') ? fromJson(trimmed) : fromTable(trimmed);
  const out: NamedDerivatives = {};
  const strange: string[] = [];
  for (const [written, raw] of pairs) {
    const name = nameOf(written);
    if (!name) {
      strange.push(written);
      continue;
    }
    const value = typeof raw === 'number' ? raw : Number(String(raw).trim().replace('−', '-') || NaN);
    if (!Number.isFinite(value)) refuse(`${name} is "${String(raw)}", which is no number.`);
    if (name in out && out[name] !== value) refuse(`${name} is given twice.`);
    out[name] = value;
  }
  if (Object.keys(out).length === 0)
    refuse(
      `The file holds no derivative that is known${strange.length ? `; ${strange.slice(0, 5).join(', ')} are not` : ''}.`,
    );
  return out;
}

function fromJson(text: string): [string, unknown][] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return refuse(`The file is no JSON: ${(error as Error).message}.`);
  }
  const { derivatives } = value as { derivatives?: unknown };
  const of = typeof derivatives === 'object' && derivatives !== null ? derivatives : (value as object);
  const { controls } = of as { controls?: unknown };
  // Of a whole set: what each control does.
  const nested = Object.entries(typeof controls === 'object' && controls !== null ? controls : {}).flatMap(
    ([control, effects]) =>
      CONTROL_COEFFICIENTS.flatMap((k): [string, unknown][] => {
        const found = (effects as Record<string, unknown> | null)?.[k];
        return found === undefined ? [] : [[controlName(control, k), found]];
      }),
  );
  return [...Object.entries(of), ...nested].filter(([, v]) => typeof v === 'number' || typeof v === 'string');
}

function fromTable(text: string): [string, unknown][] {
  const { data } = Papa.parse<string[]>(text, {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t', '='],
    transform: plainCell,
  });
  const rows = data.length && data[0].length > 1 ? data : text.split('\n').map((l) => l.trim().split(/\s+/));
  // A first row without a number names the columns.
  return rows
    .filter(
      (r) => r.length > 1 && !(r === rows[0] && !Number.isFinite(Number(r[1].replace('−', '-'))) && !nameOf(r[0])),
    )
    .map((r) => [r[0], r[1]]);
}
