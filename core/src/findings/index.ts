import { referenceSurface, planformOf } from '../airframe';
import { angleForLift, type Evaluation } from '../candidate';
import type { Band, BriefPart, CandidatePart } from '../project';

/** One plain sentence with a figure, held against the brief. */
export interface Finding {
  id: string;
  /** `inside` a band, `outside` it, `missing` something that is needed, or a `fact` without a band. */
  state: 'inside' | 'outside' | 'missing' | 'fact';
  /** The part that is set strong. */
  headline: string;
  /** The rest of the sentence. */
  detail: string;
  /** Where the evidence is. */
  area: 'brief' | 'sections' | 'airframe' | 'lift' | 'balance';
  /** What would mend it, when it can be said. */
  fix?: { kind: 'tail-incidence'; surfaceId: string; targetDeg: number } | { kind: 'open'; label: string };
}

const DEG = 180 / Math.PI;
const minus = (text: string) => text.replace(/-/g, '−');
const fixed = (v: number, digits: number) =>
  minus(Number(v.toFixed(digits)) === 0 ? (0).toFixed(digits) : v.toFixed(digits));

/** A band in words, such as `3–5°`, `above 5 %`, or null when it is open on both sides. */
export function bandWords(band: Band, digits: number, unit: string, scale = 1): string | null {
  const show = (v: number) => minus(String(Number((v * scale).toFixed(digits))));
  if (band.min !== null && band.max !== null)
    return `${show(band.min)}${band.min * scale < 0 || band.max * scale < 0 ? ' to ' : '–'}${show(band.max)}${unit}`;
  if (band.min !== null) return `above ${show(band.min)}${unit}`;
  if (band.max !== null) return `below ${show(band.max)}${unit}`;
  return null;
}

/** Whether a value lies in a band; undefined when the band is open. */
export function inBand(value: number, band: Band): boolean | undefined {
  if (band.min === null && band.max === null) return undefined;
  return (band.min === null || value >= band.min - 1e-12) && (band.max === null || value <= band.max + 1e-12);
}

function held(
  id: string,
  headline: string,
  value: number,
  band: Band,
  words: string | null,
  area: Finding['area'],
  fix?: Finding['fix'],
): Finding {
  const inside = inBand(value, band);
  if (inside === undefined || words === null) return { id, state: 'fact', headline, detail: '', area };
  return inside
    ? { id, state: 'inside', headline, detail: `, inside ${words}`, area }
    : { id, state: 'outside', headline, detail: `, outside ${words}`, area, ...(fix ? { fix } : {}) };
}

/** All findings of a candidate, what is wrong or missing first. */
export function findingsOf(brief: BriefPart, candidate: CandidatePart, evaluation: Evaluation): Finding[] {
  const found: Finding[] = [];
  const { lift, balance, mass, design } = evaluation;
  if (candidate.surfaces.length === 0) {
    found.push({
      id: 'no-wing',
      state: 'missing',
      headline: 'No wing yet',
      detail: ': draw one to see how it lifts',
      area: 'airframe',
      fix: { kind: 'open', label: 'Draw a wing' },
    });
  }
  for (const p of evaluation.problems) {
    found.push({
      id: `problem-${p.code}`,
      state: 'missing',
      headline: 'Cannot be computed',
      detail: `: ${p.message}`,
      area: p.code.startsWith('mass') ? 'balance' : 'airframe',
    });
  }
  if (!mass) {
    found.push({
      id: 'no-centre',
      state: 'missing',
      headline: 'Centre of gravity not set',
      detail: ': moments are taken about the quarter chord until a mass item is given',
      area: 'balance',
      fix: { kind: 'open', label: 'Give a mass item' },
    });
  }
  if (balance && lift) {
    const trim = balance.trims[0];
    const tail = candidate.surfaces.find((s) => s.role === 'tailplane');
    const band = brief.bands.trimAngleDeg;
    const target = band.min !== null && band.max !== null ? (band.min + band.max) / 2 : (band.min ?? band.max);
    const fix =
      tail && target !== null
        ? ({ kind: 'tail-incidence', surfaceId: tail.id, targetDeg: target } as const)
        : undefined;
    if (trim) {
      found.push(
        held(
          'trim-angle',
          `Trims at ${fixed(trim.alpha * DEG, 1)}°`,
          trim.alpha * DEG,
          band,
          bandWords(band, 1, '°'),
          'balance',
          fix,
        ),
      );
      if (!trim.stable)
        found.push({
          id: 'trim-unstable',
          state: 'outside',
          headline: 'The trim is unstable',
          detail: ': any gust takes it further away',
          area: 'balance',
        });
      else if (trim.speed !== null) {
        found.push({
          id: 'trim-speed',
          state: 'fact',
          headline: `Trim speed ${fixed(trim.speed, 1)} m/s`,
          detail: `, for a design speed of ${fixed(brief.speed, 1)} m/s`,
          area: 'balance',
        });
      } else {
        found.push({
          id: 'trim-lift',
          state: 'outside',
          headline: 'Trims without lift',
          detail: ': at that angle the wing pushes down',
          area: 'balance',
          ...(fix ? { fix } : {}),
        });
      }
    } else {
      found.push({
        id: 'trim-angle',
        state: 'outside',
        headline: 'Does not trim',
        detail: ` between ${minus(String(candidate.sweep.fromDeg))}° and ${minus(String(candidate.sweep.toDeg))}°`,
        area: 'balance',
        ...(fix ? { fix } : {}),
      });
    }
    const margin = held(
      'static-margin',
      `Static margin ${fixed(100 * balance.staticMargin, 1)} %`,
      balance.staticMargin,
      brief.bands.staticMargin,
      bandWords(brief.bands.staticMargin, 1, ' %', 100),
      'balance',
    );
    if (balance.staticMargin < 0)
      found.push({ ...margin, state: 'outside', detail: ': the centre of gravity is behind the neutral point' });
    else found.push(margin);
    const slope = balance.pitchSlope / DEG;
    found.push(
      held(
        'pitch-slope',
        `Pitch slope ${fixed(slope, 4)} per degree`,
        slope,
        brief.bands.pitchSlopePerDeg,
        bandWords(brief.bands.pitchSlopePerDeg, 4, ''),
        'balance',
      ),
    );
  }
  if (mass && Math.abs(mass.mass / brief.mass - 1) > 0.01) {
    found.push({
      id: 'mass',
      state: 'outside',
      headline: `Mass items add up to ${fixed(mass.mass, 2)} kg`,
      detail: `, the brief says ${fixed(brief.mass, 2)} kg`,
      area: 'balance',
    });
  }
  if (candidate.surfaces.length > 0 && !evaluation.problems.some((p) => p.path)) {
    const span = planformOf(referenceSurface(candidate.surfaces)).span;
    if (brief.spanLimit !== null) {
      found.push(
        held(
          'span',
          `Span ${fixed(span, 2)} m`,
          span,
          { min: null, max: brief.spanLimit },
          `${fixed(brief.spanLimit, 2)} m`,
          'airframe',
        ),
      );
    }
  }
  if (lift && design?.CL) {
    const needed = angleForLift(lift, design.CL);
    found.push(
      needed === null
        ? {
            id: 'lift-needed',
            state: 'outside',
            headline: `CL ${fixed(design.CL, 3)} is not reached`,
            detail: ' within the sweep of angles',
            area: 'lift',
          }
        : {
            id: 'lift-needed',
            state: 'fact',
            headline: `CL ${fixed(design.CL, 3)} at ${fixed(needed * DEG, 1)}°`,
            detail: ' carries the weight at the design point (inviscid)',
            area: 'lift',
          },
    );
  }
  const order = { missing: 0, outside: 1, inside: 2, fact: 3 };
  return found.sort((a, b) => order[a.state] - order[b.state]);
}
