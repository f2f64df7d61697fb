import type { Measurement } from './autopilot';
import type { Vehicle } from './vehicle';

/** How a flight came to its end. */
export type Ending = 'time' | 'ground' | 'waypoints' | 'on-rail' | 'diverged';

/** A flight: what was written down, by column, and what it comes to. */
export interface Flight {
  columns: string[];
  /** One list a column. */ series: number[][];
  summary: FlightSummary;
}

export interface FlightSummary {
  /** Over the ground from the launch place to the end, m. */ range: number;
  /** s */ time: number;
  /** Force of air and thrust over the weight, across the body and up; the greatest in size. */ greatestLoadFactor: number;
  greatestHeight: number;
  greatestSpeed: number;
  greatestAlphaDeg: number;
  ended: Ending;
  reason: string;
  /** Speed over the ground and rate of descent at the end, m/s. */ endSpeed: number;
  endSink: number;
  trim?: { alphaDeg: number; climbDeg: number; throttle: number; controls: Record<string, number> };
  leftRail?: { t: number; speed: number };
  burnOuts: { name: string; t: number; speed: number; height: number }[];
  waypoints: { name: string; t: number }[];
  /** Share of the time in which the tables of the aerodynamics did not reach, and plates stood in. */ beyondTables: number;
  notes: string[];
  work: { steps: number; evaluations: number };
}

/** What a vehicle with thrust brings to a flight. */
export interface Flown extends Vehicle {
  bends: readonly number[];
  burnOuts: readonly { name: string; t: number }[];
  /** What is to be told of how it was made. */ notes?: readonly string[];
  /** Index of the control that pitches; −1 where there is none. */ pitch: number;
}

/** What a board outside is told at each step of its computing. */
export interface BoardTick extends Omit<Measurement, 'rTurn'> {
  /** Number of the step. */ n: number;
  t: number;
}
/** What it answers: deflections by the control's name, rad, instead of the trimmed ones, and the throttle; what is not named stays. */
export interface BoardCommand {
  deflections?: Readonly<Record<string, number>>;
  throttle?: number;
}
/** Steps of a board outside, s, and how late its answers reach the controls. */
export interface BoardTiming {
  step: number;
  delay: number;
}
