import {
  bodyFacts,
  placeSurface,
  planformIn,
  referenceOf,
  surfaceFacts,
  type Body,
  type LiftingSurface,
  type Reference,
  type SectionLookup,
} from '../airframe';
import type { FlowState } from '../atmosphere';
import { InvalidInput } from '../numerics';
import { sectionFacts } from '../section';
import { kept, sourceOutline, type SectionSource } from '../shaping';
import { bodyForm, JOINTS, surfaceForm } from './form';
import { plateFriction } from './friction';
import { dragSchema, type AllowanceKind, type DragSettings } from './schema';

/** A part of the shape with its drag; SI. */
export interface DragPart {
  id: string;
  name: string;
  kind: 'surface' | 'body';
  /** Both sides where it is mirrored, m². */ wettedArea: number;
  /** Mean aerodynamic chord, or length, m. */ length: number;
  reynolds: number;
  laminarShare: number;
  /** Friction of the plate, on the wetted area. */ cf: number;
  formFactor: number;
  interference: number;
  CD: number;
  /** m² */ dragArea: number;
  /** Its drag is that of its sections' polars: `cf` is what it comes to on the wetted area, without factors. */ byPolars?: true;
}

/** An allowance with what it comes to. */
export interface DragAllowance {
  name: string;
  kind: AllowanceKind;
  amount: number;
  CD: number;
  dragArea: number;
}

/** The drag of a shape without lift, and why. */
export interface DragBuildUp {
  reference: Reference;
  parts: DragPart[];
  allowances: DragAllowance[];
  CD: number;
  /** m² */ dragArea: number;
  /** N */ drag: number;
}

/** What a build-up needs. */
export interface DragInput {
  /** Where they stand. */ surfaces: readonly LiftingSurface[];
  bodies: readonly Body[];
  reference?: Reference | null;
  drag?: Partial<DragSettings>;
}

/** Sections and surfaces change seldom while speeds and masses do: what is measured of them is kept. */
const keptThickness = kept(60, (source: SectionSource) => sectionFacts(sourceOutline(source)).thickness);
const keptWetted = kept(
  40,
  ({ surface, sources }: { surface: LiftingSurface; sources: Record<string, SectionSource> }) => ({
    area: surfaceFacts(surface, (key) => sources[key]).areaWetted,
  }),
);
const wettedArea = (surface: LiftingSurface, lookup: SectionLookup): number =>
  keptWetted({ surface, sources: Object.fromEntries(surface.stations.map((t) => [t.section, lookup(t.section)])) })
    .area;

/** Thickness and its crest over a surface: means over its stations by their chords. */
function thicknessOf(surface: LiftingSurface, lookup: SectionLookup): { thickness: number; crest: number } {
  let [weight, thickness, crest] = [0, 0, 0];
  for (const s of surface.stations) {
    const { max, at } = keptThickness(lookup(s.section));
    weight += s.chord;
    thickness += s.chord * max;
    crest += s.chord * at;
  }
  return { thickness: thickness / weight, crest: crest / weight };
}

/** What the geometry of a part gives to its drag. */
interface PartShape extends Pick<DragPart, 'id' | 'name' | 'kind' | 'wettedArea' | 'length'> {
  wing: boolean;
  /** Over chord; of a surface. */ thickness: number;
  crest: number;
  /** Length over diameter; of a body. */ fineness: number;
}
/** The geometry of a shape, which is the same at all speeds. */
export interface DragShape {
  reference: Reference;
  parts: PartShape[];
}

/** Bodies change seldom, and measuring one takes milliseconds. */
const keptFacts = kept(60, bodyFacts);

/** Measures a shape. @throws InvalidInput `no-surface` without a reference, or for a part that is no shape. */
export function dragShape({ surfaces, bodies, reference }: DragInput, lookup: SectionLookup): DragShape {
  return {
    reference: reference ?? referenceOf(surfaces),
    parts: [
      ...surfaces.map((s): PartShape => ({
        id: s.id,
        name: s.name,
        kind: 'surface',
        wing: s.role === 'wing',
        wettedArea: wettedArea(s, lookup),
        length: planformIn(s, placeSurface(s)).mac.chord,
        ...thicknessOf(s, lookup),
        fineness: 0,
      })),
      ...bodies.map((b): PartShape => {
        const facts = keptFacts(b);
        const diameter = Math.sqrt((4 * facts.frontalArea) / (b.mirrored ? 2 : 1) / Math.PI);
        const fineness = facts.length / diameter;
        return {
          id: b.id,
          name: b.name,
          kind: 'body',
          wing: false,
          wettedArea: facts.areaWetted,
          length: facts.length,
          thickness: 0,
          crest: 0,
          fineness,
        };
      }),
    ],
  };
}

/**
 * Builds up the drag of a shape without lift: friction of every part's wetted area, with its form and its neighbours, and the allowances. The total is
 * solved, so that the order of allowances does not matter: shares are of the parts' sum, reserves of the total.
 * @param shape measured already, where it is. @param profiles drag coefficients of surfaces by the polars of their sections, by id; they stand for the
 *   surfaces' friction and form where the settings ask for polars. @throws InvalidInput from {@link dragShape}; `drag-part` for settings of a part that is not there, `reserve`
 *   where reserves reach the total, `reynolds-range` where a part is too slow for the law.
 */
export function dragBuildUp(
  input: DragInput,
  flow: FlowState,
  lookup: SectionLookup,
  shape: DragShape = dragShape(input, lookup),
  profiles: Readonly<Record<string, number>> | null = null,
): DragBuildUp {
  const settings: DragSettings = dragSchema.parse(input.drag ?? {});
  for (const id of Object.keys(settings.parts))
    if (!shape.parts.some((p) => p.id === id))
      throw new InvalidInput(
        'drag-part',
        `The drag settings name the part "${id}", which is not there.`,
        `There are ${shape.parts.map((p) => p.id).join(', ')}.`,
        `drag.parts.${id}`,
      );
  const { reference } = shape;
  const joints = JOINTS[settings.joints];
  const parts = shape.parts.map(({ wing, thickness, crest, fineness, ...head }): DragPart => {
    const own = settings.parts[head.id] ?? {};
    const surface = head.kind === 'surface';
    const reynolds = flow.reynoldsPerMetre * head.length;
    const profile = surface && settings.surfaces === 'polars' ? profiles?.[head.id] : undefined;
    if (profile !== undefined) {
      const dragArea = profile * reference.area;
      const cf = head.wettedArea > 0 ? dragArea / head.wettedArea : 0;
      const alone = { laminarShare: 0, cf, formFactor: 1, interference: 1 };
      return { ...head, reynolds, ...alone, CD: profile, dragArea, byPolars: true };
    }
    const laminarShare = own.laminarShare ?? 0;
    const cf = plateFriction(settings.law, reynolds, laminarShare, {
      roughness: own.roughness ?? 0,
      length: head.length,
      mach: flow.mach,
    });
    const formFactor =
      own.formFactor ??
      (surface ? surfaceForm(settings.surfaceForm, thickness, crest) : bodyForm(settings.bodyForm, fineness));
    const interference = own.interference ?? (surface ? (wing ? joints.wing : joints.tail) : joints.body);
    const dragArea = cf * formFactor * interference * head.wettedArea;
    return { ...head, reynolds, laminarShare, cf, formFactor, interference, CD: dragArea / reference.area, dragArea };
  });
  const sum = parts.reduce((s, p) => s + p.CD, 0);
  const total = totalWith(sum, settings, reference.area);
  return {
    reference,
    parts,
    allowances: settings.allowances.map(({ name, kind, amount }) => {
      const CD = allowanceCD(kind, amount, sum, total, reference.area);
      return { name, kind, amount, CD, dragArea: CD * reference.area };
    }),
    CD: total,
    dragArea: total * reference.area,
    drag: total * reference.area * flow.dynamicPressure,
  };
}

function allowanceCD(kind: AllowanceKind, amount: number, shape: number, total: number, area: number): number {
  switch (kind) {
    case 'counts':
      return amount / 1e4;
    case 'coefficient':
      return amount;
    case 'share':
      return amount * shape;
    case 'reserve':
      return amount * total;
    case 'area':
      return amount / area;
  }
}

/** The total that is the sum of the shape's drag and all allowances, reserves being shares of the total itself. @throws InvalidInput `reserve`. */
export function totalWith(shape: number, { allowances }: Pick<DragSettings, 'allowances'>, area: number): number {
  let [fixed, reserve] = [shape, 0];
  for (const { kind, amount } of allowances) {
    if (kind === 'reserve') reserve += amount;
    else fixed += allowanceCD(kind, amount, shape, 0, area);
  }
  if (!(reserve < 1))
    throw new InvalidInput(
      'reserve',
      `Reserves add up to ${Number((100 * reserve).toPrecision(4))} % of the total; nothing would be left of the shape.`,
      'Keep them below 100 % together.',
      'drag.allowances',
    );
  return fixed / (1 - reserve);
}
