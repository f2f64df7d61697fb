import type { ProjectDocument } from '../project';
import type { ReportBlock, ReportFigure, ReportPart, ReportTable } from '../project';

/** A block without its id. */
type Plain = ReportBlock extends infer B ? (B extends ReportBlock ? Omit<B, 'id'> : never) : never;
const heading = (text: string, level = 1): Plain => ({ kind: 'heading', level, text });
const text = (markdown: string): Plain => ({ kind: 'text', markdown });
const figure = (of: ReportFigure): Plain => ({ kind: 'figure', of, title: '', caption: '' });
const table = (of: ReportTable): Plain => ({ kind: 'table', of, title: '', caption: '' });

/** From ahead, the right and above. */
export const SPACE_VIEW = { azimuthDeg: 40, elevationDeg: 25 };

/**
 * A design review of a project as it stands: from brief to decision, with an appendix. A part of it that the project has nothing for is left out.
 * @param newId makes the ids of report and blocks. @param studied whether the project has studies.
 */
export function designReview(
  document: ProjectDocument,
  newId: () => string,
  name = 'Design review',
  studied = false,
): ReportPart {
  const candidates = Object.values(document.candidates).filter((c) => c.surfaces.length > 0);
  const first = [...candidates].sort((a, b) => a.letter.length - b.letter.length || (a.letter < b.letter ? -1 : 1))[0];
  const flown = Object.values(document.scenarios).some((s) => s.kept.length > 0);
  const loaded = candidates.some((c) => Object.keys(c.loadings ?? {}).length > 0);
  const engined = candidates.some((c) => c.engine);
  const fed = engined && candidates.some((c) => c.energy);
  const controlled = candidates.some((c) => c.surfaces.some((s) => s.controls?.length));
  const looped = candidates.some((c) => c.autopilot?.chains.length);
  const blocks: Plain[] = [
    heading('Summary'),
    text(
      first
        ? `Candidate ${first.letter} has a static margin of @{${first.letter} static-margin} and trims at @{${first.letter} trim-angle}, controls as they stand. Its drag coefficient in level flight is @{${first.letter} level-CD}.`
        : 'There is no candidate with a wing yet.',
    ),
    table('requirements'),
    heading('Brief'),
    ...(document.brief.note.trim() ? [text(document.brief.note)] : []),
    table('brief'),
    heading('Geometry'),
    ...candidates.flatMap((c): Plain[] => [
      { kind: 'space-view', subject: c.id, ...SPACE_VIEW, title: '', caption: '' },
      { kind: 'three-view', subject: c.id, title: '', caption: '' },
    ]),
    table('geometry'),
    ...(controlled ? [table('controls')] : []),
    heading('Sections'),
    figure('section-shapes'),
    table('sections'),
    figure('section-drag'),
    figure('section-lift'),
    figure('section-moment'),
    heading('Lift and trim'),
    figure('lift-curve'),
    figure('moment-curve'),
    figure('span-load'),
    heading('Drag'),
    table('drag'),
    figure('drag-polar'),
    heading('Balance'),
    table('masses'),
    figure('margin-centre'),
    ...(loaded ? [figure('margin-loading')] : []),
    heading('Performance'),
    table('performance'),
    figure('power-required'),
    ...(engined ? [figure('climb-rate')] : []),
    figure('sink-rate'),
    ...(controlled ? [figure('trim-deflection')] : []),
    figure('load-envelope'),
    ...(fed ? [figure('range-mass')] : []),
    heading('Motion'),
    figure('modes'),
    table('modes'),
    ...(looped ? [heading('Control'), table('loops')] : []),
    ...(flown ? [heading('Flights'), table('flights'), figure('flight-path')] : []),
    ...(studied ? [heading('Studies'), table('studies')] : []),
    heading('Findings'),
    table('findings'),
    heading('Decision'),
    { kind: 'decision', chosen: '', why: '', givenUp: '' },
    heading('Appendix'),
    table('assumptions'),
    table('validity'),
    table('methods'),
  ];
  return { id: newId(), name, blocks: blocks.map((b): ReportBlock => ({ id: newId(), ...b })) };
}
