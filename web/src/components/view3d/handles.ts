import {
  inView,
  placeStations,
  pointAlong,
  trailingEdge,
  type Body,
  type BodyHandle,
  type DrawingView,
  type LiftingSurface,
  type SurfaceHandle,
} from '@veldtwind/core/airframe';

/** A handle on a drawing: where it is, what it moves, and what it is called. */
export interface DrawnHandle {
  key: string;
  at: [number, number];
  name: string;
  station: number | null;
  kind: 'part' | 'leading' | 'trailing' | 'station';
  moves: { surface: SurfaceHandle } | { body: BodyHandle };
}

const mean = (a: [number, number], b: [number, number]): [number, number] => [0.5 * (a[0] + b[0]), 0.5 * (a[1] + b[1])];

/** The handles of a surface in a view; its stations only where the view shows its span. @param surface where it stands. */
export function surfaceHandles(surface: LiftingSurface, view: DrawingView): DrawnHandle[] {
  const placed = placeStations(surface);
  const spanwise = surface.plane === 'vertical' ? view !== 'plan' : view !== 'side';
  const out: DrawnHandle[] = [];
  const stationName = (i: number) => (i === 0 ? 'root' : i === placed.length - 1 ? 'tip' : `station ${i + 1}`);
  if (spanwise)
    placed.forEach((p, i) => {
      const lead = inView(view === 'front' ? p.quarterChord : p.leadingEdge, view);
      if (i > 0)
        out.push({
          key: `leading-${i}`,
          at: lead,
          name: `${surface.name}: ${stationName(i)}`,
          station: i,
          kind: 'leading',
          moves: { surface: { kind: 'leading', station: i } },
        });
      if (view !== 'front')
        out.push({
          key: `trailing-${i}`,
          at: inView(trailingEdge(p), view),
          name: `${surface.name}: chord of the ${stationName(i)}`,
          station: i,
          kind: 'trailing',
          moves: { surface: { kind: 'trailing', station: i } },
        });
    });
  const root = placed[0];
  const at =
    view === 'front'
      ? inView(root.quarterChord, view)
      : mean(inView(root.leadingEdge, view), inView(trailingEdge(root), view));
  out.push({
    key: 'part',
    at,
    name: `${surface.name}: its place`,
    station: null,
    kind: 'part',
    moves: { surface: { kind: 'part' } },
  });
  return out;
}

/** The handles of a body in a view. */
export function bodyHandles(body: Body, view: DrawingView): DrawnHandle[] {
  const { position: p, stations } = body;
  const middle = pointAlong(body, 0.5);
  const out: DrawnHandle[] = [
    {
      key: 'part',
      at: inView(middle, view),
      name: `${body.name}: its place`,
      station: null,
      kind: 'part',
      moves: { body: { kind: 'part' } },
    },
  ];
  if (view !== 'front')
    stations.forEach((s, i) =>
      out.push({
        key: `station-${i}`,
        at: view === 'plan' ? [p.y + s.width / 2, p.x + s.x] : [p.x + s.x, p.z + s.z + s.height / 2],
        name: `${body.name}: ${view === 'plan' ? 'width' : 'height'} of station ${i + 1}`,
        station: i,
        kind: 'station',
        moves: { body: { kind: 'station', station: i } },
      }),
    );
  return out;
}
