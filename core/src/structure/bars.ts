/** Terms of the series; each is below the last by its order cubed and more. */
const TERMS = 25;

/**
 * Torsion of a solid rectangle: its constant J (m⁴), and the greatest shear stress over the torque (1/m³), in the middle of its long side.
 * @source the classical series of the torsion of prisms, NACA TR-334, 1930: J = a b³/3 (1 − 192 b/(π⁵ a) Σ tanh(n π a/2b)/n⁵), n odd.
 */
export function rectangleTorsion(width: number, height: number): { J: number; stress: number } {
  const [a, b] = [Math.max(width, height), Math.min(width, height)];
  let [sum, peak] = [0, 0];
  for (let n = 1; n <= 2 * TERMS; n += 2) {
    const k = (n * Math.PI * a) / (2 * b);
    sum += Math.tanh(k) / n ** 5;
    peak += 1 / (n * n * Math.cosh(Math.min(k, 700)));
  }
  const J = ((a * b ** 3) / 3) * (1 - ((192 * b) / (Math.PI ** 5 * a)) * sum);
  return { J, stress: (b / J) * (1 - (8 / Math.PI ** 2) * peak) };
}

/** A round tube: area (m²), second moment of area (m⁴, twice as much in torsion), and the greatest shear stress over a shear force (1/m²). */
export function tube(diameter: number, wall: number): { area: number; I: number; stress: number } {
  const [R, r] = [0.5 * diameter, Math.max(0, 0.5 * diameter - wall)];
  const area = Math.PI * (R * R - r * r);
  const I = 0.25 * Math.PI * (R ** 4 - r ** 4);
  // First moment of the half over I and both walls; (4/3)/A of the solid round.
  return { area, I, stress: (2 / 3) * ((R ** 3 - r ** 3) / (I * 2 * (R - r))) };
}
