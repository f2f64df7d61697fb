// The field of a part's horseshoe vortices (see core/src/lift/horseshoe.ts, which is its reference), for a point in the first lane and its
// mirror image in the plane of symmetry in the second: both need the same corners.
//
// corners: (strips + 1) edges of (rows + 1) points x, y, z; width: one number a strip.
// scratch: room for 2 edges of (rows + 1) × (rx, ry, rz, r, leg x, leg y, leg z), 16 bytes each, then 3 × rows × strips vectors.

const K: f64 = 0.25 / 3.14159265358979323846;

function field(
  corners: usize,
  rows: i32,
  strips: i32,
  width: usize,
  wx: f64,
  wz: f64,
  px: f64,
  py: f64,
  pz: f64,
  own: i32,
  scratch: usize,
  out: usize,
): void {
  const stride = <usize>(rows + 1);
  const edgeBytes: usize = stride * 7 * 16;
  const dx = f64x2.splat(wx);
  const dz = f64x2.splat(wz);
  const one = f64x2.splat(1);
  const tiny = f64x2.splat(1e-12);
  const k4 = f64x2.splat(K);
  const zero = f64x2.splat(0);
  const PX = f64x2.splat(px);
  const PY = f64x2.replace_lane(f64x2.splat(py), 1, -py);
  const PZ = f64x2.splat(pz);
  let here = scratch;
  let before = scratch + edgeBytes;
  for (let e = 0; e <= strips; e++) {
    let c = corners + <usize>e * stride * 24;
    // Per corner: 0 rx, 16 ry, 32 rz, 48 r, 64 leg x, 80 leg y, 96 leg z.
    let s = here;
    for (let i = 0; i <= rows; i++) {
      const x = f64x2.sub(PX, v128.load64_splat(c));
      const y = f64x2.sub(PY, v128.load64_splat(c, 8));
      const z = f64x2.sub(PZ, v128.load64_splat(c, 16));
      v128.store(s, x);
      v128.store(s, y, 16);
      v128.store(s, z, 32);
      v128.store(s, f64x2.sqrt(f64x2.add(f64x2.add(f64x2.mul(x, x), f64x2.mul(y, y)), f64x2.mul(z, z))), 48);
      c += 24;
      s += 112;
    }
    // Wake leg from the last corner.
    let k = here + <usize>rows * 112;
    let core: f64 = 0;
    if (!own) {
      const w0 = load<f64>(width + <usize>max(e - 1, 0) * 8);
      const w1 = load<f64>(width + <usize>min(e, strips - 1) * 8);
      const w = max(w0, w1);
      core = 0.25 * w * w;
    }
    let rx = v128.load(k);
    let ry = v128.load(k, 16);
    let rz = v128.load(k, 32);
    let r = v128.load(k, 48);
    let cx = f64x2.neg(f64x2.mul(dz, ry));
    let cy = f64x2.sub(f64x2.mul(dz, rx), f64x2.mul(dx, rz));
    let cz = f64x2.mul(dx, ry);
    const along = f64x2.add(f64x2.mul(dx, rx), f64x2.mul(dz, rz));
    const below = f64x2.add(
      f64x2.add(f64x2.add(f64x2.mul(cx, cx), f64x2.mul(cy, cy)), f64x2.mul(cz, cz)),
      f64x2.splat(core),
    );
    let f = f64x2.div(f64x2.mul(k4, f64x2.add(one, f64x2.div(along, f64x2.max(r, f64x2.splat(1e-12))))), below);
    f = v128.bitselect(f, zero, f64x2.gt(below, f64x2.splat(1e-24)));
    let sx = f64x2.mul(cx, f);
    let sy = f64x2.mul(cy, f);
    let sz = f64x2.mul(cz, f);
    for (let i = rows - 1; i >= 0; i--) {
      const m = here + <usize>i * 112;
      const ax = v128.load(m);
      const ay = v128.load(m, 16);
      const az = v128.load(m, 32);
      const ar = v128.load(m, 48);
      cx = f64x2.sub(f64x2.mul(ay, rz), f64x2.mul(az, ry));
      cy = f64x2.sub(f64x2.mul(az, rx), f64x2.mul(ax, rz));
      cz = f64x2.sub(f64x2.mul(ax, ry), f64x2.mul(ay, rx));
      const rr = f64x2.mul(ar, r);
      const dot = f64x2.add(f64x2.add(f64x2.mul(ax, rx), f64x2.mul(ay, ry)), f64x2.mul(az, rz));
      const b = f64x2.mul(rr, f64x2.add(rr, dot));
      f = f64x2.div(f64x2.mul(k4, f64x2.add(ar, r)), b);
      f = v128.bitselect(f, zero, f64x2.gt(b, f64x2.mul(tiny, f64x2.mul(rr, rr))));
      sx = f64x2.add(sx, f64x2.mul(cx, f));
      sy = f64x2.add(sy, f64x2.mul(cy, f));
      sz = f64x2.add(sz, f64x2.mul(cz, f));
      v128.store(m, sx, 64);
      v128.store(m, sy, 80);
      v128.store(m, sz, 96);
      rx = ax;
      ry = ay;
      rz = az;
      r = ar;
    }
    if (e > 0) {
      let o = out + <usize>(e - 1) * <usize>rows * 48;
      for (let i = 0; i < rows; i++) {
        const p = before + <usize>i * 112;
        const q = here + <usize>i * 112;
        const ax = v128.load(p);
        const ay = v128.load(p, 16);
        const az = v128.load(p, 32);
        const ar = v128.load(p, 48);
        rx = v128.load(q);
        ry = v128.load(q, 16);
        rz = v128.load(q, 32);
        r = v128.load(q, 48);
        cx = f64x2.sub(f64x2.mul(ay, rz), f64x2.mul(az, ry));
        cy = f64x2.sub(f64x2.mul(az, rx), f64x2.mul(ax, rz));
        cz = f64x2.sub(f64x2.mul(ax, ry), f64x2.mul(ay, rx));
        const rr = f64x2.mul(ar, r);
        const dot = f64x2.add(f64x2.add(f64x2.mul(ax, rx), f64x2.mul(ay, ry)), f64x2.mul(az, rz));
        const b = f64x2.mul(rr, f64x2.add(rr, dot));
        f = f64x2.div(f64x2.mul(k4, f64x2.add(ar, r)), b);
        f = v128.bitselect(f, zero, f64x2.gt(b, f64x2.mul(tiny, f64x2.mul(rr, rr))));
        v128.store(o, f64x2.sub(f64x2.add(f64x2.mul(cx, f), v128.load(q, 64)), v128.load(p, 64)));
        v128.store(o, f64x2.sub(f64x2.add(f64x2.mul(cy, f), v128.load(q, 80)), v128.load(p, 80)), 16);
        v128.store(o, f64x2.sub(f64x2.add(f64x2.mul(cz, f), v128.load(q, 96)), v128.load(p, 96)), 32);
        o += 48;
      }
    }
    const swap = here;
    here = before;
    before = swap;
  }
}

/** Normal velocities of a part's horseshoes at many control points, into the columns of a matrix. image: 0 none, 1 even, −1 odd. */
export function assemble(
  corners: usize,
  rows: i32,
  strips: i32,
  width: usize,
  wx: f64,
  wz: f64,
  controls: usize,
  normals: usize,
  count: i32,
  own: i32,
  image: f64,
  matrix: usize,
  lda: i32,
  scratch: usize,
): void {
  const out = scratch + <usize>(rows + 1) * 7 * 16 * 2;
  const n = rows * strips;
  for (let i = 0; i < count; i++) {
    const c = <usize>i * 24;
    const nx = load<f64>(normals + c);
    const ny = load<f64>(normals + c, 8);
    const nz = load<f64>(normals + c, 16);
    field(
      corners,
      rows,
      strips,
      width,
      wx,
      wz,
      load<f64>(controls + c),
      load<f64>(controls + c, 8),
      load<f64>(controls + c, 16),
      own,
      scratch,
      out,
    );
    const NX = f64x2.replace_lane(f64x2.splat(nx), 1, image * nx);
    const NY = f64x2.replace_lane(f64x2.splat(ny), 1, -image * ny);
    const NZ = f64x2.replace_lane(f64x2.splat(nz), 1, image * nz);
    let o = out;
    let m = matrix + <usize>i * <usize>lda * 8;
    for (let k = 0; k < n; k++) {
      const v = f64x2.add(
        f64x2.add(f64x2.mul(NX, v128.load(o)), f64x2.mul(NY, v128.load(o, 16))),
        f64x2.mul(NZ, v128.load(o, 32)),
      );
      store<f64>(m, f64x2.extract_lane(v, 0) + f64x2.extract_lane(v, 1));
      o += 48;
      m += 8;
    }
  }
}

/** Velocities at many points from a part's horseshoes of given circulations, for several sets of them at once; added to `result`. */
export function induce(
  corners: usize,
  rows: i32,
  strips: i32,
  width: usize,
  wx: f64,
  wz: f64,
  points: usize,
  count: i32,
  own: i32,
  image: f64,
  gammas: usize,
  sets: i32,
  result: usize,
  scratch: usize,
): void {
  const out = scratch + <usize>(rows + 1) * 7 * 16 * 2;
  const n = rows * strips;
  for (let i = 0; i < count; i++) {
    const c = <usize>i * 24;
    field(
      corners,
      rows,
      strips,
      width,
      wx,
      wz,
      load<f64>(points + c),
      load<f64>(points + c, 8),
      load<f64>(points + c, 16),
      own,
      scratch,
      out,
    );
    for (let s = 0; s < sets; s++) {
      let u = f64x2.splat(0);
      let v = f64x2.splat(0);
      let w = f64x2.splat(0);
      let g = gammas + <usize>s * <usize>n * 8;
      let o = out;
      for (let k = 0; k < n; k++) {
        const G = v128.load64_splat(g);
        u = f64x2.add(u, f64x2.mul(G, v128.load(o)));
        v = f64x2.add(v, f64x2.mul(G, v128.load(o, 16)));
        w = f64x2.add(w, f64x2.mul(G, v128.load(o, 32)));
        g += 8;
        o += 48;
      }
      const r = result + <usize>(s * count + i) * 24;
      store<f64>(r, load<f64>(r) + f64x2.extract_lane(u, 0) + image * f64x2.extract_lane(u, 1));
      store<f64>(r, load<f64>(r, 8) + f64x2.extract_lane(v, 0) - image * f64x2.extract_lane(v, 1), 8);
      store<f64>(r, load<f64>(r, 16) + f64x2.extract_lane(w, 0) + image * f64x2.extract_lane(w, 1), 16);
    }
  }
}
