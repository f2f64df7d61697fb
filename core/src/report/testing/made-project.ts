import { madeTailed } from '../../candidate/testing/made-tailed';
import { freshProject, type ProjectDocument } from '../../project';

/** Two tailed aircraft that differ by their centres of gravity, by the lattice: for tests of reports. */
export function madeReportProject(): ProjectDocument {
  const document = freshProject();
  document.brief = {
    ...document.brief,
    speed: 24,
    altitude: 500,
    mass: 20,
    assumptions: { ...document.brief.assumptions, method: 'lattice' },
    bands: { ...document.brief.bands, staticMargin: { min: 0.1, max: 0.3 } },
    requirements: [{ quantity: 'performance.bestGlide', min: 100, max: null, weight: 'wish' }],
  };
  document.sections = {
    s: {
      id: 's',
      name: 'Sedge',
      source: { kind: 'designation', designation: '1410', trailingEdge: 'published' },
      steps: [],
      tags: [],
      note: '',
    },
  };
  document.candidates = {
    a: {
      ...madeTailed({ centre: 0.2 }),
      id: 'a',
      letter: 'A',
      name: 'Fore',
      style: 0,
      loadings: { light: { m: 0.7 } },
    },
    b: { ...madeTailed({ centre: 0.35 }), id: 'b', letter: 'B', name: 'Aft', style: 1 },
  };
  return document;
}
