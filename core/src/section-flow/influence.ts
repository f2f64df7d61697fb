/**
 * What a straight panel with a singularity of linear strength does at a point: stream function and velocity for unit strength at its
 * first and at its second end. In the panel's own axes, with u running along it from the foot of the point:
 *
 * ```
 *            ● (X, Y)
 *            │
 *   1 ●──────┴────────────● 2      u from −X to L − X
 * ```
 * Strengths: a vortex sheet of strength γ (clockwise positive) has ψ = (1/2π) ∫ γ ln r ds.
 * @source derived from the potential of a line singularity (Katz and Plotkin, Low-Speed Aerodynamics, 2nd ed., 2001, chapter 10).
 */

const QUARTER_PI_INVERSE = 1 / (4 * Math.PI);

/** Writes [ψ per γ1, ψ per γ2] of a vortex panel at (px, py). */
export function vortexStream(
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  px: number,
  py: number,
  out: Float64Array,
): void {
  const dx = x2 - x1;
  const dy = y2 - y1;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) {
    out[0] = 0;
    out[1] = 0;
    return;
  }
  const tx = dx / length;
  const ty = dy / length;
  const X = (px - x1) * tx + (py - y1) * ty;
  const Y = (py - y1) * tx - (px - x1) * ty;
  const a = -X;
  const b = length - X;
  const ra = a * a + Y * Y;
  const rb = b * b + Y * Y;
  const la = ra > 0 ? Math.log(ra) : 0;
  const lb = rb > 0 ? Math.log(rb) : 0;
  const angle = Y === 0 ? 0 : Math.atan(b / Y) - Math.atan(a / Y);
  // ∫ ln r du and ∫ u ln r du, doubled.
  const i0 = b * lb - a * la - 2 * (b - a) + 2 * Y * angle;
  const i1 = 0.5 * (rb * lb - ra * la - b * b + a * a);
  const second = (X * i0 + i1) / length;
  out[0] = QUARTER_PI_INVERSE * (i0 - second);
  out[1] = QUARTER_PI_INVERSE * second;
}

/** An angle from −90° to 270°, so that the jump lies below a panel and not behind it. */
function turn(angle: number): number {
  return angle < -Math.PI / 2 ? angle + 2 * Math.PI : angle;
}

/**
 * ψ of a source panel of constant unit strength at (px, py): (1/2π) ∫ θ ds. The cut of the angle lies on the panel's right-hand side,
 * so a closed outline run counter-clockwise has it outside.
 */
export function sourceStream(x1: number, y1: number, x2: number, y2: number, px: number, py: number): number {
  const dx = x2 - x1;
  const dy = y2 - y1;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return 0;
  const tx = dx / length;
  const ty = dy / length;
  const X = (px - x1) * tx + (py - y1) * ty;
  let Y = (py - y1) * tx - (px - x1) * ty;
  if (Math.abs(Y) < 1e-12 * length) Y = 0;
  const a = -X;
  const b = length - X;
  const ra = a * a + Y * Y;
  const rb = b * b + Y * Y;
  const atA = turn(Math.atan2(Y, X));
  const atB = turn(Math.atan2(Y, X - length));
  // The panel's own angle is added, so that ψ is measured from the free stream's axes; a constant per panel is enough.
  const local = b * atB - a * atA - 0.5 * Y * ((rb > 0 ? Math.log(rb) : 0) - (ra > 0 ? Math.log(ra) : 0));
  return local / (2 * Math.PI);
}

/** Writes velocity [u per γ1, v per γ1, u per γ2, v per γ2] of a vortex panel at a point off the panel. */
export function vortexVelocity(
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  px: number,
  py: number,
  out: Float64Array,
): void {
  const dx = x2 - x1;
  const dy = y2 - y1;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) {
    out.fill(0, 0, 4);
    return;
  }
  const tx = dx / length;
  const ty = dy / length;
  const X = (px - x1) * tx + (py - y1) * ty;
  const Y = (py - y1) * tx - (px - x1) * ty;
  const a = -X;
  const b = length - X;
  const ln = 0.5 * Math.log((b * b + Y * Y) / (a * a + Y * Y));
  const angle = Y === 0 ? 0 : Math.atan(b / Y) - Math.atan(a / Y);
  const k = 1 / (2 * Math.PI);
  // Clockwise unit vortex at u: velocity (Y, u)/(2π r²) in panel axes (the point is at −u relative to the foot).
  const p0 = k * angle;
  const q0 = k * ln;
  const p1 = k * Y * ln;
  const q1 = k * (b - a - Y * angle);
  const us = (X * p0 + p1) / length;
  const vs = (X * q0 + q1) / length;
  const uf = p0 - us;
  const vf = q0 - vs;
  out[0] = uf * tx - vf * ty;
  out[1] = uf * ty + vf * tx;
  out[2] = us * tx - vs * ty;
  out[3] = us * ty + vs * tx;
}

/** Velocity of a source panel of constant unit strength at a point, [u, v]. */
export function sourceVelocity(
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  px: number,
  py: number,
): [number, number] {
  const dx = x2 - x1;
  const dy = y2 - y1;
  const length = Math.sqrt(dx * dx + dy * dy);
  const tx = dx / length;
  const ty = dy / length;
  const X = (px - x1) * tx + (py - y1) * ty;
  const Y = (py - y1) * tx - (px - x1) * ty;
  const u = Math.log((X * X + Y * Y) / ((X - length) ** 2 + Y * Y)) / (4 * Math.PI);
  const v = Math.abs(Y) < 1e-12 ? 0 : (Math.atan((length - X) / Y) + Math.atan(X / Y)) / (2 * Math.PI);
  return [u * tx - v * ty, u * ty + v * tx];
}
