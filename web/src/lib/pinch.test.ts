import { pinched, type Place } from './pinch';

const at = (px: number, py: number): Place => ({ px, py });
const size = { w: 400, h: 200 };

describe('two fingers on a figure', () => {
  it('spread to twice as far: half of it is in view, about where they are', () => {
    const view = pinched([at(150, 100), at(250, 100)], [at(100, 100), at(300, 100)], size);
    expect(view.x).toEqual([100, 300]);
    expect(view.y).toEqual([50, 150]);
  });
  it('moved alike: the view moves along and keeps its size', () => {
    const view = pinched([at(100, 50), at(200, 90)], [at(140, 40), at(240, 80)], size);
    expect(view.x).toEqual([-40, 360]);
    expect(view.y).toEqual([10, 210]);
  });
  it('leave what lay under each of them under it', () => {
    const [from, now] = [[at(120, 60), at(260, 130)] as const, [at(90, 45), at(300, 150)] as const];
    const { x } = pinched(from, now, size);
    const seen = (p: number) => ((p - x[0]) / (x[1] - x[0])) * size.w;
    from.forEach((f, i) => expect(seen(f.px)).toBeCloseTo(now[i].px, 9));
  });
  it('on one place stretch nothing without end', () => {
    const view = pinched([at(100, 100), at(100, 100)], [at(0, 100), at(4000, 100)], size);
    expect(view.x[1] - view.x[0]).toBeCloseTo(size.w / 40, 9);
  });
});
