import type { Band } from '../project';
import { displayUnit, formatNumber, withShownMark, type Dimension, type UnitSet } from '../units';
import type { Finding, FindingCode, FindingNumber } from './findings';
import { DEG } from '../numerics';
import { METHOD_FACTS } from '../quantities';
import { COMPARED, METHOD_NAMES } from './method-words';

/** A finding in words: the part that is set strong, and the rest of the sentence. */
export interface FindingWords {
  headline: string;
  detail: string;
  /** What its fix is called, where there is one. */
  action?: string;
}

/** The unit as it follows a number: a degree stands close, others after a blank. */
const unitAfter = (dimension: Dimension, set: UnitSet) => {
  const { symbol } = displayUnit(dimension, set);
  return symbol === '' || symbol === '°' ? symbol : ` ${symbol}`;
};

/** A number with its unit, in the reader's units. */
export function quantityWords({ value, dimension, digits, per }: FindingNumber, set: UnitSet): string {
  if (per !== undefined) return `${formatNumber(value, digits ?? 2)}${per === '°' ? '' : ' '}${per}`;
  const unit = displayUnit(dimension, set);
  const shown = digits ?? (dimension === 'length' && set !== 'small' ? 2 : unit.digits);
  return `${formatNumber(value * unit.scale, shown)}${unitAfter(dimension, set)}`;
}

/** A band in words, such as `3–5°`, `above 5 %`, or null when it is open on both sides. */
export function bandWords(
  band: Band,
  dimension: Dimension,
  set: UnitSet,
  digits?: number,
  per?: string,
): string | null {
  const unit = displayUnit(dimension, set);
  const show = (v: number) =>
    withShownMark(String(Number((v * unit.scale).toFixed(digits ?? unit.digits))).replace('-', '−'));
  const after = per === undefined ? unitAfter(dimension, set) : ` ${per}`;
  if (band.min !== null && band.max !== null)
    return `${show(band.min)}${band.min < 0 || band.max < 0 ? ' to ' : '–'}${show(band.max)}${after}`;
  if (band.min !== null) return `above ${show(band.min)}${after}`;
  if (band.max !== null) return `below ${show(band.max)}${after}`;
  return null;
}

type Of<C extends FindingCode> = Extract<Finding, { code: C }>;
/** `, inside 3–5°`, or nothing where the band is open. */
const against = (f: Finding, n: FindingNumber, set: UnitSet): string => {
  const words = f.band && bandWords(f.band, n.dimension, set, n.digits, n.per);
  return words && f.state !== 'fact' ? `, ${f.state} ${words}` : '';
};

/** The sentence of every code; a code without one does not compile. */
const SENTENCES: { [C in FindingCode]: (f: Of<C>, q: (n: FindingNumber) => string, set: UnitSet) => FindingWords } = {
  'no-wing': () => ({ headline: 'No wing yet', detail: ': draw one to see how it lifts', action: 'Draw a wing' }),
  problem: ({ facts }) => ({
    headline: facts.doubtful ? 'Surface panels are doubtful here' : 'Cannot be computed',
    detail: `: ${facts.message}`,
  }),
  'no-centre': () => ({
    headline: 'Centre of gravity not set',
    detail: ': moments are taken about the quarter chord until a mass item is given',
    action: 'Give a mass item',
  }),
  crossing: ({ facts }) => ({
    headline: `${facts.first} crosses ${facts.second}`,
    detail: ': where they pass through each other the lattice is not to be trusted; move one, or attach it',
  }),
  'trim-angle': (f, q, set) => ({ headline: `Trims at ${q(f.facts.trim)}`, detail: against(f, f.facts.trim, set) }),
  'trim-unstable': () => ({ headline: 'The trim is unstable', detail: ': any gust takes it further away' }),
  'trim-speed': ({ facts }, q) => ({
    headline: `Trim speed ${q(facts.speed)}`,
    detail: `, for a design speed of ${q(facts.wanted)}`,
  }),
  'trim-lift': () => ({ headline: 'Trims without lift', detail: ': at that angle the wing pushes down' }),
  'no-trim': ({ facts }, q) => ({ headline: 'Does not trim', detail: ` between ${q(facts.from)} and ${q(facts.to)}` }),
  'static-margin': (f, q, set) => ({
    headline: `Static margin ${q(f.facts.margin)}`,
    detail:
      f.facts.margin.value < 0
        ? ` (${METHOD_FACTS[f.facts.method].name}): the centre of gravity is behind the neutral point`
        : ` (${METHOD_FACTS[f.facts.method].name})${against(f, f.facts.margin, set)}`,
  }),
  'stall-speed': (f, q, set) => ({
    headline: `Stall speed ${q(f.facts.speed)}`,
    detail: `${against(f, f.facts.speed, set)}${f.facts.by === 'travel' ? '; the control that trims ends its travel there' : ''}`,
  }),
  'pitch-slope': (f, q, set) => ({
    headline: `Pitch slope ${q(f.facts.slope)} per degree`,
    detail: `${against(f, f.facts.slope, set)} (${formatNumber(f.facts.slope.value * DEG, 3)} per radian)`,
  }),
  requirement: (f, q, set) => {
    const at = f.facts.at ? ` at ${q(f.facts.at)}` : '';
    const name = `${f.facts.name.replace(/^[a-z]/, (c) => c.toUpperCase())}${at}`;
    const wish = f.facts.weight === 'wish' ? ' (a wish)' : '';
    return f.facts.value === null
      ? { headline: `${name} not available`, detail: `${wish}: ${f.facts.reason ?? 'This candidate has none.'}` }
      : { headline: `${name} ${q(f.facts.value)}`, detail: `${against(f, f.facts.value, set)}${wish}` };
  },
  mass: ({ facts }, q) => ({
    headline: `Mass items add up to ${q(facts.sum)}`,
    detail: `, the brief says ${q(facts.wanted)}`,
  }),
  span: (f, q) => ({
    headline: `Span ${q(f.facts.span)}`,
    detail: f.band?.max == null ? '' : `, ${f.state} ${q({ ...f.facts.span, value: f.band.max })}`,
  }),
  'lift-needed': ({ facts }, q) => ({
    headline: `CL ${q(facts.CL)} at ${q(facts.alpha)}`,
    detail: ` carries the weight at the design point (${METHOD_FACTS[facts.method].name})`,
  }),
  'trim-control': ({ facts }, q) => ({
    headline: `${facts.control} needs ${q(facts.needed)} to trim`,
    detail: ` at ${q(facts.speed)}, its limit is ${q(facts.limit)}`,
  }),
  'member-fails': ({ facts }, q) => ({
    headline: `${facts.member[0].toUpperCase()}${facts.member.slice(1)} of ${facts.surface} fails in ${facts.mode}`,
    detail: `: reserve ${q(facts.reserve)} at ${q(facts.place)} from the root, ${facts.case}${
      facts.thicker.length === 0
        ? ''
        : `; it holds with ${facts.thicker.map((t) => `${t.label.toLowerCase()} ${q(t.to)} instead of ${q(t.from)}`).join(', ')}`
    }`,
  }),
  'surface-holds': ({ facts }, q) => ({
    headline: `${facts.surface} holds`,
    detail: `: least reserve ${q(facts.reserve)}`,
  }),
  diverges: ({ facts }, q) => ({
    headline: `${facts.surface} diverges at ${q(facts.speed)}`,
    detail: `, below 1.2 times the dive speed, ${q(facts.clear)}: stiffen it in torsion, or bring the elastic axis forward`,
  }),
  'control-reverses': ({ facts }, q) => ({
    headline: `${facts.control} reverses at ${q(facts.speed)}`,
    detail: `, below 1.2 times the dive speed, ${q(facts.clear)}: stiffen the wing in torsion`,
  }),
  'mode-grows': ({ facts }, q) => ({
    headline: `The ${facts.mode} grows`,
    detail: `: it doubles in ${q(facts.doubles)} s`,
  }),
  'mode-damping': (f, q, set) => ({
    headline: `Damping of the ${f.facts.mode} ${q(f.facts.damping)}`,
    detail: against(f, f.facts.damping, set),
  }),
  'mode-level': ({ facts }) => ({
    headline: `The ${facts.mode} is ${facts.level > 3 ? 'below level 3' : `level ${facts.level}`}`,
    detail: `: ${facts.says}`,
  }),
  'modes-level': ({ facts }) => ({
    headline: `All modes are level ${facts.level}`,
    detail: ' by the public requirements, for the class and phase chosen in Motion',
  }),
  'methods-differ': ({ facts }, q) => ({
    headline: 'Methods disagree',
    detail: `: ${facts.pairs
      .map(
        ({ quantity, first, second, methods }) =>
          `${COMPARED[quantity].name} ${q(first)} by ${METHOD_NAMES[methods[0]]}, ${q(second)} by ${METHOD_NAMES[methods[1]]}`,
      )
      .join('; ')}`,
  }),
  'loop-grows': ({ facts }) => ({
    headline: `The loop on ${facts.loop} grows`,
    detail: ': it is not stable',
    action: 'Look at it',
  }),
  'loop-margin': ({ facts }, q, set) => ({
    headline: `The loop on ${facts.loop} keeps ${[facts.phase && q(facts.phase), facts.gain && `${q(facts.gain)} dB`].filter(Boolean).join(' and ')}`,
    detail: `, ${bandWords(facts.band, facts.phase ? 'angle' : 'plain', set, 0)}${facts.phase ? '' : ' dB'} wanted`,
    action: 'Look at it',
  }),
  'loops-keep': ({ facts }) => ({
    headline: facts.count === 1 ? 'The loop keeps its margins' : `All ${facts.count} loops keep their margins`,
    detail: ' that are aimed at',
  }),
  'loop-fails': ({ facts }) => ({
    headline: `The loop on ${facts.loop} cannot be closed`,
    detail: `: ${facts.message}`,
    action: 'Look at it',
  }),
  'loops-stale': ({ facts }) => ({
    headline: `Gains of ${facts.chains.join(' and ')} were found for another aircraft`,
    detail: ': it has changed since',
    action: 'Tune again',
  }),
  'lift-not-reached': ({ facts }, q) => ({
    headline: `CL ${q(facts.CL)} is not reached`,
    detail: ' within the sweep of angles',
  }),
};

/** A finding in words, in the reader's units. */
export function findingWords(finding: Finding, set: UnitSet = 'metric'): FindingWords {
  const sentence = SENTENCES[finding.code] as (
    f: Finding,
    q: (n: FindingNumber) => string,
    set: UnitSet,
  ) => FindingWords;
  return sentence(finding, (n) => quantityWords(n, set), set);
}
