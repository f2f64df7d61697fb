import type { ChartSeries } from '@/lib/chart-model';
import { controlOf, type Mode } from '@veldtwind/core/motion';
import type { ResponseOutput } from '@veldtwind/core/estimation';
import { DEG } from '@veldtwind/core/numerics';
import { formatNumber } from '@veldtwind/core/units';

const time = (s: number) => (s < 0.1 ? `${formatNumber(1000 * s, 0)} ms` : `${formatNumber(s, s < 10 ? 2 : 1)} s`);

/** A mode in a sentence: whether it dies out, how fast, and its period. */
export function modeSentence(m: Mode): string {
  const period = m.period === undefined ? '' : `, period ${time(m.period)}`;
  if (m.timeToHalf !== undefined) {
    const cycles = m.period === undefined ? '' : ` (${formatNumber(m.timeToHalf / m.period, 2)} cycles)`;
    return `dies out: halves in ${time(m.timeToHalf)}${cycles}${period}`;
  }
  if (m.timeToDouble !== undefined)
    return `grows: doubles in ${time(m.timeToDouble)}${period}${m.timeToDouble > 20 && m.period === undefined ? '; slow enough to be flown' : ''}`;
  return `neither grows nor dies out${period}`;
}

/** States as they are shown: velocities across the stream as angles. */
export const SHOWN_STATES: Record<string, { symbol: string; unit: string }> = {
  u: { symbol: 'u / V', unit: '%' },
  w: { symbol: 'α', unit: '°' },
  q: { symbol: 'q', unit: '°/s' },
  theta: { symbol: 'θ', unit: '°' },
  v: { symbol: 'β', unit: '°' },
  p: { symbol: 'p', unit: '°/s' },
  r: { symbol: 'r', unit: '°/s' },
  phi: { symbol: 'φ', unit: '°' },
};
/** A state's value as it is shown. @param speed m/s. */
export function shownState(state: string, value: number, speed: number): number {
  if (state === 'u') return (100 * value) / speed;
  if (state === 'w' || state === 'v') return (DEG * value) / speed;
  return DEG * value;
}
/** What each derivative is of what. */
export const DERIVATIVES: [string, string][] = [
  ['CL_alpha', 'lift per angle of attack'],
  ['CD_alpha', 'drag per angle of attack'],
  ['Cm_alpha', 'pitching moment per angle of attack'],
  ['CL_q', 'lift per pitch rate q c / 2V'],
  ['CD_q', 'drag per pitch rate q c / 2V'],
  ['Cm_q', 'pitch damping, per q c / 2V'],
  ['CL_alphadot', 'lift per rate of α, α̇ c / 2V'],
  ['Cm_alphadot', 'lag of the downwash, per α̇ c / 2V'],
  ['CL_u', 'lift per change of speed'],
  ['CD_u', 'drag per change of speed'],
  ['Cm_u', 'pitching moment per change of speed'],
  ['CY_beta', 'side force per sideslip'],
  ['Cl_beta', 'dihedral effect, per sideslip'],
  ['Cn_beta', 'weathercock stability, per sideslip'],
  ['CY_p', 'side force per roll rate p b / 2V'],
  ['Cl_p', 'roll damping, per p b / 2V'],
  ['Cn_p', 'yaw per roll rate p b / 2V'],
  ['CY_r', 'side force per yaw rate r b / 2V'],
  ['Cl_r', 'roll per yaw rate r b / 2V'],
  ['Cn_r', 'yaw damping, per r b / 2V'],
];
/** How what is recorded, estimated and predicted is drawn. */
export type RecordStyles = Record<'recorded' | 'estimated' | 'predicted', ChartSeries['style'] & { width: number }>;
/** Recorded responses; the speed is in the reader's unit. */
export const OUTPUTS: Record<ResponseOutput, { name: string; symbol: string; unit?: string }> = {
  speed: { name: 'Speed', symbol: 'V' },
  alpha: { name: 'Angle of attack', symbol: 'α', unit: '°' },
  q: { name: 'Pitch rate', symbol: 'q', unit: '°/s' },
  theta: { name: 'Pitch angle', symbol: 'θ', unit: '°' },
  beta: { name: 'Sideslip', symbol: 'β', unit: '°' },
  p: { name: 'Roll rate', symbol: 'p', unit: '°/s' },
  r: { name: 'Yaw rate', symbol: 'r', unit: '°/s' },
  phi: { name: 'Bank angle', symbol: 'φ', unit: '°' },
};
/** A derivative's name as it is shown. */
export function titleOf(name: string): string {
  const of = controlOf(name);
  return of ? `${of.coefficient} ${of.control}` : name.replace('_', ' ');
}
