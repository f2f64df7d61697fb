/** What curves of a study's members are marked with in place of a section. */
export const FAMILY = 'family:';
