/** A drawing at true scale; millimetres, y up. */
export interface Drawing {
  title: string;
  items: DrawingItem[];
}

/** Layers of a drawing: what a saw or a laser follows, what is only drawn, and words. */
export type Layer = 'cut' | 'hole' | 'line' | 'sheet' | 'text';

export type DrawingItem =
  | { kind: 'line'; layer: Layer; points: [number, number][]; closed: boolean }
  | { kind: 'circle'; layer: Layer; at: [number, number]; radius: number }
  | {
      kind: 'text';
      layer: Layer;
      at: [number, number];
      height: number;
      text: string;
      /** Turned by a quarter, reading upward. */ upward?: boolean;
    };

/** The corners of all that is drawn. */
export function extentOf({ items }: Pick<Drawing, 'items'>): { low: [number, number]; high: [number, number] } {
  const low: [number, number] = [Infinity, Infinity];
  const high: [number, number] = [-Infinity, -Infinity];
  const take = ([x, y]: [number, number], r = 0) => {
    low[0] = Math.min(low[0], x - r);
    low[1] = Math.min(low[1], y - r);
    high[0] = Math.max(high[0], x + r);
    high[1] = Math.max(high[1], y + r);
  };
  for (const item of items) {
    if (item.kind === 'line') for (const p of item.points) take(p);
    else if (item.kind === 'circle') take(item.at, item.radius);
    else {
      take(item.at);
      take([item.at[0] + 0.6 * item.height * item.text.length, item.at[1] + item.height]);
    }
  }
  return low[0] <= high[0] ? { low, high } : { low: [0, 0], high: [1, 1] };
}

/** Items moved by a step. */
export function moved(items: readonly DrawingItem[], dx: number, dy: number): DrawingItem[] {
  const shift = ([x, y]: [number, number]): [number, number] => [x + dx, y + dy];
  return items.map((item) =>
    item.kind === 'line' ? { ...item, points: item.points.map(shift) } : { ...item, at: shift(item.at) },
  );
}
