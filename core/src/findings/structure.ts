import type { Strength } from '../candidate';
import { number, type Finding } from './findings';

/** Times the dive speed that a wing shall be free of divergence and keep its control. @source 14 CFR 23.629, 1996: 1.2. */
const CLEAR = 1.2;

/** Members that do not hold, and surfaces that diverge or lose their control too soon. @param dive equivalent, m/s. */
export function structureFindings({ surfaces }: Strength, dive: number): Finding[] {
  const evidence = { area: 'structure' } as const;
  return surfaces.flatMap((s): Finding[] => {
    const found: Finding[] = [];
    const failing = s.members.filter((m) => m.worst && m.worst.reserve < 0);
    for (const m of failing)
      found.push({
        code: 'member-fails',
        id: `member-${m.id}`,
        state: 'outside',
        facts: {
          surface: s.name,
          member: m.name,
          reserve: number(m.worst!.reserve, 'ratio', 0),
          mode: m.worst!.mode,
          place: number(m.worst!.place, 'length', 2),
          case: m.worst!.case,
          thicker: (m.worst!.thicker ?? []).map((t) => ({
            label: t.label,
            from: number(t.from, 'thickness', 2),
            to: number(t.to, 'thickness', 2),
          })),
        },
        evidence,
      });
    const clear = number(CLEAR * dive, 'speed', 1);
    if (s.divergenceSpeed !== null && s.divergenceSpeed < CLEAR * dive)
      found.push({
        code: 'diverges',
        id: `diverges-${s.id}`,
        state: 'outside',
        facts: { surface: s.name, speed: number(s.divergenceSpeed, 'speed', 1), clear },
        evidence,
      });
    for (const r of s.reversal)
      if (r.speed !== null && r.speed < CLEAR * dive)
        found.push({
          code: 'control-reverses',
          id: `reverses-${r.control}`,
          state: 'outside',
          facts: { control: r.name, speed: number(r.speed, 'speed', 1), clear },
          evidence,
        });
    if (failing.length === 0 && s.members.some((m) => m.worst))
      found.push({
        code: 'surface-holds',
        id: `holds-${s.id}`,
        state: 'inside',
        facts: {
          surface: s.name,
          reserve: number(Math.min(...s.members.flatMap((m) => (m.worst ? [m.worst.reserve] : []))), 'ratio', 0),
        },
        evidence,
      });
    return found;
  });
}
