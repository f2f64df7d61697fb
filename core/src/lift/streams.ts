import type { Point3, Reference } from '../airframe';

/** Symmetric streams load both sides alike; the others change sign on the left. */
export type Symmetry = 'even' | 'odd';

/**
 * A right-hand side of the lattice: what a unit of something does to the flow through the panels. A stream, a rate of turn, or a control that turns
 * panels and sends no stream: all are solved with the same factors and added up.
 */
export interface RightSide {
  id: string;
  symmetry: Symmetry;
  /** Velocity at a point of the true geometry, stream speeds; without one there is no stream. */
  velocity?: (x: number, y: number, z: number, out: Float64Array) => void;
  /** What the turning of its normal lets through a panel in a unit stream along x, positive along the normal. @param part of the lattice, @param panel strip-major, row inside. */
  wash?: (part: number, panel: number) => number;
}

/** Streams along the geometry's axes, and unit non-dimensional rates about the body's. */
export type StreamId = 'x' | 'y' | 'z' | 'p' | 'q' | 'r';

/**
 * The six basis streams. The air moves with −ω × r; ω in geometry axes (aft, right, up) is (−p, q, −r).
 * @param reference span and chord make the rates non-dimensional: p·b/2V, q·c/2V, r·b/2V. @param about point that the rates turn about, m.
 * @source Etkin and Reid, Dynamics of Flight, 3rd ed., 1996, §4.4.
 */
export function basisStreams(reference: Reference, about: Point3): Record<StreamId, RightSide> {
  const along = (id: StreamId, symmetry: Symmetry, axis: 0 | 1 | 2): RightSide => ({
    id,
    symmetry,
    velocity: (_x, _y, _z, out) => {
      out.fill(0);
      out[axis] = 1;
    },
  });
  const turning = (
    id: StreamId,
    symmetry: Symmetry,
    length: number,
    of: (rx: number, ry: number, rz: number, out: Float64Array) => void,
  ): RightSide => ({
    id,
    symmetry,
    velocity: (x, y, z, out) => {
      out.fill(0);
      of(x - about.x, y - about.y, z - about.z, out);
      const k = 2 / length;
      out[0] *= k;
      out[1] *= k;
      out[2] *= k;
    },
  });
  return {
    x: along('x', 'even', 0),
    y: along('y', 'odd', 1),
    z: along('z', 'even', 2),
    p: turning('p', 'odd', reference.span, (_rx, ry, rz, out) => {
      out[1] = -rz;
      out[2] = ry;
    }),
    q: turning('q', 'even', reference.chord, (rx, _ry, rz, out) => {
      out[0] = -rz;
      out[2] = rx;
    }),
    r: turning('r', 'odd', reference.span, (rx, ry, _rz, out) => {
      out[0] = -ry;
      out[1] = rx;
    }),
  };
}
