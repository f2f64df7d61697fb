import { area } from '@/lib/area';
import { router } from '@/router';
import { useProject } from '@/store/project';

export default area({
  id: 'sections',
  place: 2,
  name: 'Sections',
  group: 'Shape',
  question: 'Which aerofoils, in what shape?',
  path: 'sections/:section?',
  view: () => import('./SectionsArea.vue'),
  mark: () => (useProject().sections.length > 0 ? 'current' : 'empty'),
  commands: () => {
    const project = useProject();
    return project.sections.map((s) => ({
      id: `section-${s.id}`,
      name: `Section ${s.name}`,
      run: () =>
        void router.push({
          name: 'sections',
          params: { project: project.id!, section: s.id },
          query: router.currentRoute.value.query,
        }),
    }));
  },
});
