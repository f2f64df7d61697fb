/** A state of the stream; rad. */
export interface PanelState {
  alpha: number;
  /** Positive with the wind from the right; only with both sides explicit. */
  sideslip?: number;
}

/** What one strip of a wing carries. */
export interface PanelStrip {
  id: string;
  /** Share of the half span; negative on an explicit left side. */ station: number;
  y: number;
  chord: number;
  width: number;
  circulation: number;
  cl: number;
}

/** The flow about the skins in one state; coefficients on the reference, moments about its point. */
export interface PanelPoint {
  alpha: number;
  beta: number;
  /** From the wake far behind. */ CL: number;
  /** From circulations of the strips and pressures on the other skins: a check. */ CLpressure: number;
  /** From the wake far behind. */ CDi: number;
  /** From pressures: noisy, a check. */ CDpressure: number;
  CY: number;
  Cl: number;
  Cm: number;
  Cn: number;
  /** Pressure coefficient of every panel. */ cp: Float32Array;
  /** Why it is not to be relied on. */ doubt?: string;
  strips: PanelStrip[];
}

/** Unit vector of the stream. */
export const streamOf = ({ alpha, sideslip = 0 }: PanelState): [number, number, number] => [
  Math.cos(alpha) * Math.cos(sideslip),
  -Math.sin(sideslip),
  Math.sin(alpha) * Math.cos(sideslip),
];
