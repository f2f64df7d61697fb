import type { Measured } from '@veldtwind/core/control';

/** What is measured, in words, with the unit that it is shown in and what it is multiplied with for that. */
export const MEASURES: Record<Measured, { name: string; symbol: string; unit: string; times: number }> = {
  alpha: { name: 'angle of attack', symbol: 'α', unit: '°', times: 180 / Math.PI },
  beta: { name: 'sideslip', symbol: 'β', unit: '°', times: 180 / Math.PI },
  p: { name: 'roll rate', symbol: 'p', unit: '°/s', times: 180 / Math.PI },
  q: { name: 'pitch rate', symbol: 'q', unit: '°/s', times: 180 / Math.PI },
  r: { name: 'yaw rate', symbol: 'r', unit: '°/s', times: 180 / Math.PI },
  rTurn: { name: 'yaw rate beside the turn’s', symbol: 'r − turn', unit: '°/s', times: 180 / Math.PI },
  phi: { name: 'bank', symbol: 'φ', unit: '°', times: 180 / Math.PI },
  theta: { name: 'pitch attitude', symbol: 'θ', unit: '°', times: 180 / Math.PI },
  psi: { name: 'heading', symbol: 'ψ', unit: '°', times: 180 / Math.PI },
  climb: { name: 'climb angle', symbol: 'γ', unit: '°', times: 180 / Math.PI },
  course: { name: 'course', symbol: 'χ', unit: '°', times: 180 / Math.PI },
  height: { name: 'height', symbol: 'h', unit: 'm', times: 1 },
  V: { name: 'speed', symbol: 'V', unit: 'm/s', times: 1 },
};
