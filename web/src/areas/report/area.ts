import { toast } from 'vue-sonner';
import { FIGURE_NAMES, REPORT_FIGURES, REPORT_TABLES, SPACE_VIEW, TABLE_NAMES } from '@veldtwind/core/report';
import { area, type Command } from '@/lib/area';
import { useProject } from '@/store/project';
import { useReports, type NewBlock } from '@/store/reports';

const OWN = { title: '', caption: '' };
/** Puts a figure or a table into the report from wherever one is. */
function putting(name: string, block: NewBlock): Command {
  return {
    id: `report-${block.kind}-${'of' in block ? block.of : 'subject' in block ? block.subject : ''}`,
    name: `Put into the report: ${name}`,
    run: () => {
      useReports().put(block);
      toast.success(`${name} is in the report`);
    },
  };
}

export default area({
  id: 'report',
  place: 12,
  name: 'Report',
  group: '',
  question: 'What did we find, and why?',
  path: 'report',
  view: () => import('./ReportArea.vue'),
  mark: () => (Object.keys(useProject().document.reports).length > 0 ? 'current' : 'empty'),
  commands: () => [
    ...REPORT_FIGURES.map((of) => putting(FIGURE_NAMES[of], { kind: 'figure', of, ...OWN })),
    ...useProject().candidates.flatMap(({ id, letter }) => [
      putting(`Three-view of ${letter}`, { kind: 'three-view', subject: id, ...OWN }),
      putting(`Space view of ${letter}`, { kind: 'space-view', subject: id, ...SPACE_VIEW, ...OWN }),
    ]),
    ...REPORT_TABLES.map((of) => putting(`${TABLE_NAMES[of]}, table`, { kind: 'table', of, ...OWN })),
  ],
});
