import { performance as clock } from 'node:perf_hooks';
import { writeFileSync } from 'node:fs';
import { composeReport, designReview, resultsOf } from '@veldtwind/core/report';
import { figureSvg, drawingSvg, PRINT_LOOK } from '@veldtwind/core/figures';
import { seedsnipe } from '../../demo/src/seedsnipe';
void (async () => {
  const { document, name } = seedsnipe();
  document.brief.assumptions.method = 'lattice';
  let n = 0;
  const results: any = {};
  for (const id of Object.keys(document.candidates)) { const t = clock.now(); results[id] = await resultsOf(document, id, { level: null, flight: null }); console.log(id, (clock.now() - t).toFixed(0), results[id].reasons); }
  const t = clock.now();
  const r = composeReport(designReview(document, () => `b${n++}`), name, { document, results, polars: {}, units: 'metric' });
  console.log('compose', clock.now() - t, JSON.stringify(r).length);
  for (const b of r.blocks) console.log(b.kind, 'title' in b ? b.title : 'text' in b ? b.text : '', 'caption' in b ? '| ' + b.caption : '', 'reason' in b ? b.reason : '', 'markdown' in b ? b.markdown : '');
  let html = '<body style="background:#fff">';
  for (const b of r.blocks) { if (b.kind === 'figure') html += `<p>${b.title}</p>` + figureSvg(b.figure, { width: 520, height: 300 }, PRINT_LOOK, b.id); if (b.kind === 'drawing') html += drawingSvg(b.drawing, { width: 520, height: 420 }, PRINT_LOOK); }
  writeFileSync('/tmp/rep.html', html);
  writeFileSync('/tmp/rep.json', JSON.stringify(r));
})();
