import type { DualSpace } from '../../numerics';
import {
  densityShape,
  equilibriumShear,
  kinematicShape,
  laminarDissipation,
  laminarEnergyShape,
  laminarFriction,
  layerThickness,
  LEAST_SHAPE,
  LEAST_WAKE_SHAPE,
  slipVelocity,
  turbulentEnergyShape,
  turbulentFriction,
} from './closures';

/** Of what kind the layer is at a station. */
export type LayerKind = 'laminar' | 'turbulent' | 'wake';

/** Conditions of the free stream; lengths are in chords and speeds in stream speeds. */
export interface LayerFlow {
  /** Reynolds number of the chord. */
  reynolds: number;
  mach: number;
}

/** The primary variables of a station, as slots: C is n (laminar) or √Cτ (turbulent and wake). */
export interface StationSlots {
  c: number;
  theta: number;
  displacement: number;
  speed: number;
}

/** Everything that follows at a station, as slots. */
export interface StationState extends StationSlots {
  shape: number;
  kinematic: number;
  reTheta: number;
  energy: number;
  density: number;
  friction: number;
  /** 2·CD∕H*. */
  dissipation: number;
  /** √CτEQ and δ; only where the layer is turbulent. */
  equilibrium: number;
  thickness: number;
  machSquared: number;
}

const HEAT = 1.4;

/** Evaluates a station from its primary variables. @param v their slots. @param kind of the layer there. */
export function stationState(s: DualSpace, v: StationSlots, kind: LayerKind, flow: LayerFlow): StationState {
  const shape = s.div(v.displacement, v.theta);
  let machSquared: number;
  let reTheta: number;
  if (flow.mach === 0) {
    machSquared = s.constant(0);
    reTheta = s.scale(s.mul(v.speed, v.theta), flow.reynolds);
  } else {
    // Isentropic edge: M², density and Sutherland viscosity over those of the stream.
    const m2 = flow.mach * flow.mach;
    const k = 0.5 * (HEAT - 1) * m2;
    const u2 = s.square(v.speed);
    const temperature = s.affine(u2, 1 + k, -k);
    machSquared = s.scale(s.div(u2, temperature), m2);
    const density = s.pow(temperature, 1 / (HEAT - 1));
    const sutherland = 0.38;
    const viscosity = s.div(s.scale(s.pow(temperature, 1.5), 1 + sutherland), s.affine(temperature, sutherland, 1));
    reTheta = s.scale(s.div(s.mul(density, s.mul(v.speed, v.theta)), viscosity), flow.reynolds);
  }
  let kinematic = kinematicShape(s, shape, machSquared);
  const least = kind === 'wake' ? LEAST_WAKE_SHAPE : LEAST_SHAPE;
  if (s.value(kinematic) < least) kinematic = s.constant(least);
  const density = densityShape(s, kinematic, machSquared);
  if (kind === 'laminar') {
    return {
      ...v,
      shape,
      kinematic,
      reTheta,
      density,
      energy: laminarEnergyShape(s, kinematic),
      friction: laminarFriction(s, kinematic, reTheta),
      dissipation: laminarDissipation(s, kinematic, reTheta),
      equilibrium: -1,
      thickness: -1,
      machSquared,
    };
  }
  const energy = turbulentEnergyShape(s, kinematic, reTheta);
  const slip = slipVelocity(s, kinematic, shape, energy);
  const equilibrium = s.sqrt(equilibriumShear(s, kinematic, shape, energy, slip));
  const outer = s.mul(s.square(v.c), s.affine(slip, 1, -1));
  let friction: number;
  let loss: number;
  if (kind === 'wake') {
    // Both halves of the wake dissipate; there is no wall.
    friction = s.constant(0);
    loss = s.scale(outer, 2);
  } else {
    friction = turbulentFriction(s, kinematic, reTheta, machSquared);
    loss = s.add(s.scale(s.mul(friction, slip), 0.5), outer);
  }
  return {
    ...v,
    shape,
    kinematic,
    reTheta,
    density,
    energy,
    friction,
    dissipation: s.scale(s.div(loss, energy), 2),
    equilibrium,
    thickness: layerThickness(s, kinematic, v.theta, v.displacement),
    machSquared,
  };
}
