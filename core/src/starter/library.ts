import { designationSection, type SectionPart } from '../project';
import type { SavedSource, SavedStep } from '../shaping';
import figures from './figures.json';

/** What our solver found of a section of our own, at one Reynolds number. */
export interface StarterFigures {
  reynolds: number;
  /** Greatest lift coefficient and its angle in degrees; greatest ratio of lift to drag and the lift there; moment about the quarter chord at that lift. */
  clMax: number;
  alphaClMaxDeg: number;
  bestRatio: number;
  clBest: number;
  cmBest: number;
  cdLeast: number;
}

/** Reynolds numbers at which the families of our own were computed. */
export const STARTER_REYNOLDS: Record<string, number> = { Tussock: 150_000, Kite: 400_000, Reed: 300_000 };

interface Plan {
  name: string;
  source: SavedSource;
  steps: SavedStep[];
  tags: string[];
  note: string;
}

const formula = (designation: string, trailingEdge: 'published' | 'sharp' = 'published'): SavedSource => ({
  kind: 'designation',
  designation,
  trailingEdge,
});

/** Low Reynolds numbers: thin, its thickness far forward, a small nose, camber a little aft of the middle of the fore half. */
function tussock(thickness: number, camber: number, suits: string): Plan {
  return {
    name: `Tussock ${Math.round(100 * thickness)}-${Math.round(1000 * camber)}`,
    source: formula('4412', 'sharp'),
    steps: [
      { kind: 'set-thickness', to: thickness },
      { kind: 'thickness-crest', to: 0.25 },
      { kind: 'set-camber', to: camber },
      { kind: 'camber-crest', to: 0.43 },
      { kind: 'nose-radius', to: 0.55 * thickness * thickness + 0.001, blend: 0.2 },
      { kind: 'edge-gap', to: 0.001, blend: 0.5 },
    ],
    tags: ['low Reynolds number'],
    note: suits,
  };
}

/** Tailless: camber far forward and a tail turned up, so that the moment about the quarter chord is near none. */
function kite(thickness: number, camber: number, suits: string): Plan {
  return {
    name: `Kite ${Math.round(100 * thickness)}-${Math.round(1000 * camber)}`,
    source: formula('24112', 'sharp'),
    steps: [
      { kind: 'set-thickness', to: thickness },
      { kind: 'set-camber', to: camber },
      { kind: 'thickness-crest', to: 0.32 },
      { kind: 'edge-gap', to: 0.001, blend: 0.5 },
    ],
    tags: ['tailless', 'reflexed'],
    note: suits,
  };
}

/** Tails: symmetric, thickness a little aft for a laminar run, a closed edge. */
function reed(thickness: number, suits: string): Plan {
  return {
    name: `Reed ${Math.round(100 * thickness)}`,
    source: formula('0009', 'sharp'),
    steps: [
      { kind: 'set-thickness', to: thickness },
      { kind: 'thickness-crest', to: 0.35 },
      { kind: 'nose-radius', to: 0.75 * thickness * thickness, blend: 0.25 },
    ],
    tags: ['tail', 'symmetric'],
    note: suits,
  };
}

function ownFamilies(): Plan[] {
  return [
    tussock(0.06, 0.025, 'Very thin: hand-launched gliders, tips below Re 80 000; little room for a spar.'),
    tussock(0.07, 0.03, 'Thin and cambered: slow flight at Re 60 000 to 200 000.'),
    tussock(0.08, 0.03, 'A middle way for small wings that also have to fly fast.'),
    tussock(0.08, 0.04, 'More lift at Re 100 000 to 300 000; drags when flown fast.'),
    tussock(0.09, 0.035, 'For wings of a metre or two that carry something.'),
    tussock(0.1, 0.04, 'Room for a spar, and much lift below Re 400 000.'),
    tussock(0.1, 0.025, 'The fast end of the family.'),
    kite(0.08, 0.012, 'Thin flying wings; little lift to spare.'),
    kite(0.09, 0.015, 'Fast flying wings without much sweep.'),
    kite(0.1, 0.018, 'Flying wings that soar.'),
    kite(0.11, 0.02, 'Room for a spar; the moment is still near none.'),
    kite(0.12, 0.022, 'Thick roots of flying wings.'),
    reed(0.06, 'Fins of fast aircraft; stalls early, so keep deflections small.'),
    reed(0.07, 'Tailplanes that move as a whole.'),
    reed(0.08, 'A light tailplane with an elevator.'),
    reed(0.09, 'Fins and tailplanes with a hinge.'),
    reed(0.1, 'Where the tail must reach a large lift.'),
    reed(0.12, 'Struts and rudders that carry load.'),
  ];
}

/** What each formula family suits, said plainly. */
const FORMULA: { designations: string[]; tags: string[]; note: (d: string) => string }[] = [
  {
    designations: ['0006', '0008', '0009', '0010', '0012', '0015', '0018', '0021', '0024'],
    tags: ['four digits', 'symmetric'],
    note: (d) =>
      Number(d.slice(2)) <= 9
        ? 'Thin and symmetric: tails and fins. Its small nose stalls early.'
        : Number(d.slice(2)) <= 15
          ? 'Symmetric and forgiving: tails, fins, aerobatic wings.'
          : 'Thick and symmetric: struts and roots; heavy drag at low Reynolds numbers.',
  },
  {
    designations: [
      '1408',
      '1410',
      '2410',
      '2411',
      '2414',
      '2415',
      '2418',
      '2312',
      '3312',
      '4409',
      '4412',
      '4415',
      '4418',
      '6409',
      '6415',
    ],
    tags: ['four digits'],
    note: (d) =>
      Number(d[0]) >= 6
        ? 'Strongly cambered: slow flight with much lift; a large nose-down moment.'
        : Number(d[0]) >= 4
          ? 'Cambered: gentle stall, good lift from Re 300 000 on.'
          : 'A little camber: all-round wings above Re 500 000.',
  },
  {
    designations: ['22012', '23009', '23012', '23015', '23018', '24012', '24015', '25012'],
    tags: ['five digits'],
    note: () =>
      'Camber far forward: little moment and high lift above Re 3 million; below 1 million it stalls abruptly.',
  },
  {
    designations: ['22112', '23109', '23110', '23111', '24112', '25112'],
    tags: ['five digits', 'reflexed'],
    note: () => 'Reflexed: next to no moment, at the price of some lift.',
  },
  {
    designations: ['0009-34', '0012-34', '0012-35', '0012-64', '0015-34', '2411-34', '4412-34', '1410-35'],
    tags: ['modified four digits'],
    note: (d) =>
      Number(d.split('-')[1][0]) < 5
        ? 'Sharper nose and thickness farther aft: longer laminar run, lower speeds on top, an earlier stall.'
        : 'Thickness farther aft with the usual nose.',
  },
  {
    designations: ['16-006', '16-009', '16-012', '16-206', '16-209', '16-309', '16-409', '16-412'],
    tags: ['16-series'],
    note: () => 'Even pressure along the chord: propellers and high speeds; a narrow range of good lift.',
  },
];

const known = figures as Record<string, StarterFigures>;

/** The sections of our own, as they are computed for their figures. */
export const ownStarterSections = ownFamilies;

/**
 * The starter library: sections by formula, and three families of our own made with shaping steps, with what our solver says of them.
 * Ids are made from the names; a project that has an id already takes another.
 */
export function starterLibrary(): SectionPart[] {
  const list: SectionPart[] = [];
  for (const family of FORMULA) {
    for (const d of family.designations) {
      const part = designationSection(`section-${d}`, `Section ${d}`, d, 'published', family.note(d));
      list.push({ ...part, tags: family.tags });
    }
  }
  for (const plan of ownFamilies()) {
    const f = known[plan.name];
    const sign = (v: number, digits: number) => v.toFixed(digits).replace('-', '−');
    const said = f
      ? ` Computed at Re ${f.reynolds.toLocaleString('en').replaceAll(',', ' ')}: lift to ${sign(f.clMax, 2)}, best lift over drag ${f.bestRatio.toFixed(0)} at ${sign(f.clBest, 2)}, moment there ${sign(f.cmBest, 3)}.`
      : '';
    list.push({
      id: plan.name.toLowerCase().replaceAll(' ', '-'),
      name: plan.name,
      source: plan.source,
      steps: plan.steps.map((s, i) => ({ ...s, id: `s${i + 1}` })),
      tags: plan.tags,
      note: `${plan.note}${said}`,
    });
  }
  return list;
}
