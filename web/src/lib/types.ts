export type { BriefPart, CandidatePart, SectionPart } from '@veldtwind/core/project';
export type { Surface } from '@veldtwind/core/airframe';
