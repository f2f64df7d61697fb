import { FailedComputation, InvalidInput, rootBetween } from '../numerics';

/** A propeller by its blades; m, rad. */
export interface Propeller {
  /** m */ diameter: number;
  blades: number;
  /** Where the blades begin, as a share of the radius. */ hub: number;
  /** From hub to tip: share of the radius, chord as a share of it, and blade angle, rad. */
  stations: { r: number; chord: number; angle: number }[];
  /** Lift and drag of the blade's section at an angle of attack, rad, and a Reynolds number. */
  section: (alpha: number, reynolds: number, r: number) => { cl: number; cd: number };
}

/** A section of a blade by a few figures: straight lift that ends at a greatest one, drag that grows with the lift and past the stall. */
export interface BladeSection {
  /** rad */ zeroLift: number;
  /** Per rad. */ slope: number;
  clMax: number;
  cdMin: number;
  /** Of the drag with the square of the lift above that of the least drag. */ cdGrowth: number;
  clOfLeastDrag: number;
}

/**
 * Lift and drag of such a section at any angle: attached up to its greatest lift, and a flat plate's far past it.
 * @source of the plate: Hoerner, Fluid-Dynamic Drag, 1965, chapter 3 (normal force 1.98 at 90° of an endless plate, here 2 sin α).
 */
export function bladeSection(s: BladeSection): Propeller['section'] {
  const least = s.zeroLift - (0.7 * s.clMax) / s.slope;
  const most = s.zeroLift + s.clMax / s.slope;
  return (alpha) => {
    const straight = s.slope * (alpha - s.zeroLift);
    const over = alpha > most ? alpha - most : alpha < least ? least - alpha : 0;
    const attached = {
      cl: Math.max(-0.7 * s.clMax, Math.min(s.clMax, straight)),
      cd: s.cdMin + s.cdGrowth * (Math.max(-0.7 * s.clMax, Math.min(s.clMax, straight)) - s.clOfLeastDrag) ** 2,
    };
    if (over === 0) return attached;
    // Within 12° the plate has taken over.
    const share = Math.min(1, over / 0.21);
    const [sin, cos] = [Math.sin(alpha), Math.cos(alpha)];
    return {
      cl: (1 - share) * attached.cl + share * 2 * sin * cos,
      cd: (1 - share) * attached.cd + share * Math.max(attached.cd, 2 * sin * sin),
    };
  };
}

/** What a propeller does at an advance ratio J = V/(nD). */
export interface PropellerPoint {
  J: number;
  /** Thrust over ρ n² D⁴. */ CT: number;
  /** Power over ρ n³ D⁵. */ CP: number;
  /** In-plane force per rad of the stream's angle to the axis, over ρ n² D⁴. */ CN: number;
}

/** Annuli of a blade. */
const ANNULI = 24;
const SCAN = 60;
/** Angles of inflow that a balance is looked for between, rad. */
const INFLOW = { least: 1e-4, greatest: Math.PI / 2 - 1e-3 };

/**
 * Thrust, power and in-plane force of a propeller by blade elements and momentum, with the loss at tip and hub.
 *
 * In each annulus, with φ the angle of inflow, W sin φ = V + w and W cos φ = ωr − w′, momentum and blades balance where
 *   V/(ωr) = (sin φ − σ cₙ/(4F sin φ)) / (cos φ + σ cₜ/(4F sin φ)),
 * which holds at rest too.
 * @param rps revolutions a second. @param kinematic viscosity, m²/s.
 * @throws InvalidInput `propeller` for a shape that is none; FailedComputation `propeller` where an annulus finds no balance.
 * @source Glauert, in Durand, Aerodynamic Theory IV, 1935, division L; loss at the tip: Prandtl, 1919; one unknown: Wind Energy 17(9), 2014, 1327–1345. In-plane
 *   force: what the blades' tangential force changes by when the stream comes from the side, inflow held; NACA TR-819, 1945.
 */
export function propellerAt(p: Propeller, J: number, rps: number, kinematic = 1.46e-5): PropellerPoint {
  checkPropeller(p);
  const R = 0.5 * p.diameter;
  const omega = 2 * Math.PI * rps;
  const V = J * rps * p.diameter;
  let [thrust, torque, side] = [0, 0, 0];
  const width = (1 - p.hub) / ANNULI;
  for (let k = 0; k < ANNULI; k++) {
    const share = p.hub + (k + 0.5) * width;
    const r = share * R;
    const { chord, angle } = bladeAt(p, share);
    const c = chord * R;
    const solidity = (p.blades * c) / (2 * Math.PI * r);
    const forces = (phi: number) => {
      const [sin, cos] = [Math.sin(phi), Math.cos(phi)];
      const speed = (omega * r) / Math.max(0.2, cos);
      const { cl, cd } = p.section(angle - phi, (speed * c) / kinematic, share);
      const [cn, ct] = [cl * cos - cd * sin, cl * sin + cd * cos];
      const loss = (edge: number) =>
        (2 / Math.PI) * Math.acos(Math.min(1, Math.exp((-p.blades * edge) / (2 * r * Math.max(1e-6, sin)))));
      const F = Math.max(1e-3, loss(R - r) * loss(r - 0.98 * p.hub * R));
      const k4 = solidity / (4 * F * sin);
      return { cn, ct, axial: sin - k4 * cn, round: cos + k4 * ct };
    };
    const miss = (phi: number) => {
      const { axial, round } = forces(phi);
      return axial - (V / (omega * r)) * round;
    };
    const phi = balance(miss);
    if (phi === null)
      throw new FailedComputation(
        'propeller',
        `The blades find no balance with the air at ${(100 * share).toFixed(0)} % of the radius and J ${J.toPrecision(3)}.`,
        'Look at blade angles and chords there.',
      );
    const { cn, ct, round } = forces(phi);
    const W = (omega * r) / round;
    const dr = width * R;
    const q = 0.5 * p.blades * c * dr;
    thrust += q * W * W * cn;
    torque += q * W * W * ct * r;
    // The tangential force of a blade, f = W² ct, for a tangential speed that is a little more; half of it stays over a turn.
    const h = 1e-3 * W;
    const f = (u: number) => {
      const [va, vt] = [W * Math.sin(phi), W * Math.cos(phi) + u];
      const at = Math.atan2(va, vt);
      const { cl, cd } = p.section(angle - at, (W * c) / kinematic, share);
      return (va * va + vt * vt) * (cl * Math.sin(at) + cd * Math.cos(at));
    };
    side += 0.5 * q * ((f(h) - f(-h)) / (2 * h)) * V;
  }
  const scale = rps * rps * p.diameter ** 4;
  return { J, CT: thrust / scale, CP: (2 * Math.PI * torque) / (scale * p.diameter), CN: side / scale };
}

/** The angle of inflow at which blades and air balance: the least above which the miss changes its sign from below. */
function balance(miss: (phi: number) => number): number | null {
  let [a, fa] = [INFLOW.least, miss(INFLOW.least)];
  for (let i = 1; i <= SCAN; i++) {
    const b = INFLOW.least + ((INFLOW.greatest - INFLOW.least) * i) / SCAN;
    const fb = miss(b);
    if (fa < 0 && fb >= 0) return rootBetween(miss, a, b, 1e-13);
    [a, fa] = [b, fb];
  }
  return null;
}

function bladeAt(p: Propeller, share: number): { chord: number; angle: number } {
  const { stations: s } = p;
  let i = 0;
  while (i < s.length - 2 && share > s[i + 1].r) i++;
  const t = Math.max(0, Math.min(1, (share - s[i].r) / (s[i + 1].r - s[i].r)));
  return {
    chord: s[i].chord + t * (s[i + 1].chord - s[i].chord),
    angle: s[i].angle + t * (s[i + 1].angle - s[i].angle),
  };
}

function checkPropeller(p: Propeller): void {
  const refuse = (what: string, hint: string): never => {
    throw new InvalidInput('propeller', `The propeller ${what}.`, hint, 'propeller');
  };
  if (!(p.diameter > 0)) refuse('has no diameter', 'Give one above 0 m.');
  if (!(Number.isInteger(p.blades) && p.blades >= 1 && p.blades <= 12))
    refuse(`has ${p.blades} blades`, 'Give 1 to 12.');
  if (!(p.hub >= 0.02 && p.hub < 0.9)) refuse(`has a hub of ${p.hub} of the radius`, 'Give 0.02 to 0.9.');
  if (p.stations.length < 2) refuse('has fewer than two stations', 'Give chord and angle at hub and tip at least.');
  p.stations.forEach((s, i) => {
    if (!(s.chord > 0) || !Number.isFinite(s.angle))
      refuse(`has no blade at station ${i + 1}`, 'Give a chord above 0.');
    if (i > 0 && !(s.r > p.stations[i - 1].r))
      refuse(`goes back at station ${i + 1}`, 'List stations from hub to tip.');
  });
}

/**
 * A blade of a nominal pitch: angles atan(pitch/(2πr)) from the zero lift, chord that tapers to the tip.
 * @param pitch way of a turn without slip, m. @param solidity area of the blades over that of the disc.
 */
export function pitchedPropeller(
  of: { diameter: number; pitch: number; blades: number; solidity: number; hub?: number },
  section: BladeSection,
): Propeller {
  const hub = of.hub ?? 0.15;
  const R = 0.5 * of.diameter;
  // Widest at a third, half of that at the tip.
  const shape = (r: number) => (r < 0.35 ? 0.8 + (0.2 * (r - hub)) / (0.35 - hub) : 1 - (0.5 * (r - 0.35)) / 0.65);
  const places = Array.from({ length: 9 }, (_, i) => hub + ((1 - hub) * i) / 8);
  let area = 0;
  for (let i = 1; i < places.length; i++)
    area += 0.5 * (shape(places[i]) + shape(places[i - 1])) * (places[i] - places[i - 1]);
  const chord = (of.solidity * Math.PI) / (of.blades * area);
  return {
    diameter: of.diameter,
    blades: of.blades,
    hub,
    stations: places.map((r) => ({
      r,
      chord: chord * shape(r),
      angle: Math.atan(of.pitch / (2 * Math.PI * r * R)) + section.zeroLift,
    })),
    section: bladeSection(section),
  };
}

/** What a propeller does from rest to where it brakes. @param rps that the Reynolds numbers belong to. */
export function propellerTable(p: Propeller, rps: number, step = 0.05, most = 3): PropellerPoint[] {
  const out: PropellerPoint[] = [];
  for (let J = 0; J <= most + 1e-9; J += step) {
    const point = propellerAt(p, Number(J.toFixed(6)), rps);
    out.push(point);
    // Two points past its last thrust end it.
    if (out.length > 2 && out[out.length - 3].CT < 0) break;
  }
  return out;
}
