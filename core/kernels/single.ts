/** y = A x with a matrix of single numbers, row by row, and vectors of double ones; sums are double. */
export function multiplySingle(a: usize, x: usize, y: usize, n: i32): void {
  for (let i = 0; i < n; i++) {
    const row = a + ((<usize>i * <usize>n) << 2);
    let s = f64x2.splat(0);
    let t = f64x2.splat(0);
    let u = f64x2.splat(0);
    let v = f64x2.splat(0);
    let j = 0;
    for (; j + 7 < n; j += 8) {
      const at = row + (<usize>j << 2);
      const to = x + (<usize>j << 3);
      s = f64x2.add(s, f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at)), v128.load(to)));
      t = f64x2.add(t, f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at, 8)), v128.load(to, 16)));
      u = f64x2.add(u, f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at, 16)), v128.load(to, 32)));
      v = f64x2.add(v, f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at, 24)), v128.load(to, 48)));
    }
    s = f64x2.add(f64x2.add(s, t), f64x2.add(u, v));
    let sum = f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
    for (; j < n; j++) sum += <f64>load<f32>(row + (<usize>j << 2)) * load<f64>(x + (<usize>j << 3));
    store<f64>(y + (<usize>i << 3), sum);
  }
}
