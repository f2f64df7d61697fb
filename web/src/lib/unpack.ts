import type { ProjectDocument } from '@veldtwind/core/project';

/**
 * Lists of points come from the server as text, so that a large library opens at once; each is taken apart when it is first looked at.
 * @param document as it came; its sources are changed in place.
 */
export function unpackPoints(document: ProjectDocument): ProjectDocument {
  for (const section of Object.values(document.sections)) {
    const source = section.source as { points?: unknown };
    const text = source.points;
    if (typeof text !== 'string') continue;
    Object.defineProperty(source, 'points', {
      enumerable: true,
      configurable: true,
      get() {
        const value = JSON.parse(`[[${text}]]`) as [number, number][];
        Object.defineProperty(source, 'points', { value, enumerable: true, configurable: true, writable: true });
        return value;
      },
    });
  }
  return document;
}
