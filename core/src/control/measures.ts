import type { Measured } from './chains';
import { DEG } from '../numerics';

/** What is measured, in words, with the unit that it is shown in and what it is multiplied with for that. */
export const MEASURES: Record<Measured, { name: string; symbol: string; unit: string; times: number }> = {
  alpha: { name: 'angle of attack', symbol: 'α', unit: '°', times: DEG },
  beta: { name: 'sideslip', symbol: 'β', unit: '°', times: DEG },
  p: { name: 'roll rate', symbol: 'p', unit: '°/s', times: DEG },
  q: { name: 'pitch rate', symbol: 'q', unit: '°/s', times: DEG },
  r: { name: 'yaw rate', symbol: 'r', unit: '°/s', times: DEG },
  rTurn: { name: 'yaw rate less that of the coordinated turn', symbol: 'r − turn', unit: '°/s', times: DEG },
  phi: { name: 'bank', symbol: 'φ', unit: '°', times: DEG },
  theta: { name: 'pitch attitude', symbol: 'θ', unit: '°', times: DEG },
  psi: { name: 'heading', symbol: 'ψ', unit: '°', times: DEG },
  climb: { name: 'climb angle', symbol: 'γ', unit: '°', times: DEG },
  course: { name: 'course', symbol: 'χ', unit: '°', times: DEG },
  height: { name: 'height', symbol: 'h', unit: 'm', times: 1 },
  V: { name: 'speed', symbol: 'V', unit: 'm/s', times: 1 },
};
