import type { Servo } from './schema';

/** Servos to begin with, made up: sizes as they are built, with the torque that they hold and their travel either way. */
export const SERVOS: readonly (Pick<Servo, 'torque' | 'travelDeg'> & { name: string; massKg: number })[] = [
  { name: 'Wagtail 9', torque: 0.12, travelDeg: 45, massKg: 0.009 },
  { name: 'Wagtail 17', torque: 0.35, travelDeg: 45, massKg: 0.017 },
  { name: 'Kestrel 26', torque: 0.8, travelDeg: 50, massKg: 0.026 },
  { name: 'Kestrel 55', torque: 1.5, travelDeg: 60, massKg: 0.055 },
  { name: 'Bustard 80', torque: 3, travelDeg: 60, massKg: 0.08 },
  { name: 'Bustard 180', torque: 7.5, travelDeg: 60, massKg: 0.18 },
];
