import { createPinia } from 'pinia';
import { createApp, h, nextTick, shallowRef } from 'vue';
import LineChart from '@/components/chart/LineChart.vue';
import type { ChartSeries } from '@/lib/chart-model';
import { seriesStyle } from '@/lib/series-style';
import '@/style.css';

/** A page of its own for the bench: 200 curves of 100 points, given new values and a moving cursor. */
const curvesAt = (step: number): ChartSeries[] =>
  Array.from({ length: 200 }, (_, i) => ({
    id: `s${i}`,
    label: '',
    style: seriesStyle(i % 6),
    markers: false,
    points: Array.from({ length: 100 }, (__, j) => ({
      x: j / 99,
      y: Math.sin(j / 15 + step / 30) * (1 + i / 100),
      tag: j,
    })),
  }));

const series = shallowRef(curvesAt(0));
const tag = shallowRef<number | null>(null);
const [x, y] = [{ name: 'x' }, { name: 'y' }];
createApp({
  render: () => h(LineChart, { chartId: 'bench', title: 'Curves', series: series.value, tag: tag.value, x, y }),
})
  .use(createPinia())
  .mount('#app');

/** Times of some changes until the page is laid out again, ms. */
async function time(change: (step: number) => void, runs = 30): Promise<number[]> {
  const times: number[] = [];
  for (let step = 1; step <= runs; step++) {
    await new Promise((r) => setTimeout(r, 30));
    const begun = performance.now();
    change(step);
    await nextTick();
    document.body.getBoundingClientRect();
    times.push(performance.now() - begun);
  }
  return times;
}

Object.assign(window, {
  run: async () => {
    const made = Array.from({ length: 31 }, (_, k) => curvesAt(k));
    return {
      redraw: await time((k) => (series.value = made[k])),
      cursor: await time((k) => (tag.value = k)),
    };
  },
});
