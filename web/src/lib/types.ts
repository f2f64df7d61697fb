export type { BriefPart, CandidatePart, SectionPart } from '@veldtwind/core/project';
export type { LiftingSurface } from '@veldtwind/core/airframe';
