import type { DualSpace } from '../../numerics';
import {
  amplificationRate,
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
  /** H with the dead air behind a blunt edge counted in. */
  total: number;
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
  /** Growth of the amplification exponent, per chord; only where the layer is laminar. */
  growth: number;
}

const HEAT = 1.4;

/**
 * Evaluates a station from its primary variables. @param v their slots. @param kind of the layer there.
 * @param deadAir thickness of the still air that the displacement holds besides the layer's own, chords.
 */
export function stationState(
  s: DualSpace,
  v: StationSlots,
  kind: LayerKind,
  flow: LayerFlow,
  deadAir = 0,
): StationState {
  const total = s.div(v.displacement, v.theta);
  const shape = deadAir > 0 ? s.div(s.affine(v.displacement, -deadAir, 1), v.theta) : total;
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
      total,
      kinematic,
      reTheta,
      density,
      energy: laminarEnergyShape(s, kinematic),
      friction: laminarFriction(s, kinematic, reTheta),
      dissipation: laminarDissipation(s, kinematic, reTheta),
      equilibrium: -1,
      thickness: -1,
      machSquared,
      growth: amplificationRate(s, kinematic, reTheta, v.theta),
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
    total,
    kinematic,
    reTheta,
    density,
    energy,
    friction,
    dissipation: s.scale(s.div(loss, energy), 2),
    equilibrium,
    thickness: layerThickness(s, kinematic, v.theta, s.mul(shape, v.theta)),
    machSquared,
    growth: -1,
  };
}
