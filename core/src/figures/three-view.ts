import {
  bodyLines,
  surfaceLines,
  type Body,
  type DrawingView,
  type LiftingSurface,
  type SectionLookup,
} from '../airframe';
import { extentOf, moved, type Drawing, type DrawingItem } from './drawing';

const MM = 1000;
/** Room between the views, a share of the largest, and height of their names. */
const ROOM = 0.12;
const NAMES: Record<DrawingView, string> = { plan: 'From above', front: 'From ahead', side: 'From the left' };

/** One view of an airframe, mm. */
export function viewItems(
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
  view: DrawingView,
): DrawingItem[] {
  const lines = [
    ...surfaces.flatMap((s) => surfaceLines(s, view, lookup)),
    ...bodies.flatMap((b) => bodyLines(b, view)),
  ];
  // From above the nose points up the page.
  const flip = view === 'plan' ? -MM : MM;
  return lines.map(({ points, closed }) => ({
    kind: 'line',
    layer: 'line',
    points: points.map(([u, v]): [number, number] => [MM * u, flip * v]),
    closed,
  }));
}

/** Plan alone, at true scale. */
export function outlineDrawing(
  title: string,
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): Drawing {
  return { title: `${title}: outline`, items: viewItems(surfaces, bodies, lookup, 'plan') };
}

/** The three views beside and below each other at true scale, with overall dimensions. */
export function threeView(
  title: string,
  surfaces: readonly LiftingSurface[],
  bodies: readonly Body[],
  lookup: SectionLookup,
): Drawing {
  const views = (['plan', 'front', 'side'] as const).map((view) => {
    const items = viewItems(surfaces, bodies, lookup, view);
    return { view, items, ...extentOf({ items }) };
  });
  const largest = Math.max(...views.flatMap((v) => [v.high[0] - v.low[0], v.high[1] - v.low[1]]));
  const [room, height] = [ROOM * largest, 0.018 * largest];
  const [plan, front, side] = views;
  const placed: [(typeof views)[number], number, number][] = [
    [plan, 0, 0],
    [front, 0, plan.low[1] - room - front.high[1]],
    [side, plan.high[0] + room - side.low[0], plan.low[1] - room - side.high[1]],
  ];
  const items = placed.flatMap(([v, dx, dy]): DrawingItem[] => {
    const [left, right, base] = [v.low[0], v.high[0], v.low[1] - 0.35 * room];
    const tick = 0.5 * height;
    const size = right - left;
    const own: DrawingItem[] = [
      ...v.items,
      {
        kind: 'line',
        layer: 'text',
        closed: false,
        points: [
          [left, base],
          [right, base],
        ],
      },
      {
        kind: 'line',
        layer: 'text',
        closed: false,
        points: [
          [left, base - tick],
          [left, base + tick],
        ],
      },
      {
        kind: 'line',
        layer: 'text',
        closed: false,
        points: [
          [right, base - tick],
          [right, base + tick],
        ],
      },
      {
        kind: 'text',
        layer: 'text',
        at: [left, base - 1.6 * height],
        height,
        text: `${NAMES[v.view]}: ${v.view === 'side' ? 'length' : 'span'} ${Math.round(size)} mm, ${v.view === 'plan' ? 'length' : 'height'} ${Math.round(v.high[1] - v.low[1])} mm`,
      },
    ];
    return moved(own, dx, dy);
  });
  items.push({
    kind: 'text',
    layer: 'text',
    at: [plan.low[0], plan.high[1] + 2 * height],
    height: 1.4 * height,
    text: title,
  });
  return { title: `${title}: three-view`, items };
}
