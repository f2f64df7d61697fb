import { controlDerivatives, derivativeSet, type DerivativeSet } from './derivatives';

/** Names of the derivatives that have one number. */
export const DERIVATIVE_NAMES = Object.keys(derivativeSet.shape).filter((k) => k !== 'controls');
/** Coefficients that a control changes. */
export const CONTROL_COEFFICIENTS = Object.keys(controlDerivatives.shape) as (keyof typeof controlDerivatives.shape)[];
/** Numbers by the derivative's name; those of a control are called `controls.NAME.Cm`. */
export type NamedDerivatives = Record<string, number>;

const PREFIX = 'controls.';

/** The control and the coefficient that a name tells; null for a derivative that is no control's. Names of controls may hold points. */
export function controlOf(
  name: string,
): { control: string; coefficient: (typeof CONTROL_COEFFICIENTS)[number] } | null {
  const end = name.lastIndexOf('.');
  if (!name.startsWith(PREFIX) || end <= PREFIX.length) return null;
  const coefficient = CONTROL_COEFFICIENTS.find((k) => k === name.slice(end + 1));
  return coefficient ? { control: name.slice(PREFIX.length, end), coefficient } : null;
}

/** The name of what a control does. */
export const controlName = (control: string, coefficient: string): string => `${PREFIX}${control}.${coefficient}`;

/** Whether a name is one of a derivative. */
export const isDerivative = (name: string): boolean => DERIVATIVE_NAMES.includes(name) || controlOf(name) !== null;

/** A derivative of a set by its name; nothing for one that it does not hold. */
export function derivativeOf(set: DerivativeSet, name: string): number | undefined {
  const of = controlOf(name);
  return of ? set.controls[of.control]?.[of.coefficient] : (set as unknown as NamedDerivatives)[name];
}

/** A set with some derivatives replaced. Those of controls that it does not have are left out. */
export function withDerivatives(set: DerivativeSet, named: Readonly<Partial<NamedDerivatives>>): DerivativeSet {
  const out: Record<string, unknown> & { controls: DerivativeSet['controls'] } = {
    ...set,
    controls: { ...set.controls },
  };
  for (const [name, value] of Object.entries(named)) {
    if (value === undefined) continue;
    const of = controlOf(name);
    if (!of) out[name] = value;
    else if (Object.hasOwn(out.controls, of.control))
      out.controls[of.control] = { ...out.controls[of.control], [of.coefficient]: value };
  }
  return out as unknown as DerivativeSet;
}
