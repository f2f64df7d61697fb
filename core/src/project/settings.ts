import type { Draft } from 'immer';
import type { LiftingSurface } from '../airframe';
import { freeId } from '../limits';
import { InvalidInput } from '../numerics';
import type { CandidatePart, ControlSetting } from './parts';

/** Deflections of all controls of surfaces, degrees, by id. */
export const deflectionsDeg = (surfaces: readonly LiftingSurface[]): Record<string, number> =>
  Object.fromEntries(surfaces.flatMap((s) => (s.controls ?? []).map((c) => [c.id, c.deflectionDeg])));

/** Surfaces with their controls as a setting has them; those that it does not name are at rest. */
export function deflected(
  surfaces: readonly LiftingSurface[],
  deflections: Readonly<Record<string, number>>,
): LiftingSurface[] {
  return surfaces.map((s) =>
    s.controls ? { ...s, controls: s.controls.map((c) => ({ ...c, deflectionDeg: deflections[c.id] ?? 0 })) } : s,
  );
}

/**
 * A candidate with its controls in a setting that it keeps.
 * @param name of the setting, or its id. @throws InvalidInput `setting-missing`, or `control-missing` and `control-limits` for what it names.
 */
export function withSetting<C extends Pick<CandidatePart, 'surfaces' | 'settings'>>(candidate: C, name: string): C {
  const all = candidate.settings ?? [];
  const setting = all.find((s) => s.name === name) ?? all.find((s) => s.id === name);
  if (!setting)
    throw new InvalidInput(
      'setting-missing',
      `There is no setting "${name}".`,
      all.length > 0 ? `There are ${all.map((s) => s.name).join(', ')}.` : 'The candidate keeps none.',
      'settings',
    );
  const controls = candidate.surfaces.flatMap((s) => s.controls ?? []);
  for (const [id, value] of Object.entries(setting.deflectionsDeg)) {
    const control = controls.find((c) => c.id === id);
    if (!control)
      throw new InvalidInput(
        'control-missing',
        `Setting ${setting.name} names the control "${id}", which is not there.`,
        'Keep the setting again.',
        'settings',
      );
    const [low, high] = control.limitsDeg;
    if (value < low || value > high)
      throw new InvalidInput(
        'control-limits',
        `Setting ${setting.name} puts ${control.name} at ${value}°; it goes from ${low}° to ${high}°.`,
        'Widen its limits, or keep the setting again.',
        'settings',
      );
  }
  return { ...candidate, surfaces: deflected(candidate.surfaces, setting.deflectionsDeg) };
}

/** The kept setting that the controls stand in now; undefined where they stand in none. */
export function settingNow(candidate: Pick<CandidatePart, 'surfaces' | 'settings'>): ControlSetting | undefined {
  const now = deflectionsDeg(candidate.surfaces);
  return candidate.settings?.find((s) => Object.entries(now).every(([id, v]) => (s.deflectionsDeg[id] ?? 0) === v));
}

/** Keeps where the controls stand now under a name; one of the same name is replaced. The candidate given is changed. */
export function keepSetting(candidate: Draft<CandidatePart>, name: string): void {
  const list = (candidate.settings ??= []);
  const deflections = deflectionsDeg(candidate.surfaces as LiftingSurface[]);
  const known = list.find((s) => s.name === name);
  if (known) known.deflectionsDeg = deflections;
  else list.push({ id: freeId(name, (id) => list.some((s) => s.id === id)), name, deflectionsDeg: deflections });
}

/** Puts the controls where a kept setting has them, as far as their limits go. The candidate given is changed. */
export function useSetting(candidate: Draft<CandidatePart>, id: string): void {
  const setting = candidate.settings?.find((s) => s.id === id);
  if (!setting) return;
  for (const s of candidate.surfaces)
    for (const c of s.controls ?? [])
      c.deflectionDeg = Math.min(c.limitsDeg[1], Math.max(c.limitsDeg[0], setting.deflectionsDeg[c.id] ?? 0));
}
