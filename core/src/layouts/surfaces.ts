import { planformOf, type Control, type LiftingSurface } from '../airframe';
import { RAD } from '../numerics';
import type { LayoutPlan } from './plans';
import type { LayoutSizes } from './sizes';
import { hundredth, mm, type LayoutSections, type LayoutState } from './state';

/** A surface of two stations. */
function trapezoid(
  of: Pick<LiftingSurface, 'id' | 'name' | 'role' | 'plane' | 'mirrored' | 'position'> & Partial<LiftingSurface>,
  shape: {
    area: number;
    /** Of both sides of a mirrored surface, else of the one. */ span: number;
    taper: number;
    sweepDeg: number;
    dihedralDeg?: number;
    twistDeg?: number;
    section: string;
  },
): LiftingSurface {
  const root = (2 * shape.area) / (shape.span * (1 + shape.taper));
  const station = (chord: number, twistDeg: number) => ({
    chord: mm(chord),
    twistDeg: hundredth(twistDeg),
    section: shape.section,
  });
  return {
    incidenceDeg: 0,
    ...of,
    stations: [station(root, 0), station(root * shape.taper, shape.twistDeg ?? 0)],
    bays: [
      {
        span: mm(of.mirrored && of.plane === 'horizontal' ? shape.span / 2 : shape.span),
        sweepDeg: shape.sweepDeg,
        dihedralDeg: hundredth(shape.dihedralDeg ?? 0),
      },
    ],
  };
}
const control = (
  id: string,
  name: string,
  from: number,
  to: number,
  hinge: number,
  kind: Control['kind'],
  limit: [number, number],
  deflectionDeg = 0,
): Control => ({ id, name, from, to, hinge, kind, deflectionDeg: hundredth(deflectionDeg), limitsDeg: limit });

const TAIL_ASPECT = 4.5;
const FIN_ASPECT = 1.5;
const V_ANGLE_DEG = 36;

/** The surfaces of a layout at a state. */
export function surfacesOf(
  plan: LayoutPlan,
  sizes: LayoutSizes,
  sections: LayoutSections,
  state: LayoutState,
): LiftingSurface[] {
  const { area, span, chord } = sizes;
  const { taper, sweepDeg, washoutDeg, height } = plan.wing;
  const washout = plan.trim === 'washout' ? state.trimDeg : washoutDeg;
  const tailless = plan.tail === 'tip-fins' || (plan.tail === 'body-fin' && !plan.second);
  const z = 0.42 * height * sizes.body;
  const wingControls = tailless
    ? [
        control(
          'elevator',
          'Elevator',
          0.12,
          0.5,
          0.75,
          'symmetric',
          [-25, 20],
          plan.trim === 'elevator' ? state.trimDeg : 0,
        ),
        control('aileron', 'Aileron', 0.55, 0.95, 0.75, 'opposed', [-20, 20]),
      ]
    : [
        control('flap', 'Flap', 0.12, 0.55, 0.75, 'symmetric', [-5, 35]),
        control('aileron', 'Aileron', 0.6, 0.95, 0.75, 'opposed', [-20, 20]),
      ];
  const wing = trapezoid(
    {
      id: 'wing',
      name: plan.second ? (plan.second === 'behind' ? 'Front wing' : 'Lower wing') : 'Wing',
      role: 'wing',
      plane: 'horizontal',
      mirrored: true,
      position: { x: mm(state.nose), y: 0, z: mm(z) },
      incidenceDeg: hundredth(state.wingIncidenceDeg),
      controls: wingControls,
    },
    { area, span, taper, sweepDeg, dihedralDeg: state.dihedralDeg, twistDeg: washout, section: sections.wing },
  );
  const out = [wing];
  const quarter = planformOf(wing).quarterChord;
  if (plan.second) {
    const behind = plan.second === 'behind';
    const second: LiftingSurface = {
      ...trapezoid(
        {
          id: 'wing-2',
          name: behind ? 'Rear wing' : 'Upper wing',
          role: 'wing',
          plane: 'horizontal',
          mirrored: true,
          position: {
            x: mm(state.nose + (behind ? plan.arm * chord : -0.2 * chord)),
            y: 0,
            z: mm(behind ? -0.3 * sizes.body : z + Math.max(0.95 * chord, 1.1 * sizes.body)),
          },
          incidenceDeg: hundredth(state.wingIncidenceDeg + (behind ? state.trimDeg : 0)),
        },
        { area, span, taper, sweepDeg, dihedralDeg: state.dihedralDeg, twistDeg: washout, section: sections.wing },
      ),
    };
    if (behind) {
      // The elevator of a tandem is at the front, where it does not stall the rear wing.
      wing.controls = [control('elevator', 'Elevator', 0.12, 0.6, 0.75, 'symmetric', [-20, 20])];
      second.controls = [control('aileron', 'Aileron', 0.5, 0.95, 0.75, 'opposed', [-20, 20])];
    }
    out.push(second);
  }
  const wholeArea = area * (plan.second ? 2 : 1);
  const arm = plan.arm * chord;
  const elevator = control('elevator', 'Elevator', 0, 1, 0.65, 'symmetric', [-25, 20]);
  const rudder = control('rudder', 'Rudder', 0, 1, 0.6, 'symmetric', [-25, 25]);
  const tailArea = plan.tailVolume > 0 ? (plan.tailVolume * wholeArea * chord) / arm : 0;
  const tipArm =
    plan.tail === 'tip-fins' || plan.tail === 'foreplane' ? 0.5 * span * Math.tan(sweepDeg * RAD) + 0.1 * chord : arm;
  const finArea = ((plan.finVolume * wholeArea * span) / tipArm) * state.finFactor;
  const tailSection = sections.tail;
  /** A tailplane whose quarter chord lies at the arm, by the same estimate as the wing's. */
  const rootX = (at: number, rootChord: number) => mm(quarter + at - 0.25 * rootChord);
  const tailSpan = Math.sqrt(TAIL_ASPECT * tailArea);
  if (plan.tail === 'v') {
    // Areas of both, turned by the angle at which their projections are those wanted.
    const whole = tailArea + finArea;
    const b = Math.sqrt(TAIL_ASPECT * whole);
    const cos = Math.cos(V_ANGLE_DEG * RAD);
    out.push(
      trapezoid(
        {
          id: 'v-tail',
          name: 'V-tail',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: rootX(arm, (1.15 * whole) / b), y: 0, z: mm(0.05 * sizes.body) },
          incidenceDeg: hundredth(state.trimDeg),
          controls: [
            control('elevator', 'Elevator', 0, 0.5, 0.65, 'symmetric', [-25, 20]),
            control('rudder', 'Rudder', 0.5, 1, 0.65, 'opposed', [-25, 25]),
          ],
        },
        { area: whole * cos, span: b * cos, taper: 0.7, sweepDeg: 6, dihedralDeg: V_ANGLE_DEG, section: tailSection },
      ),
    );
    return out;
  }
  if (plan.tail === 'low' || plan.tail === 'booms')
    out.push(
      trapezoid(
        {
          id: 'tailplane',
          name: 'Tailplane',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: {
            x: rootX(arm, (1.15 * tailArea) / tailSpan),
            y: 0,
            z: mm(plan.tail === 'booms' ? z : 0.05 * sizes.body),
          },
          incidenceDeg: hundredth(state.trimDeg),
          controls: [elevator],
        },
        {
          area: tailArea,
          span: tailSpan,
          taper: plan.tail === 'booms' ? 1 : 0.75,
          sweepDeg: plan.tail === 'booms' ? 0 : 5,
          section: tailSection,
        },
      ),
    );
  if (plan.tail === 'foreplane') {
    const foreSpan = Math.sqrt(7 * tailArea);
    out.push(
      trapezoid(
        {
          id: 'foreplane',
          name: 'Foreplane',
          role: 'foreplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: rootX(-arm, (1.1 * tailArea) / foreSpan), y: 0, z: mm(-0.4 * sizes.body) },
          incidenceDeg: hundredth(state.trimDeg),
          controls: [control('elevator', 'Elevator', 0.1, 1, 0.7, 'symmetric', [-20, 25])],
        },
        { area: tailArea, span: foreSpan, taper: 0.8, sweepDeg: 3, section: sections.wing },
      ),
    );
  }
  const twoFins = plan.tail === 'tip-fins' || plan.tail === 'foreplane' || plan.tail === 'booms';
  const each = twoFins ? finArea / 2 : finArea;
  const finSpan = Math.sqrt(FIN_ASPECT * each);
  const finRoot = (2 * each) / (finSpan * 1.6);
  const finSweep = 20;
  const onTip = plan.tail === 'tip-fins' || plan.tail === 'foreplane';
  const tailHalf = tailSpan / 2;
  const fin = trapezoid(
    {
      id: 'fin',
      name: twoFins ? 'Fins' : 'Fin',
      role: 'fin',
      plane: 'vertical',
      mirrored: twoFins,
      position: onTip
        ? { x: 0, y: 0, z: 0 }
        : {
            x: rootX(arm - 0.15 * finRoot, finRoot),
            y: plan.tail === 'booms' ? mm(tailHalf) : 0,
            z: mm(plan.tail === 'booms' ? z : 0.08 * sizes.body),
          },
      ...(onTip ? { attachedTo: { surface: 'wing', share: 1, chord: 0.1 } } : {}),
      controls: [rudder],
    },
    { area: each, span: finSpan, taper: 0.6, sweepDeg: finSweep, section: tailSection },
  );
  out.push(fin);
  if (plan.tail === 't')
    out.push(
      trapezoid(
        {
          id: 'tailplane',
          name: 'Tailplane',
          role: 'tailplane',
          plane: 'horizontal',
          mirrored: true,
          position: { x: 0, y: 0, z: 0 },
          attachedTo: { surface: 'fin', share: 1, chord: 0 },
          incidenceDeg: hundredth(state.trimDeg),
          controls: [elevator],
        },
        { area: tailArea, span: tailSpan, taper: 0.75, sweepDeg: 5, section: tailSection },
      ),
    );
  return out;
}
