/** A word that the program uses in one sense. */
export interface Term {
  name: string;
  /** As in formulas; empty where it has none. */
  symbol: string;
  meaning: string;
  /** Areas that use it most. */
  used: string;
}

const term = (name: string, symbol: string, used: string, meaning: string): Term => ({ name, symbol, used, meaning });

/** Words of the trade, and the few of our own, in the sense that fields, findings, files and the command line have them. */
export const TERMS: readonly Term[] = [
  term('section', '', 'Sections', 'an aerofoil: the outline of a wing in a plane along the stream'),
  term('mean line', '', 'Sections', 'the line from whose points both surfaces are equally far at right angles to it'),
  term('crest', '', 'Sections', 'the place of the greatest thickness or camber along the chord'),
  term('shaping step', '', 'Sections', 'one edit in a section’s recipe'),
  term('mix', '', 'Sections', 'a section between two others'),
  term(
    'critical amplification',
    'n',
    'Polars',
    'growth of waves at which a laminar layer becomes turbulent; 9 is quiet air',
  ),
  term('trip', '', 'Polars', 'a place where transition is forced'),
  term('run plan', '', 'Polars', 'the sections × Reynolds numbers × Mach numbers × angles to be computed'),
  term('run', '', 'Polars', 'a run plan that is being computed'),
  term(
    'family study',
    '',
    'Polars',
    'many sections made by varying a few shape numbers in a grid, compared at the design lift',
  ),
  term('doubtful', '', 'Polars', 'solved, but at or beyond the limit of the method; the reason is told'),
  term('candidate', '', 'Brief', 'a named variant of the aircraft within a project'),
  term('design point', '', 'Brief', 'speed, altitude and mass of the brief, and what follows from them'),
  term('finding', '', 'Brief', 'a sentence with a number from current results, held against the brief'),
  term('requirement', '', 'Brief', 'a band for a quantity: a must, or a wish'),
  term('assumption', '', 'Brief', 'what decides numbers and is no size of the aircraft'),
  term('station', '', 'Airframe', 'a place along the span with a chord, a twist and a section'),
  term('bay', '', 'Airframe', 'the stretch between two stations, with a span, a sweep and a dihedral'),
  term('held', '', 'Airframe', 'a dimension that the engineer fixes'),
  term('derived', '', 'Airframe', 'a dimension that follows from those that are held'),
  term(
    'twist',
    'ε',
    'Airframe',
    'turn of a section about its quarter chord, nose up positive; washout is a negative twist toward the tip',
  ),
  term('incidence', 'i', 'Airframe', 'turn of a whole surface, nose up positive'),
  term('dihedral', 'Γ', 'Airframe', 'rise of a bay toward the tip'),
  term('sweep', 'Λ', 'Airframe', 'angle of the leading edge or the quarter chord, aft positive'),
  term(
    'tail volume coefficient',
    'V_h, V_v',
    'Airframe',
    'area times arm of a tail over area times chord (or span) of the wing',
  ),
  term('edge flow', '', 'Airframe', 'how the leading or the trailing edge runs through a station'),
  term('allowance', '', 'Drag', 'drag that is added for what is not modelled'),
  term('mass item', '', 'Balance', 'a mass with its place, and with a size where it has inertia of its own'),
  term('loading', '', 'Balance', 'a state of the aircraft: which mass items are there, and how much of them'),
  term('setting', '', 'Airframe', 'deflections of all controls under a name'),
  term('reserve', 'R', 'Structure', 'factor to failure over the factor of safety, less one'),
  term('level', '', 'Motion', 'how well a mode suits the class and the flight phase: 1 is good, 3 can be flown'),
  term('short period', '', 'Motion', 'the fast mode of angle of attack and pitch'),
  term('phugoid', '', 'Motion', 'the slow mode of speed and height'),
  term('Dutch roll', '', 'Motion', 'the mode of yaw and roll together'),
  term('spiral', '', 'Motion', 'the slow mode of bank and heading'),
  term('chain', '', 'Control', 'loops on one control, the inner before the outer'),
  term('gain margin, phase margin', '', 'Control', 'what gain or phase a loop can lose until it is unstable'),
  term('scenario', '', 'Flights', 'launch, air, and who flies: the same for every candidate'),
  term(
    'method',
    '',
    'all',
    'the rung that a number stands on: vortex lattice, lattice with section polars, surface panels',
  ),
  term('provisional', '', 'all', 'of a lower rung, until the better one is there'),
  term('try', '', 'Studies', 'one member of a study'),
  term('as built', '', 'Studies', 'with the spread that making it brings'),
  term('issue', '', 'Report', 'a report as it was at a time: frozen, numbered'),
];
