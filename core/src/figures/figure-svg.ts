import { extent } from 'd3-array';
import { scaleLinear, scaleLog } from 'd3-scale';
import { line } from 'd3-shape';
import { axisText, type FigureAxis, type FigureSpec } from './figure';
import { dashOf, inkOf, markerOf, type FigureLook } from './look';
import { apart, clearOf, type Named } from './names';
import { escaped, num, open, textAt } from './svg-text';

/** Size of a figure, px. */
export interface FigureSize {
  width: number;
  height: number;
}

const AROUND = { top: 24, bottom: 36, left: 54 };
/** Room for names at the ends of curves, px: at least, and at most. */
const ENDS = { least: 18, most: 120 };
/** Width of a letter, as a share of its height: enough to keep names clear of each other. */
const LETTER = 0.52;
const SMALL = 10.5;
/** What differs by less is one value. */
const LEAST_RANGE = 1e-12;
/** Markers on one curve, about. */
const MARKED = 7;

const tick = (v: number, step: number, log = false): string => {
  if (log) return String(Number(v.toPrecision(6))).replace('-', '−');
  const digits = Math.max(0, Math.min(8, -Math.floor(Math.log10(Math.abs(step)) + 1e-9)));
  const text = Math.abs(v) >= 1e6 ? v.toExponential(1).replace('e+', 'e') : v.toFixed(digits);
  return (Number(text) === 0 ? (0).toFixed(digits) : text).replace('-', '−');
};

/** What an axis runs over: the curves, marks, finite ends of its bands, and zero where that is wanted. */
function rangeOf(figure: FigureSpec, key: 0 | 1): [number, number] {
  const axis = key === 0 ? figure.x : figure.y;
  const values = [
    ...figure.series.flatMap((s) => s.points.flatMap((p) => (p ? [p[key]] : []))),
    ...figure.marks.map((m) => (key === 0 ? m.x : m.y)),
    ...(axis.zero ? [0] : []),
  ].filter(Number.isFinite);
  const [low, high] = extent(values);
  if (low === undefined || high === undefined) return [0, 1];
  const own = Math.max(high - low, 1e-9 * Math.max(Math.abs(low), Math.abs(high)), 1e-12);
  // A band is seen where it is not far from what is drawn.
  const near = figure.bands
    .filter((b) => b.axis === (key === 0 ? 'x' : 'y'))
    .flatMap((b) => [b.from, b.to])
    .filter((v): v is number => v !== null && v > low - own && v < high + own);
  const [a, b] = [Math.min(low, ...near), Math.max(high, ...near)];
  const about = Math.max(Math.abs(a), Math.abs(b));
  if (b - a <= 1e-9 * about || b - a < LEAST_RANGE) {
    const half = 0.5 * (about > LEAST_RANGE ? about : 1);
    return [0.5 * (a + b) - half, 0.5 * (a + b) + half];
  }
  if (axis.log && a > 0) return [a / 1.05, b * 1.05];
  return [a - 0.03 * (b - a), b + 0.03 * (b - a)];
}

/** One scale for both directions, about the middle of each. */
function equalised(
  x: [number, number],
  y: [number, number],
  width: number,
  height: number,
): [[number, number], [number, number]] {
  const perPixel = Math.max((x[1] - x[0]) / width, (y[1] - y[0]) / height);
  const about = ([a, b]: [number, number], size: number): [number, number] => {
    const half = 0.5 * perPixel * size;
    return [0.5 * (a + b) - half, 0.5 * (a + b) + half];
  };
  return [about(x, width), about(y, height)];
}

const isLog = (axis: FigureAxis, [low]: readonly [number, number]): boolean => Boolean(axis.log) && low > 0;
function scaleOf(axis: FigureAxis, range: [number, number], [from, to]: [number, number]) {
  const ends: [number, number] = axis.inverted ? [to, from] : [from, to];
  return isLog(axis, range) ? scaleLog(range, ends) : scaleLinear(range, ends);
}
/** Of a logarithmic scale 1, 2 and 5 of each power alone. */
function ticksOf(scale: ReturnType<typeof scaleOf>, count: number): number[] {
  const ticks = scale.ticks(count);
  if (!('base' in scale)) return ticks;
  const round = ticks.filter((t) => [1, 2, 5].includes(Math.round(t / 10 ** Math.floor(Math.log10(t) + 1e-9))));
  return round.length > 1 ? round : ticks;
}

/**
 * A figure as the text of an SVG element.
 * @param id keeps the names of its clip path apart from those of other figures of a page.
 * @returns words are text that can be searched; curves have a colour, a dash and a marker, so that they are told apart in print.
 */
export function figureSvg(figure: FigureSpec, size: FigureSize, look: FigureLook, id: string): string {
  const { width, height } = size;
  const widest = Math.max(
    0,
    ...figure.series.filter((s) => !s.closed && !s.scattered).map((s) => LETTER * SMALL * s.name.length + 10),
  );
  const MARGIN = { ...AROUND, right: Math.min(ENDS.most, Math.max(ENDS.least, widest)) };
  const inner = { width: width - MARGIN.left - MARGIN.right, height: height - MARGIN.top - MARGIN.bottom };
  let [rx, ry] = [rangeOf(figure, 0), rangeOf(figure, 1)];
  if (figure.equal) [rx, ry] = equalised(rx, ry, inner.width, inner.height);
  const [left, right, bottom, top] = [MARGIN.left, width - MARGIN.right, height - MARGIN.bottom, MARGIN.top];
  const x = scaleOf(figure.x, rx, [left, right]);
  const y = scaleOf(figure.y, ry, [bottom, top]);
  const clip = `clip-${id}`;
  const out: string[] = [
    open('svg', {
      xmlns: 'http://www.w3.org/2000/svg',
      width,
      height,
      viewBox: `0 0 ${width} ${height}`,
      'font-family': look.sans,
      'font-size': SMALL,
    }),
  ];
  out.push(
    `<clipPath id="${escaped(clip)}"><rect x="${left}" y="${top}" width="${inner.width}" height="${inner.height}"/></clipPath>`,
  );

  for (const b of figure.bands) {
    const along = b.axis === 'x' ? x : y;
    const [p, q] = [b.from ?? along.domain()[0], b.to ?? along.domain()[1]].map((v) =>
      num(along(Math.max(along.domain()[0], Math.min(along.domain()[1], v)))),
    );
    out.push(
      b.axis === 'x'
        ? `<rect x="${Math.min(p, q)}" y="${top}" width="${num(Math.abs(q - p))}" height="${inner.height}" fill="${look.band}"/>`
        : `<rect x="${left}" y="${Math.min(p, q)}" width="${inner.width}" height="${num(Math.abs(q - p))}" fill="${look.band}"/>`,
    );
  }

  const xTicks = ticksOf(x, Math.max(3, Math.round(inner.width / 90)));
  const yTicks = ticksOf(y, Math.max(3, Math.round(inner.height / 45)));
  const stepOf = (t: number[]) => (t.length > 1 ? t[1] - t[0] : t[0] || 1);
  for (const t of xTicks) {
    const at = num(x(t));
    out.push(
      `<line x1="${at}" x2="${at}" y1="${top}" y2="${bottom}" stroke="${t === 0 ? look.rule : look.ruleLight}" stroke-width="${t === 0 ? 1 : 0.6}"/>`,
    );
    out.push(
      textAt(at, bottom + 14, tick(t, stepOf(xTicks), isLog(figure.x, rx)), {
        fill: look.soft,
        'text-anchor': 'middle',
      }),
    );
  }
  for (const t of yTicks) {
    const at = num(y(t));
    out.push(
      `<line x1="${left}" x2="${right}" y1="${at}" y2="${at}" stroke="${t === 0 ? look.rule : look.ruleLight}" stroke-width="${t === 0 ? 1 : 0.6}"/>`,
    );
    out.push(
      textAt(left - 6, at + 3.5, tick(t, stepOf(yTicks), isLog(figure.y, ry)), {
        fill: look.soft,
        'text-anchor': 'end',
      }),
    );
  }
  out.push(textAt(right, bottom + 29, axisText(figure.x), { fill: look.ink, 'text-anchor': 'end' }));
  out.push(textAt(left - 6, top - 11, axisText(figure.y), { fill: look.ink, 'text-anchor': 'start' }));

  const path = line<[number, number] | null>()
    .defined((p) => p !== null)
    .x((p) => num(x(p![0])))
    .y((p) => num(y(p![1])));
  const names: Named[] = [];
  const taken: Named[] = [];
  out.push(`<g clip-path="url(#${escaped(clip)})">`);
  for (const s of figure.series) {
    const ink = s.faint ? look.rule : inkOf(look, s.style);
    if (!s.scattered) {
      const d = path(s.points) ?? '';
      const dash = s.faint ? '' : dashOf(s.style);
      out.push(
        `<path d="${d}${s.closed ? 'Z' : ''}" fill="${s.closed ? ink : 'none'}" fill-opacity="${s.closed ? 0.06 : 1}" stroke="${ink}" stroke-width="${s.faint ? 0.9 : 1.6}" stroke-linejoin="round"${dash ? ` stroke-dasharray="${dash}"` : ''}/>`,
      );
    }
    const there = s.points.filter((p): p is [number, number] => p !== null);
    const every = s.scattered ? 1 : Math.max(1, Math.ceil(there.length / MARKED));
    if (!s.faint && !s.closed)
      there.forEach((p, i) => {
        if ((i + (s.scattered ? 0 : s.style)) % every !== 0) return;
        out.push(
          `<path d="${markerOf(s.style)}" transform="translate(${num(x(p[0]))},${num(y(p[1]))})" fill="${look.ground}" stroke="${ink}" stroke-width="1.2"/>`,
        );
      });
  }
  out.push('</g>');

  for (const m of figure.marks) {
    const [px, py] = [num(x(m.x)), num(y(m.y))];
    const ink = inkOf(look, m.style);
    out.push(`<path d="${markerOf(m.style)}" transform="translate(${px},${py}) scale(1.25)" fill="${ink}"/>`);
    if (m.name) taken.push({ text: m.name, x: px + 7, y: py - 6, ink, width: LETTER * SMALL * m.name.length });
  }
  for (const s of figure.series) {
    const there = s.points.filter((p): p is [number, number] => p !== null);
    const at = there.at(s.closed ? Math.floor(there.length / 4) : -1);
    if (!at || !s.name) continue;
    names.push({
      text: s.name,
      x: x(at[0]) + 6,
      y: y(at[1]) + 3,
      ink: s.faint ? look.soft : inkOf(look, s.style),
      width: LETTER * SMALL * s.name.length,
    });
  }
  // From the top down: names that make room keep the order of their curves.
  names.sort((p, q) => p.y - q.y);
  const box = { left, right: width, top, bottom };
  for (const n of apart([...taken, ...names], box))
    out.push(
      textAt(num(n.x), num(n.y), n.text, {
        fill: n.ink,
        'font-weight': 600,
        ...(look.halo && {
          stroke: look.ground,
          'stroke-width': 2.5,
          'paint-order': 'stroke',
          'stroke-linejoin': 'round',
        }),
      }),
    );
  for (const b of figure.bands) {
    if (!b.name) continue;
    const along = b.axis === 'x' ? x : y;
    const middle = clearOf(b.from ?? along.domain()[0], b.to ?? along.domain()[1], along.domain() as [number, number]);
    if (middle === null) continue;
    out.push(
      b.axis === 'x'
        ? textAt(num(x(middle)), top + 11, b.name, { fill: look.soft, 'text-anchor': 'middle', 'font-style': 'italic' })
        : textAt(left + 5, num(y(middle)) + 3.5, b.name, { fill: look.soft, 'font-style': 'italic' }),
    );
  }
  out.push('</svg>');
  return out.join('');
}
