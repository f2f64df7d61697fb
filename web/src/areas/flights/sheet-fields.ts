import { computed } from 'vue';
import type { FieldLimit } from '@veldtwind/core/limits';
import type { Scenario } from '@veldtwind/core/simulation';
import type { useFlights } from './use-flights';

/** Fields of a scenario's sheet: plain numbers, angles in degrees, speeds and heights. */
export const plain = (label: string, min: number, max: number, step: number): FieldLimit => ({
  label,
  dimension: 'plain',
  min,
  max,
  step,
});
export const angle = (label: string, min: number, max: number, step = 1): FieldLimit => ({
  label,
  dimension: 'angle',
  min,
  max,
  step,
});
export const SPEED: FieldLimit = { label: 'Speed', dimension: 'speed', min: 0, max: 400, step: 1 };
export const HEIGHT: FieldLimit = {
  label: 'Height over ground',
  dimension: 'length',
  min: 0,
  max: 30000,
  step: 5,
};

/** The scenario that is looked at, and the edits of it. */
export function useScenario(flights: ReturnType<typeof useFlights>) {
  return {
    s: computed(() => flights.part.value!.scenario),
    change: (label: string, edit: (s: Scenario) => void) => flights.edit(label, (p) => edit(p.scenario)),
    show: (edit: (s: Scenario) => void) => flights.show((p) => edit(p.scenario)),
  };
}
