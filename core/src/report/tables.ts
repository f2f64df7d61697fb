import { surfaceFacts, standing } from '../airframe';
import { flowState } from '../atmosphere';
import {
  findingsOf,
  findingWords,
  inBand,
  motionFindings,
  requirementFindings,
  stallFindings,
  worstFirst,
  type Finding,
} from '../findings';
import { bandWords } from '../findings/words';
import { beyondLimits } from '../candidate';
import { handlingLevels } from '../motion';
import { loadPerAlpha } from '../findings/motion';
import { DEG, VeldtwindError } from '../numerics';
import { awaitsPolars, methodMeant, standingRequirements, type Requirement } from '../project';
import {
  CANDIDATE_QUANTITIES,
  LIMIT_QUANTITIES,
  METHOD_FACTS,
  PERFORMANCE_QUANTITIES,
  quantityIn,
  responseOf,
  SECTION_QUANTITIES,
  unitOf,
  textOf,
  valueOf,
  type Quantity,
} from '../quantities';
import { sourceFacts } from '../shaping';
import type { ComposedCell, ComposedTable } from './composed';
import { said, saidOf, type ReportContext, type Subject } from './context';
import { sectionName, sectionsOf } from './figures-sections';
import { loopsTable } from './table-loops';
import { studiesTable } from './table-studies';

/** A table with its words, or why there is none. */
export type MadeTable = { title: string; caption: string; table: ComposedTable } | { missing: string };
export type TableMaker = (context: ReportContext, of: readonly Subject[]) => MadeTable;

const words = (text: string): ComposedCell => ({ text });
const numbers = (name: string) => ({ name, numbers: true });
const heads = (of: readonly Subject[]) => of.map((s) => numbers(s.title));
const headed = (name: string, unit: string) => numbers(unit ? `${name}, ${unit}` : name);

const brief: TableMaker = ({ document: { brief: b }, units }) => {
  const flow = flowState(b.speed, b.altitude);
  const rows: [string, string][] = [
    ['Speed', said(b.speed, 'speed', units)],
    ['Altitude', said(b.altitude, 'altitude', units)],
    ['Mass', said(b.mass, 'mass', units)],
    ['Air density', said(flow.density, 'density', units)],
    ['Dynamic pressure', said(flow.dynamicPressure, 'pressure', units)],
    ['Mach number', flow.mach.toFixed(3)],
  ];
  if (b.spanLimit !== null) rows.push(['Span, at most', said(b.spanLimit, 'length', units)]);
  if (b.climbSpeed !== null) rows.push(['Climb speed', said(b.climbSpeed, 'speed', units)]);
  return {
    title: 'Design point',
    caption: 'Standard atmosphere.',
    table: { columns: [{ name: '' }, numbers('')], rows: rows.map((r) => r.map(words)) },
  };
};

/** All requirements of the brief with a limit: bands of the design, and those that were asked for. */
const requirementsOf = ({ document: { brief: b } }: ReportContext): Requirement[] =>
  [...standingRequirements(b), ...b.requirements].filter((r) => r.min !== null || r.max !== null);

const requirements: TableMaker = (c, of) => {
  const rows = requirementsOf(c).flatMap((r) => {
    const q = responseOf(r.quantity);
    if (!q) return [];
    const held = of.map((s): ComposedCell => {
      const value = valueOf(q, s.made, r.speed);
      if (value === null || !Number.isFinite(value)) return words('—');
      return {
        text: saidOf(q, value, c.units),
        state: inBand(value, { min: r.min, max: r.max }) ? 'inside' : 'outside',
      };
    });
    const at = r.speed === undefined ? '' : ` at ${said(r.speed, 'speed', c.units)}`;
    return [
      [
        words(q.name + at),
        words(bandWords({ min: r.min, max: r.max }, q.dimension, c.units, q.digits, q.per) ?? ''),
        words(r.weight),
        ...held,
      ],
    ];
  });
  if (rows.length === 0)
    return { missing: 'The brief asks for nothing that can be measured: give it bands or requirements.' };
  const met = of.map((_, i) => rows.filter((row) => row[3 + i].state === 'inside').length);
  return {
    title: 'Requirements and candidates',
    caption: of.map((s, i) => `${s.title} meets ${met[i]} of ${rows.length}.`).join(' '),
    table: { columns: [{ name: 'Requirement' }, { name: 'Required' }, { name: 'Weight' }, ...heads(of)], rows },
  };
};

const geometry: TableMaker = (c, of) => {
  const rows = of.flatMap((s) =>
    standing(s.candidate.surfaces, s.candidate.bodies).flatMap((v) => {
      try {
        const f = surfaceFacts(v, c.lookup);
        return [
          [
            s.candidate.letter,
            v.name,
            said(f.spanProjected, 'length', c.units),
            said(f.areaProjected, 'area', c.units),
            f.aspectRatio.toFixed(2),
            f.taper.toFixed(2),
            said(f.mac.chord, 'chord', c.units),
            said(f.areaWetted, 'area', c.units),
          ].map(words),
        ];
      } catch (error) {
        // What is wrong with a shape is among the doubts.
        if (!(error instanceof VeldtwindError)) throw error;
        return [[s.candidate.letter, v.name, '—', '—', '—', '—', '—', '—'].map(words)];
      }
    }),
  );
  if (rows.length === 0) return { missing: 'No candidate has a surface.' };
  const columns = [
    { name: '' },
    { name: 'Surface' },
    ...['Span', 'Area', 'Aspect ratio', 'Taper', 'Mean chord', 'Wetted area'].map(numbers),
  ];
  return {
    title: 'Surfaces',
    caption: 'Spans and areas are projected; the mean chord is the aerodynamic one.',
    table: { columns, rows },
  };
};

const sections: TableMaker = (c, of) => {
  const keys = sectionsOf(of);
  if (keys.length === 0) return { missing: 'No station has a section.' };
  return {
    title: 'Sections',
    caption: 'Of the unit chord.',
    table: {
      columns: [{ name: 'Section' }, ...SECTION_QUANTITIES.map((q) => headed(q.name, unitOf(q, c.units)))],
      rows: keys.map((key) => {
        const facts = sourceFacts(c.lookup(key));
        return [words(sectionName(c, key)), ...SECTION_QUANTITIES.map((q) => words(textOf(q, q.of(facts), c.units)))];
      }),
    },
  };
};

const masses: TableMaker = (c, of) => {
  const rows = of.flatMap((s) => {
    const own = s.candidate.massItems.map((m) =>
      [
        s.candidate.letter,
        m.name,
        said(m.mass, 'mass', c.units, 3),
        ...(['x', 'y', 'z'] as const).map((k) => said(m.position[k], 'length', c.units)),
      ].map(words),
    );
    const whole = s.made.motion?.mass;
    return whole
      ? [
          ...own,
          [
            s.candidate.letter,
            'Whole aircraft',
            said(whole.mass, 'mass', c.units, 3),
            ...(['x', 'y', 'z'] as const).map((k) => said(whole.centre[k], 'length', c.units)),
          ].map(words),
        ]
      : own;
  });
  if (rows.length === 0) return { missing: 'No candidate has a mass item.' };
  return {
    title: 'Masses',
    caption: 'Places as they are entered; those of items that follow a part go with it.',
    table: {
      columns: [{ name: '' }, { name: 'Item' }, numbers('Mass'), numbers('x'), numbers('y'), numbers('z')],
      rows,
    },
  };
};

const drag: TableMaker = (c, of) => {
  const there = of.filter((s) => s.made.drag);
  if (there.length === 0)
    return { missing: of.map((s) => s.reasons.drag).find(Boolean) ?? 'No candidate has a surface.' };
  const rows = there.flatMap((s) => {
    const d = s.made.drag!;
    const share = (CD: number) => `${((100 * CD) / d.CD).toFixed(1)} %`;
    const line = (name: string, area: string, CD: number) =>
      [s.candidate.letter, name, area, CD.toFixed(5), share(CD)].map(words);
    return [
      ...d.parts.map((p) => line(p.name, said(p.wettedArea, 'area', c.units), p.CD)),
      ...d.allowances.map((a) => line(a.name, '', a.CD)),
      line('All', '', d.CD),
    ];
  });
  return {
    title: 'Drag build-up without lift',
    caption: there
      .map(
        (s) =>
          `${s.title}: ${said(s.made.drag!.drag, 'force', c.units)} at the design speed, an area of ${said(s.made.drag!.dragArea, 'area', c.units)} at CD 1.`,
      )
      .join(' '),
    table: { columns: [{ name: '' }, { name: 'Part' }, numbers('Wetted area'), numbers('CD'), numbers('Share')], rows },
  };
};

const COMPARED: readonly Quantity<never>[] = [
  ...['CL-needed', 'trim-angle', 'static-margin', 'lift-slope'].map(
    (id) => quantityIn(CANDIDATE_QUANTITIES, id) as Quantity<never>,
  ),
  ...(PERFORMANCE_QUANTITIES as unknown as Quantity<never>[]),
  ...(LIMIT_QUANTITIES as unknown as Quantity<never>[]),
];
const performance: TableMaker = (c, of) => {
  const rows = COMPARED.flatMap(({ id }) => {
    const q = responseOf(id)!;
    const values = of.map((s) => valueOf(q, s.made));
    return values.every((v) => v === null) ? [] : [[words(q.name), ...values.map((v) => words(saidOf(q, v, c.units)))]];
  });
  if (rows.length === 0) return { missing: 'No candidate has a performance: it needs a surface and a mass.' };
  return {
    title: 'Performance',
    caption: 'In trim. A dash is a quantity that the candidate has none of.',
    table: { columns: [{ name: 'Quantity' }, ...heads(of)], rows },
  };
};

const modes: TableMaker = (c, of) => {
  const { aircraftClass, flightPhase } = c.document.brief.assumptions;
  const rows = of.flatMap(({ candidate, made: { motion } }) => {
    if (!motion) return [];
    const levels = handlingLevels(motion.modes, aircraftClass, flightPhase, loadPerAlpha(motion.case));
    return motion.modes.map((m) =>
      [
        candidate.letter,
        m.name,
        m.dampingRatio.toFixed(3),
        m.im > 0 ? `${m.frequencyHz.toFixed(3)} Hz` : '—',
        m.timeToHalf
          ? `half in ${m.timeToHalf.toFixed(2)} s`
          : m.timeToDouble
            ? `double in ${m.timeToDouble.toFixed(2)} s`
            : '—',
        String(levels.find((l) => l.mode === m.name)?.level ?? '—'),
      ].map(words),
    );
  });
  if (rows.length === 0)
    return { missing: of.map((s) => s.reasons.motion).find(Boolean) ?? 'No candidate has a motion.' };
  return {
    title: 'Modes of motion',
    caption: `Levels are for class ${aircraftClass}, phase ${flightPhase}.`,
    table: {
      columns: [
        { name: '' },
        { name: 'Mode' },
        numbers('Damping ratio'),
        numbers('Frequency'),
        numbers('Amplitude'),
        numbers('Level'),
      ],
      rows,
    },
  };
};

const controls: TableMaker = (c, of) => {
  const rows = of.flatMap(({ candidate, made: { motion } }) =>
    candidate.surfaces.flatMap((v) =>
      (v.controls ?? []).map((k) => {
        const trim = motion?.trim.controls[k.id];
        return [
          candidate.letter,
          k.name,
          v.name,
          `${(100 * k.from).toFixed(0)}–${(100 * k.to).toFixed(0)} %`,
          `${(100 * (1 - k.hinge)).toFixed(0)} %`,
          `${k.limitsDeg.map((d) => said(d, 'angle', c.units, 0)).join(' to ')}`,
          trim === undefined ? '—' : said(trim * DEG, 'angle', c.units, 1),
        ].map(words);
      }),
    ),
  );
  if (rows.length === 0) return { missing: 'No candidate has a control.' };
  return {
    title: 'Controls',
    caption: 'Spans are shares of the half span, chords of the local chord.',
    table: {
      columns: [
        { name: '' },
        { name: 'Control' },
        { name: 'Surface' },
        numbers('Span'),
        numbers('Chord'),
        numbers('Limits'),
        numbers('In trim'),
      ],
      rows,
    },
  };
};

const flights: TableMaker = (c) => {
  const rows = Object.values(c.document.scenarios).flatMap((s) =>
    s.kept.map((f) =>
      [
        f.letter,
        f.name,
        said(f.range, 'length', c.units),
        `${f.time.toFixed(1)} s`,
        said(f.greatestHeight, 'length', c.units),
        said(f.greatestSpeed, 'speed', c.units),
        f.greatestLoadFactor.toFixed(2),
        f.ended,
      ].map(words),
    ),
  );
  if (rows.length === 0) return { missing: 'No flight is kept: keep one in Flights.' };
  return {
    title: 'Kept flights',
    caption: '',
    table: {
      columns: [
        { name: '' },
        { name: 'Flight' },
        ...['Distance', 'Time', 'Greatest height', 'Greatest speed', 'Greatest load factor'].map(numbers),
        { name: 'Ended' },
      ],
      rows,
    },
  };
};

/** What is found about a candidate, worst first. */
export function findingsFor(c: ReportContext, { candidate, made, reasons }: Subject): Finding[] {
  const { brief: b } = c.document;
  const { evaluation, motion, performance: p } = made;
  const tail = candidate.surfaces.find((v) => v.role === 'tailplane');
  return worstFirst([
    ...(evaluation ? findingsOf(b, candidate, evaluation) : []),
    ...(motion
      ? motionFindings(b, {
          modes: motion.modes,
          case: motion.case,
          class: b.assumptions.aircraftClass,
          phase: b.assumptions.flightPhase,
          beyond: beyondLimits(candidate, motion.trim.controls),
          ...(tail && { tail: { surfaceId: tail.id, alpha: motion.trim.alpha } }),
        })
      : []),
    ...(p && !('missing' in p.stall) ? stallFindings(b, p.stall) : []),
    ...(Object.keys(reasons).length < 4 ? requirementFindings(b, made) : []),
  ]);
}
const STATES = { missing: 'missing', outside: 'not met', inside: 'met', fact: '' } as const;
const findings: TableMaker = (c, of) => {
  const rows = of.flatMap((s) =>
    findingsFor(c, s).map((f): ComposedCell[] => {
      const { headline, detail } = findingWords(f, c.units);
      const state = f.state === 'inside' || f.state === 'outside' ? { state: f.state } : {};
      return [words(s.candidate.letter), { text: STATES[f.state], ...state }, words(`${headline}${detail}`)];
    }),
  );
  if (rows.length === 0) return { missing: 'There is nothing to find yet.' };
  return {
    title: 'Findings',
    caption: '',
    table: { columns: [{ name: '' }, { name: '' }, { name: 'Finding' }], rows },
  };
};

const assumptions: TableMaker = ({ document: { brief: b }, units }) => {
  const a = b.assumptions;
  const p = a.performance;
  const meant = methodMeant(a.method);
  const rows: [string, string][] = [
    ['Method', `${METHOD_FACTS[meant].name}${a.method === 'best' ? ' (best there is)' : ''}`],
    ['Critical n', a.criticalAmplification.toFixed(1)],
    ['Aircraft class', a.aircraftClass],
    ['Flight phase', a.flightPhase],
    ['Trimmed by', p.trimmedBy === 'none' ? 'nothing' : p.trimmedBy],
    ['Limit load factors', `${p.leastLoad} to ${p.greatestLoad}`],
    ['Rolling friction', String(p.rolling)],
    ['Braking friction', String(p.braking)],
    ['Obstacle height', said(p.obstacle, 'length', units)],
    ['Throwing speed', said(p.throwSpeed, 'speed', units)],
  ];
  return {
    title: 'Assumptions',
    caption: 'They are equal for every candidate.',
    table: { columns: [{ name: '' }, numbers('')], rows: rows.map((r) => r.map(words)) },
  };
};

const validity: TableMaker = (c, of) => {
  const { method } = c.document.brief.assumptions;
  const rows: string[][] = [];
  for (const s of of) {
    const { evaluation, performance: p } = s.made;
    if (evaluation && awaitsPolars(evaluation.method, method))
      rows.push([
        s.candidate.letter,
        'Provisional',
        'The polars of its sections are missing: its numbers stand on the vortex lattice alone.',
      ]);
    for (const [part, why] of Object.entries(s.reasons)) rows.push([s.candidate.letter, `No ${part}`, why]);
    const doubtful = evaluation?.curve?.points.filter((v) => v.status === 'doubtful').length ?? 0;
    if (doubtful > 0)
      rows.push([
        s.candidate.letter,
        'Doubtful',
        `${doubtful} of ${evaluation!.curve!.points.length} angles of the lift curve stand on doubtful points.`,
      ]);
    const reasons = new Set(p?.points.flatMap((v) => (v.status === 'doubtful' && v.reason ? [v.reason] : [])));
    for (const reason of reasons) rows.push([s.candidate.letter, 'Doubtful', reason]);
    if (s.made.motion?.overridden.length)
      rows.push([
        s.candidate.letter,
        'By hand',
        `Derivatives that replace computed ones: ${s.made.motion.overridden.join(', ')}.`,
      ]);
  }
  if (rows.length === 0)
    rows.push(['', 'No doubts', 'Every number of this report stands on solved points of the method that is meant.']);
  return {
    title: 'Validity',
    caption: '',
    table: { columns: [{ name: '' }, { name: '' }, { name: 'Remark' }], rows: rows.map((r) => r.map(words)) },
  };
};

const methods: TableMaker = (c, of) => {
  const used = new Set(of.flatMap((s) => (s.made.evaluation ? [s.made.evaluation.method] : [])));
  if (used.size === 0) used.add(methodMeant(c.document.brief.assumptions.method));
  return {
    title: 'Methods and sources',
    caption: '',
    table: {
      columns: ['Method', 'Description', 'Range of validity', 'Sources'].map((name) => ({ name })),
      rows: [...used].map((m) =>
        [METHOD_FACTS[m].name, METHOD_FACTS[m].says, METHOD_FACTS[m].valid, METHOD_FACTS[m].sources.join('; ')].map(
          words,
        ),
      ),
    },
  };
};

export const TABLES: Record<import('../project').ReportTable, TableMaker> = {
  brief, requirements, geometry, sections, masses, drag, performance, modes, controls,
  loops: loopsTable, flights, studies: studiesTable, findings, assumptions, validity, methods,
}; // prettier-ignore
