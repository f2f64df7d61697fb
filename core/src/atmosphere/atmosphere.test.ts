import { flowState, standardAir } from '.';

// Values of ISO 2533 (1975), by geopotential height; the geometric altitudes below correspond to them.
const geometric = (h: number) => (6356766 * h) / (6356766 - h);

describe('standard atmosphere', () => {
  it.each([
    [0, 288.15, 101325, 1.225, 340.294],
    [11000, 216.65, 22632, 0.363918, 295.069],
    [20000, 216.65, 5474.88, 0.0880347, 295.069],
    [32000, 228.65, 868.014, 0.0132249, 303.131],
    [47000, 270.65, 110.906, 0.00142752, 329.799],
  ])('at %i m', (h, temperature, pressure, density, sound) => {
    const air = standardAir(geometric(h));
    expect(air.temperature).toBeCloseTo(temperature, 2);
    expect(air.pressure / pressure).toBeCloseTo(1, 4);
    expect(air.density / density).toBeCloseTo(1, 4);
    expect(air.soundSpeed).toBeCloseTo(sound, 2);
  });
  it('has the tabulated viscosity at sea level', () => {
    expect(standardAir(0).viscosity).toBeCloseTo(1.7894e-5, 9);
  });
  it('refuses an altitude outside its table, and a speed of zero', () => {
    expect(() => standardAir(90000)).toThrow(/50000 m/);
    expect(() => standardAir(NaN)).toThrow(/outside/);
    expect(() => flowState(0, 0)).toThrow(/greater than zero/);
  });
  it('gives dynamic pressure, Mach and Reynolds number', () => {
    const flow = flowState(26, 600);
    expect(flow.dynamicPressure).toBeCloseTo(0.5 * flow.density * 676, 10);
    expect(flow.mach).toBeCloseTo(26 / flow.soundSpeed, 12);
    expect(flow.reynoldsPerMetre).toBeGreaterThan(1.6e6);
    expect(flow.reynoldsPerMetre).toBeLessThan(1.8e6);
  });
});
