import { MEASURES } from '../control';
import { formatNumber } from '../units';
import type { ComposedCell } from './composed';
import type { TableMaker } from './tables';

const number = (v: number | null, digits: number) => (v === null ? '—' : formatNumber(v, digits));

/** Control loops with their margins, from the inner to the outer. */
export const loopsTable: TableMaker = (_c, of) => {
  const rows = of.flatMap(({ candidate, made }) =>
    (candidate.autopilot?.chains ?? []).flatMap((chain) =>
      chain.laws.map((law, i): ComposedCell[] => {
        const line = made.loops?.find((l) => l.chain === chain.id && l.loop === i);
        const lead = [candidate.letter, chain.name, MEASURES[law.from].name].map((text) => ({ text }));
        if (!line || 'failure' in line)
          return [...lead, ...['—', '—', '—', '—', '—'].map((text) => ({ text })), { text: line?.failure ?? '—' }];
        const numbers = [
          number(line.gainMarginDb, 1),
          number(line.phaseMarginDeg, 0),
          number(line.gainCrossover, 2),
          number(line.riseTime, 2),
          number(line.settlingTime, 2),
        ].map((text) => ({ text }));
        return [
          ...lead,
          ...numbers,
          {
            text: !line.holds ? 'unstable' : line.keeps ? 'held' : 'below the aim',
            state: line.keeps ? 'inside' : 'outside',
          },
        ];
      }),
    ),
  );
  if (rows.length === 0) return { missing: 'No candidate has a control loop.' };
  const numbers = ['Gain margin, dB', 'Phase margin, °', 'Crossover, rad/s', 'Rise time, s', 'Settling time, s'];
  return {
    title: 'Control loops',
    caption: of
      .filter((s) => s.candidate.autopilot?.chains.length)
      .map(({ title, candidate: { autopilot } }) => {
        const { gainMarginDb, phaseMarginDeg } = autopilot!.aims;
        return `${title}: at least ${formatNumber(gainMarginDb, 1)} dB and ${formatNumber(phaseMarginDeg, 0)}° are aimed at.`;
      })
      .join(' '),
    table: {
      columns: [
        { name: '' },
        { name: 'Chain' },
        { name: 'Loop' },
        ...numbers.map((name) => ({ name, numbers: true })),
        { name: 'Margins' },
      ],
      rows,
    },
  };
};
