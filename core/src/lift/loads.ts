/** Loads of one strip. */
export interface StripLoad {
  surface: number;
  id: string;
  /** Share of the half span, negative on the left of an explicit left side. */
  station: number;
  y: number;
  z: number;
  chord: number;
  width: number;
  /** Circulation over speed and length, m. */
  circulation: number;
  cl: number;
  /** Downwash angle far behind, halved: the induced angle at the strip, rad. */
  inducedAngle: number;
}

/** Coefficients of the whole airframe at one attitude; moments about the moment reference. */
export interface AirframeLoads {
  alpha: number;
  beta: number;
  CL: number;
  /** Induced drag from the Trefftz plane. */
  CDi: number;
  /** Induced drag from the forces on the bound vortices. */
  CDiNear: number;
  CY: number;
  /** Rolling moment, right wing down positive, over span. */
  Cl: number;
  /** Pitching moment, nose-up positive, over chord. */
  Cm: number;
  /** Yawing moment, nose right positive, over span. */
  Cn: number;
  /** Span efficiency CL²/(π A CDi); NaN at no lift. */
  efficiency: number;
  strips: StripLoad[];
}
