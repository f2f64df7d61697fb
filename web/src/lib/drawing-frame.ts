import { useElementSize } from '@vueuse/core';
import { computed, useTemplateRef, type ComputedRef, type Ref } from 'vue';

/** What a drawing shows, in its own units: across and up. */
export interface Extent {
  x: [number, number];
  y: [number, number];
}
/** Room around a drawing, px. */
export interface Margin {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** A drawing to scale: one scale for both directions, the drawing in the middle of its room. */
export interface DrawingFrame {
  /** Pixels per unit. */
  scale: number;
  x: (v: number) => number;
  y: (v: number) => number;
  /** Back from pixels. */
  at: (px: number, py: number) => { x: number; y: number };
  /** Places as the text of a path. */
  place: (x: number, y: number) => string;
  path: (points: Iterable<readonly [number, number]>, closed?: boolean) => string;
}

/**
 * Fits an extent into a box.
 * @param down the second direction runs down the page, as on a plan with its nose up.
 * @param least pixels per unit, so that nothing vanishes.
 */
export function fitDrawing(
  box: { width: number; height: number },
  extent: Extent,
  margin: Margin,
  { down = false, least = 0, top = false }: { down?: boolean; least?: number; top?: boolean } = {},
): DrawingFrame {
  const wide = extent.x[1] - extent.x[0] || 1;
  const high = extent.y[1] - extent.y[0] || 1e-9;
  const room = { w: box.width - margin.left - margin.right, h: box.height - margin.top - margin.bottom };
  const scale = Math.max(least, Math.min(room.w / wide, room.h / high));
  const left = margin.left + (room.w - wide * scale) / 2;
  const first = margin.top + (top ? 0 : (room.h - high * scale) / 2);
  const x = (v: number) => left + (v - extent.x[0]) * scale;
  const y = (v: number) => first + (down ? v - extent.y[0] : extent.y[1] - v) * scale;
  const place = (a: number, b: number) => `${x(a).toFixed(2)},${y(b).toFixed(2)}`;
  return {
    scale,
    x,
    y,
    at: (px, py) => ({
      x: extent.x[0] + (px - left) / scale,
      y: down ? extent.y[0] + (py - first) / scale : extent.y[1] - (py - first) / scale,
    }),
    place,
    path: (points, closed = false) => {
      const text = Array.from(points, ([a, b]) => place(a, b)).join('L');
      return text === '' ? '' : `M${text}${closed ? 'Z' : ''}`;
    },
  };
}

/** A drawing to scale that follows the size of the element that the component calls `box`. @param extent what is shown. @param margin room around it. */
export function useDrawing(
  extent: () => Extent,
  margin: () => Margin,
  options: { down?: boolean; least?: number; top?: boolean; size?: { width: number; height: number } } = {},
): {
  width: Ref<number>;
  height: Ref<number>;
  frame: ComputedRef<DrawingFrame>;
} {
  const box = useTemplateRef<HTMLElement>('box');
  const { width, height } = useElementSize(box, options.size ?? { width: 700, height: 220 });
  const frame = computed(() => fitDrawing({ width: width.value, height: height.value }, extent(), margin(), options));
  return { width, height, frame };
}

/** The least and the greatest of some values, at least as wide as given. */
export function spanOf(values: Iterable<number>, low = Infinity, high = -Infinity): [number, number] {
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return low <= high ? [low, high] : [0, 1];
}

/** Points of two lists of coordinates. */
export function* pairs(x: ArrayLike<number>, y: ArrayLike<number>): Iterable<readonly [number, number]> {
  for (let i = 0; i < x.length; i++) yield [x[i], y[i]];
}
