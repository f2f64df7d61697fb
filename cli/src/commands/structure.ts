import { Command } from 'commander';
import { strengthOf, thickEnough, type MemberStrength, type SurfaceStrength } from '@veldtwind/core/candidate';
import { InvalidInput } from '@veldtwind/core/numerics';
import { PERFORMANCE_LIMITS } from '@veldtwind/core/performance';
import { limitBroken } from '@veldtwind/core/limits';
import { readRange } from '../arguments';
import { readLoads, withLoadOptions, type LoadOptions } from '../load-options';
import { printJson, table } from '../output';

interface Options extends LoadOptions {
  safety: string;
  size?: string;
}

export function structureCommand(): Command {
  return withLoadOptions(new Command('structure'))
    .description('Stress and reserve of spars and skins, deflection, divergence and frequencies of every built surface')
    .option('--safety <factor>', 'ultimate over limit load', '1.5')
    .option('--size <surface>', 'thicknesses of this surface with which its members just hold, at the least mass')
    .action(run);
}

async function run(o: Options): Promise<void> {
  const [safetyFactor] = readRange(o.safety, 'safety');
  const broken = limitBroken(PERFORMANCE_LIMITS.safetyFactor, safetyFactor);
  if (broken) throw new InvalidInput('safety', `--safety: ${broken.message}.`, undefined, 'safety');
  const { candidate, lookup, settings } = await readLoads(o);
  if (o.size !== undefined) {
    const surface = candidate.surfaces.find((s) => s.id === o.size);
    if (!surface)
      throw new InvalidInput(
        'size',
        `There is no surface "${o.size}".`,
        `There are ${candidate.surfaces.map((s) => s.id).join(', ')}.`,
        'size',
      );
    const found = thickEnough(candidate, surface.id, lookup, { ...settings, safetyFactor });
    if (o.json) {
      const { surface: own, ...rest } = found;
      printJson({ airframe: candidate.name, ...rest, surface: surface.id, structure: own.structure });
    } else tellSized(surface.name, found);
    return;
  }
  const { surfaces } = strengthOf(candidate, lookup, { ...settings, safetyFactor });
  const members = surfaces.flatMap((s) => s.members.map((m) => memberLine(s, m)));
  // What is told of the whole is of the wing, or of the surface that comes first.
  const main = surfaces.find((s) => candidate.surfaces.find((c) => c.id === s.id)?.role === 'wing') ?? surfaces[0];
  if (o.json) {
    const { polars: _, ...told } = settings;
    printJson({
      airframe: candidate.name,
      ...told,
      safetyFactor,
      members,
      tipDeflection: main?.tipDeflection ?? null,
      tipTwistDeg: main?.tipTwistDeg ?? null,
      divergenceSpeed: main?.divergenceSpeed ?? null,
      frequencies: main?.frequencies ?? null,
      surfaces: surfaces.map(({ members: _own, ...s }) => s),
    });
    return;
  }
  process.stdout.write(
    `${candidate.name}: cruise ${settings.cruise.toFixed(1)} m/s, load factors ${settings.negative} to ${settings.positive}, ultimate ${safetyFactor} × limit\n`,
  );
  process.stdout.write(
    table(members, [
      { title: 'member', text: (m) => m.id },
      { title: 'mass, kg', text: (m) => m.mass.toFixed(3) },
      { title: 'stress, MPa', text: (m) => (m.stress === null ? '' : (m.stress / 1e6).toFixed(1)) },
      { title: 'allowable, MPa', text: (m) => (m.allowable === null ? '' : (m.allowable / 1e6).toFixed(1)) },
      { title: 'fails by', text: (m) => (m.mode === null ? '' : `${m.part}, ${m.mode}`) },
      { title: 'reserve, %', text: (m) => (m.reserve === null ? '' : (100 * m.reserve).toFixed(0)) },
      { title: 'at y, m', text: (m) => m.place?.toFixed(3) ?? '' },
      { title: 'case', text: (m) => (m.case === null ? '' : `${m.case}${m.doubtful ? ' (doubtful)' : ''}`) },
    ]),
  );
  for (const s of surfaces) {
    const fails = s.members.find((m) => m.worst?.thicker !== undefined)?.worst?.thicker;
    if (fails === undefined) continue;
    const told = (fails ?? []).map((t) => `${t.path} ${mm(t.from)} → ${mm(t.to)}`).join(', ');
    process.stdout.write(
      fails === null
        ? `${s.name} holds with no thicknesses that fit: choose other materials, wider spars or thicker sections\n`
        : `${s.name} holds with ${told}\n`,
    );
  }
  for (const s of surfaces) {
    const speed = (v: number | null) => (v === null ? 'none' : `${v.toFixed(1)} m/s`);
    const hertz = (v: number | null) => (v === null ? '—' : `${v.toFixed(2)} Hz`);
    process.stdout.write(
      `${s.name}: ${s.mass.toFixed(3)} kg; tip ${(1000 * s.tipDeflection).toFixed(1)} mm, ${s.tipTwistDeg.toFixed(2)}° at limit load (${s.bentMost}); divergence ${speed(s.divergenceSpeed)}; bending ${hertz(s.frequencies.bending)}, torsion ${hertz(s.frequencies.torsion)}\n`,
    );
    for (const r of s.reversal)
      process.stdout.write(
        `  ${r.name}: reversal ${speed(r.speed)}, ${(100 * r.leftAtDive).toFixed(0)} % of its roll left at the dive speed\n`,
      );
    for (const d of s.doubts) process.stdout.write(`  ${d}\n`);
    if (s.bareFrom !== undefined)
      process.stdout.write(
        `  Nothing carries outboard of ${s.bareFrom.toFixed(3)} m: the tip is taken as it is there\n`,
      );
  }
}

const mm = (v: number) => `${(1000 * v).toFixed(2)} mm`;

function tellSized(name: string, { holds, changes, mass, before }: ReturnType<typeof thickEnough>): void {
  process.stdout.write(
    `${name}: ${before.toFixed(3)} kg → ${mass.toFixed(3)} kg${holds ? '' : '; it does not hold with thicknesses that fit'}\n`,
  );
  process.stdout.write(
    table(changes, [
      { title: 'thickness', text: (c) => c.path },
      { title: 'now, mm', text: (c) => (1000 * c.from).toFixed(3) },
      { title: 'enough, mm', text: (c) => (1000 * c.to).toFixed(3) },
    ]),
  );
}

/** A member in one line: its mass, and where it has least in hand. */
function memberLine(s: SurfaceStrength, { worst, member, ...m }: MemberStrength) {
  return {
    ...m,
    surface: s.id,
    member,
    stress: worst?.stress ?? null,
    allowable: worst?.allowable ?? null,
    reserve: worst?.reserve ?? null,
    place: worst?.place ?? null,
    mode: worst?.mode ?? null,
    part: worst?.part ?? null,
    case: worst?.case ?? null,
    ...(worst?.doubtful && { doubtful: true }),
    ...(worst?.thicker !== undefined && { thicker: worst.thicker }),
  };
}
