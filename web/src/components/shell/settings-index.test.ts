import { readFileSync } from 'node:fs';
import { readPage } from '@/help/help-text';
import { SETTINGS } from './settings-index';

const sectionsOf = (page: string) => {
  const path = `docs/help/${page}.md`;
  return readPage(path, readFileSync(path, 'utf8')).sections.map((s) => s.title);
};

describe('settings that can be searched', () => {
  it('has the fields of every subject, each once in its area', () => {
    expect(SETTINGS.length).toBeGreaterThan(100);
    expect(new Set(SETTINGS.map((s) => `${s.area} ${s.label}`)).size).toBe(SETTINGS.length);
    for (const label of ['Critical n', 'Pitch slope per', 'Factor of safety', 'Twist'])
      expect(SETTINGS.map((s) => s.label)).toContain(label);
  });
  it('names groups that the help of the area has, so that they are on its sheet', () => {
    const common = sectionsOf('common');
    for (const s of SETTINGS) if (s.group !== undefined) expect([...sectionsOf(s.area), ...common]).toContain(s.group);
  });
});
