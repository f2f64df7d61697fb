import { formulaParts } from './formula-parts';

const told = (formula: string) =>
  formulaParts(formula)
    .map((p) => (p.low ? `[${p.text}]` : p.text))
    .join('');

describe('a formula with its indices', () => {
  it.each([
    ['(x_np − x_cg)/c̄ = −(dCm/dα)/(dCL/dα)', '(x[np] − x[cg])/c̄ = −(dC[m]/dα)/(dC[L]/dα)'],
    ['e = CL²/(π A CDi)', 'e = C[L]²/(π A C[Di])'],
    ['−(Cmα/CLα)(1 − CLq μ)', '−(C[mα]/C[Lα])(1 − C[Lq] μ)'],
    ['CL(α, δ) = W/(q S)', 'C[L](α, δ) = W/(q S)'],
    ['W = ½ρV² S CL max, trimmed', 'W = ½ρV² S C[L] max, trimmed'],
    ['D V/W', 'D V/W'],
    ['Climb', 'Climb'],
  ])('%s', (formula, parts) => {
    expect(told(formula)).toBe(parts);
  });
});
