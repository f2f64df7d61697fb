import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import {
  bodyRings,
  meshFacts,
  partMeshes,
  placeSurface,
  skinRings,
  type Body,
  type LiftingSurface,
  type Point3,
  type SectionLookup,
} from '@veldtwind/core/airframe';
import { FailedComputation } from '@veldtwind/core/numerics';
import type { OpenCascadeInstance, TopoDS_Shape, TopoDS_Shell, TopoDS_Wire } from 'replicad-opencascadejs';

/** Coordinates of the file are millimetres. */
const MM = 1000;
/** Slices of a flowing bay, and of a body between two stations, that a smooth surface is passed through. */
const FLOW_SLICES = 8;
const BODY_SLICES = 6;
/** Every so many points of a ring are knots of its curve: of a section, and of a cross-section. */
const RING_STEP = { section: 2, round: 4 } as const;
/** Gap that a trailing edge is opened by where others of its surface are blunt, mm. */
const EDGE_GAP = 0.01;
const SAME = 1e-6;

let kernel: Promise<OpenCascadeInstance> | undefined;

/** The solid modeller, loaded once. */
function modeller(): Promise<OpenCascadeInstance> {
  kernel ??= (async () => {
    const found = createRequire(import.meta.url);
    const wasmBinary = readFileSync(found.resolve('replicad-opencascadejs/wasm'));
    const { default: start } = await import('replicad-opencascadejs');
    return (start as unknown as (options: object) => Promise<OpenCascadeInstance>)({
      wasmBinary,
      print: () => undefined,
      printErr: () => undefined,
    });
  })();
  return kernel;
}

interface Loft {
  /** Rings that one face, or one set of faces, passes through. */
  rings: Point3[][];
  ruled: boolean;
}

interface Solid {
  id: string;
  name: string;
  lofts: Loft[];
  /** Where a ring begins and ends: at a trailing edge, or anywhere on a closed curve. */
  kind: 'section' | 'round';
}

const mirrored = (ring: readonly Point3[]): Point3[] => ring.map((p) => ({ ...p, y: -p.y }));

function surfaceLofts(s: LiftingSurface, lookup: SectionLookup): Loft[] {
  const rings = skinRings(s, lookup, undefined, FLOW_SLICES);
  const { curved } = placeSurface(s);
  const lofts: Loft[] = [];
  let k = 0;
  for (const flows of curved) {
    const n = flows ? FLOW_SLICES : 1;
    lofts.push({ rings: rings.slice(k, k + n + 1).map((r) => r.points), ruled: !flows });
    k += n;
  }
  return lofts;
}

function solidsOf(surfaces: readonly LiftingSurface[], bodies: readonly Body[], lookup: SectionLookup): Solid[] {
  const flip = (lofts: readonly Loft[]): Loft[] => lofts.map((l) => ({ ...l, rings: l.rings.map(mirrored) }));
  const solids: Solid[] = [];
  const add = (id: string, name: string, lofts: Loft[], twice: boolean, kind: Solid['kind']) => {
    solids.push({ id, name, lofts, kind });
    if (twice) solids.push({ id: `${id}-left`, name: `${name}, left`, lofts: flip(lofts), kind });
  };
  for (const s of surfaces) {
    const lofts = surfaceLofts(s, lookup);
    const whole = s.mirrored && lofts[0].rings[0].every((p) => Math.abs(p.y) < 1e-9);
    if (!whole) add(s.id, s.name, lofts, s.mirrored, 'section');
    else {
      const left = flip(lofts)
        .reverse()
        .map((l) => ({ ...l, rings: [...l.rings].reverse() }));
      add(s.id, s.name, [...left, ...lofts], false, 'section');
    }
  }
  for (const b of bodies) {
    const all = bodyRings(b);
    const step = Math.round((all.length - 1) / (b.stations.length - 1) / BODY_SLICES);
    const rings = all.filter((_, i) => i % step === 0);
    // Straight from station to station, in slices where one cross-section turns into another of a different shape.
    const bays = b.stations.slice(1).flatMap((to, i) => {
      const from = b.stations[i];
      const like = from.shape === to.shape && (from.shape === 'ellipse' || from.corner === to.corner);
      const part = rings.slice(i * BODY_SLICES, (i + 1) * BODY_SLICES + 1);
      return like ? [[part[0], part[BODY_SLICES]]] : part.slice(1).map((r, k) => [part[k], r]);
    });
    const lofts =
      b.loft === 'straight' ? bays.map((pair) => ({ rings: pair, ruled: true })) : [{ rings, ruled: false }];
    add(b.id, b.name, lofts, b.mirrored, 'round');
  }
  return solids;
}

const distance = (a: Point3, b: Point3) => MM * Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z);
const isPoint = (ring: readonly Point3[]) => ring.every((p) => distance(p, ring[0]) < SAME);

/** Makes one solid: faces lofted from curve to curve, sewn together with its ends. */
function makeSolid(oc: OpenCascadeInstance, solid: Solid): TopoDS_Shape {
  const pnt = (p: Point3) => new oc.gp_Pnt(MM * p.x, MM * p.y, MM * p.z);
  const curve = (points: readonly Point3[]) => {
    const list = new oc.NCollection_Array1_gp_Pnt(1, points.length);
    points.forEach((p, i) => list.SetValue(i + 1, pnt(p)));
    const made = new oc.GeomAPI_Interpolate(new oc.NCollection_HArray1_gp_Pnt(list), false, SAME);
    made.Perform();
    return new oc.BRepBuilderAPI_MakeEdge(made.Curve()).Edge();
  };
  const blunt =
    solid.kind === 'section' &&
    solid.lofts.some((l) => l.rings.some((r) => distance(r[0], r[r.length - 1]) > 10 * SAME));
  const thinned = (points: readonly Point3[]) =>
    points.filter((_, i) => i % RING_STEP[solid.kind] === 0 || i === points.length - 1);
  const wire = (ring: readonly Point3[]): TopoDS_Wire => {
    if (solid.kind === 'round') {
      const half = ring.length / 2;
      const loop = [...ring, ring[0]];
      const halves = [loop.slice(0, half + 1), loop.slice(half)].map((part) => curve(thinned(part)));
      return new oc.BRepBuilderAPI_MakeWire(halves[0], halves[1]).Wire();
    }
    const n = ring.length - 1;
    const nose = n / 2;
    const points = [...ring];
    if (blunt && distance(points[0], points[n]) < EDGE_GAP) {
      // Open it toward its own upper side.
      const [a, b] = [points[0], points[4]];
      const c = points[n - 4];
      const [dx, dy, dz] = [b.x - c.x, b.y - c.y, b.z - c.z];
      const k = EDGE_GAP / MM / 2 / Math.max(1e-12, Math.hypot(dx, dy, dz));
      points[0] = { x: a.x + k * dx, y: a.y + k * dy, z: a.z + k * dz };
      points[n] = { x: a.x - k * dx, y: a.y - k * dy, z: a.z - k * dz };
    }
    const upper = curve(thinned(points.slice(0, nose + 1)));
    const lower = curve(thinned(points.slice(nose)));
    if (!blunt) return new oc.BRepBuilderAPI_MakeWire(upper, lower).Wire();
    const edge = new oc.BRepBuilderAPI_MakeEdge(pnt(points[n]), pnt(points[0])).Edge();
    return new oc.BRepBuilderAPI_MakeWire(upper, lower, edge).Wire();
  };
  const sewing = new oc.BRepBuilderAPI_Sewing(1e-3, true, true, true, false);
  for (const { rings, ruled } of solid.lofts) {
    const loft = new oc.BRepOffsetAPI_ThruSections(false, ruled, SAME);
    loft.CheckCompatibility(false);
    for (const ring of rings) {
      if (isPoint(ring)) loft.AddVertex(new oc.BRepBuilderAPI_MakeVertex(pnt(ring[0])).Vertex());
      else loft.AddWire(wire(ring));
    }
    loft.Build(new oc.Message_ProgressRange());
    sewing.Add(loft.Shape());
  }
  const last = solid.lofts[solid.lofts.length - 1].rings;
  for (const ring of [solid.lofts[0].rings[0], last[last.length - 1]])
    if (!isPoint(ring)) sewing.Add(new oc.BRepBuilderAPI_MakeFace(wire(ring), true).Face());
  sewing.Perform(new oc.Message_ProgressRange());
  const shells = new oc.TopExp_Explorer(sewing.SewedShape(), oc.TopAbs_ShapeEnum.TopAbs_SHELL as never);
  if (!shells.More()) throw new Error('no shell');
  const shell: TopoDS_Shell = oc.TopoDS.Shell(shells.Current());
  const made = new oc.BRepBuilderAPI_MakeSolid(shell).Solid();
  if (volumeOf(oc, made) < 0) made.Reverse();
  return made;
}

/** Volume of a solid, m³; 0 where its shell is not closed. */
function volumeOf(oc: OpenCascadeInstance, shape: TopoDS_Shape): number {
  const props = new oc.GProp_GProps();
  oc.BRepGProp.VolumeProperties(shape, props, 1e-2, true, false);
  return props.Mass() / MM ** 3;
}

/** Share that a solid's volume may differ from that of the mesh of the same part; it is summed to a hundredth, a finer sum takes seconds. */
const VOLUME_TOLERANCE = 0.02;

/**
 * An airframe as a STEP file (ISO 10303-21): a solid a part, with smooth surfaces, in millimetres. Every solid is checked: closed, and of the volume
 * that the same part has as a mesh.
 * @param surfaces where they stand. @throws FailedComputation `step` naming the part that could not be made.
 */
export async function writeStep(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): Promise<Uint8Array> {
  const meshes = new Map(partMeshes(surfaces, bodies, lookup).map((m) => [m.id, meshFacts(m)]));
  const oc = await modeller();
  oc.Interface_Static.SetCVal('write.step.unit', 'MM');
  const writer = new oc.STEPControl_Writer();
  for (const solid of solidsOf(surfaces, bodies, lookup)) {
    const fail = (why: string): never => {
      throw new FailedComputation('step', `${solid.name} could not be made a solid (${why}).`, 'Write STL or OBJ.');
    };
    let shape: TopoDS_Shape;
    try {
      shape = makeSolid(oc, solid);
    } catch (error) {
      return fail(error instanceof Error ? error.message : 'the modeller refused it');
    }
    const volume = volumeOf(oc, shape);
    const wanted = meshes.get(solid.id)!.volume;
    if (!(Math.abs(volume / wanted - 1) < VOLUME_TOLERANCE))
      fail(`its volume came out as ${volume.toPrecision(4)} m³, not ${wanted.toPrecision(4)} m³`);
    oc.Interface_Static.SetCVal('write.step.product.name', solid.name);
    writer.Transfer(
      shape,
      oc.STEPControl_StepModelType.STEPControl_ManifoldSolidBrep as never,
      true,
      new oc.Message_ProgressRange(),
    );
  }
  const path = '/airframe.step';
  writer.Write(path);
  const bytes = oc.FS.readFile(path) as Uint8Array;
  oc.FS.unlink(path);
  return bytes.slice();
}
