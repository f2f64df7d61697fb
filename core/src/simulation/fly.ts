import type { BoardCommand, BoardTick, BoardTiming, Flight, Flown } from './flight';
import { FlightRun } from './flight-run';
import type { Scenario } from './scenario';

/** Flies a scenario. @param report share done, 0 to 1. @throws InvalidInput for names that are not there, a launch in the ground; FailedComputation `no-trim`. */
export function fly(scenario: Scenario, vehicle: Flown, report: (done: number) => void = () => {}): Flight {
  return new FlightRun(scenario, vehicle, report).go();
}

/**
 * Flies a scenario whose controls something outside moves, step by step: each step tells what sensors measure and takes an answer, or nothing.
 * @throws as {@link fly}.
 */
export function flyBoard(
  scenario: Scenario,
  vehicle: Flown,
  timing: BoardTiming,
): { trim: Record<string, number>; throttle: number; steps: Generator<BoardTick, Flight, BoardCommand | null> } {
  const run = new FlightRun({ ...scenario, autopilot: undefined }, vehicle, () => {});
  return run.board(timing);
}
