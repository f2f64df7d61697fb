import { InvalidInput } from '../numerics';
import {
  materialOf,
  plateBuckling,
  plateShearBuckling,
  rectangleTorsion,
  shearFlows,
  shellBuckling,
  tube,
  wrinkling,
  type Corner,
  type Material,
  type Wall,
} from '../structure';
import { checkSkin, skinAt, sparAt, type BuiltSurface, type SectionPlace, type SparPlace } from './shape';

/** What part of a member is looked at. */
export type MemberPart = 'skin' | 'cap' | 'web' | 'bar' | 'tube' | 'core';

/** A spot of a cross-section that stress is found at. */
export interface Spot {
  /** Id of a spar, `skin` or `core`. */ member: string;
  part: MemberPart;
  material: Material;
  /** Over the neutral axis, m. */ z: number;
  /** Compression at which it buckles, Pa. */ buckling: number;
  /** Shear stress of a shear force of one newton, and of a torque of one newton metre; 1/m², 1/m³. */
  shear: number;
  torque: number;
  /** Shear at which it buckles, Pa. */ shearBuckling: number;
}

/** A cross-section of a beam. */
export interface CrossSection {
  place: SectionPlace;
  /** N m² */ EI: number;
  GJ: number;
  /** Elastic axis, m behind the leading edge along the chord. */ axis: number;
  spots: Spot[];
  spars: SparPlace[];
}

/** A piece that resists by itself: its share of shear goes with its bending stiffness, of torque with its torsional stiffness. */
interface Piece {
  EI: number;
  GJ: number;
  centre: number;
  /** Called with its shares: adds the spots. */ spots(shear: number, torque: number): void;
}

/** Walls that a web and each side of the skin are cut into. */
const WEB_PIECES = 4;
const SKIN_PIECES = 30;

/**
 * The cross-section of a built surface at a place: bending and torsional stiffness, elastic axis, and where stress is looked at. Plane sections stay plane;
 * skin and the spars that reach it make cells; tubes, low spars and the core resist beside them.
 * @param sweep of the beam, rad: the section is cut square to it. @param panel distance between ribs, m.
 * @throws InvalidInput `spar-outside`, `skin-thick`, `no-structure` where nothing resists.
 */
export function crossSection(surface: BuiltSurface, place: SectionPlace, sweep: number, panel: number): CrossSection {
  const { structure } = surface;
  const name = surface.name || surface.id;
  const cos = Math.cos(sweep);
  if (!structure.core) checkSkin(structure, place, name);
  const spars = structure.spars.flatMap(
    (s) => sparAt(s, place, name, skinAt(structure, s.at * place.chord, place.chord)) ?? [],
  );
  const core = structure.core && materialOf(structure.core.material);
  const skin = structure.skin && !materialOf(structure.skin.material).slack ? structure.skin : undefined;
  const fibres: { EA: number; z: number; own: number }[] = [];
  const pieces: Piece[] = [];
  const spots: Spot[] = [];
  const pending: ((z0: number) => void)[] = [];
  const spot = (s: Omit<Spot, 'shear' | 'torque' | 'shearBuckling'> & Partial<Spot>) =>
    spots.push({ shear: 0, torque: 0, shearBuckling: Infinity, ...s });
  /** Solids and caps along their height: EA and EI about their own middle. */
  const bar = (material: Material, z: number, width: number, height: number) => {
    const EA = material.modulus * width * height;
    fibres.push({ EA, z, own: (EA * height ** 2) / 12 });
    return EA;
  };

  // A web within one per cent of the chord behind a nose skin closes it.
  const joined = skin ? spars.filter((s) => s.full && s.x <= ((skin.to ?? 1) + 0.01) * place.chord) : [];
  if (skin) skinPiece(skin, joined);
  for (const s of spars) if (!joined.includes(s)) looseSpar(s);
  if (core) corePiece(core);
  const whole = fibres.reduce((sum, f) => sum + f.EA, 0);
  if (!(whole > 0))
    throw new InvalidInput(
      'no-structure',
      `Nothing carries a load at ${(100 * place.share).toFixed(0)} % of the half span of ${name}.`,
      'Let a spar or a skin reach to the tip.',
      'structure',
    );
  const z0 = fibres.reduce((sum, f) => sum + f.EA * f.z, 0) / whole;
  const EI = fibres.reduce((sum, f) => sum + f.EA * (f.z - z0) ** 2 + f.own, 0);
  const carrying = pieces.filter((p) => p.EI > 0);
  const bending = carrying.reduce((sum, p) => sum + p.EI, 0);
  const GJ = pieces.reduce((sum, p) => sum + p.GJ, 0);
  const axis = carrying.reduce((sum, p) => sum + (p.EI / bending) * p.centre, 0);
  for (const p of pieces) p.spots(bending > 0 ? p.EI / bending : 0, p.GJ / GJ);
  for (const make of pending) make(z0);
  return { place, EI, GJ, axis, spots, spars };

  function skinPiece(shell: NonNullable<typeof structure.skin>, within: SparPlace[]): void {
    const material = materialOf(shell.material);
    const t = shell.thickness;
    const end = (shell.to ?? 1) * place.chord;
    const nose = place.ring[(place.ring.length - 1) / 2];
    const start = nose[0];
    // Where webs meet the skin; two webs that meet at one place are one.
    const webs: { x: number; spar: SparPlace; thickness: number }[] = [];
    for (const s of within)
      for (const x of s.spar.kind === 'box' ? [s.x - 0.5 * (s.width - s.web), s.x + 0.5 * (s.width - s.web)] : [s.x])
        webs.push({ x: Math.min(x, end), spar: s, thickness: s.spar.kind === 'solid' ? s.width : s.web });
    const near = 2e-3 * place.chord;
    const xs = Array.from(
      { length: SKIN_PIECES },
      (_, k) => start + (end - start) * 0.5 * (1 - Math.cos((Math.PI * (k + 1)) / SKIN_PIECES)),
    ).filter((x) => x === end || webs.every((w) => Math.abs(w.x - x) > near));
    xs[xs.length - 1] = end;
    for (const w of webs) {
      const same = xs.find((x) => Math.abs(x - w.x) < 1e-6 * place.chord);
      if (same === undefined) xs.push(w.x);
      else w.x = same;
    }
    xs.sort((a, b) => a - b);
    const corners: Corner[] = [];
    const walls: Wall[] = [];
    const told: { member: string; part: MemberPart; panel: number; side: 1 | -1 | 0; spar?: SparPlace }[] = [];
    const inside = (z: number, side: 1 | -1, x: number) => {
      const room = Math.max(0, 0.5 * (place.upper(x) - place.lower(x)));
      return z - side * Math.min(0.5 * t, room);
    };
    const corner = (x: number, z: number) => corners.push({ x: x * cos, z, EA: 0 }) - 1;
    const at: Record<1 | -1, Map<number, number>> = { 1: new Map(), [-1]: new Map() };
    // From the upper end over the nose to the lower end.
    const order: number[] = [];
    for (const x of [...xs].reverse()) order.push(corner(x, inside(place.upper(x), 1, x)));
    [...xs].reverse().forEach((x, i) => at[1].set(x, order[i]));
    order.push(corner(nose[0] + 0.5 * t, nose[1]));
    for (const x of xs) {
      const z = inside(place.lower(x), -1, x);
      const top = at[1].get(x)!;
      // A sharp tail is one corner.
      const sharp = x === end && (shell.to ?? 1) === 1 && corners[top].z - z < 1e-4 * place.chord;
      const index = sharp ? top : corner(x, z);
      order.push(index);
      at[-1].set(x, index);
    }
    const breaks = new Set(webs.flatMap((w) => [at[1].get(w.x)!, at[-1].get(w.x)!]));
    let panelIndex = 0;
    const panels: number[][] = [[]];
    for (let i = 0; i + 1 < order.length; i++) {
      if (i > 0 && (breaks.has(order[i]) || i === xs.length)) panels[++panelIndex] = [];
      panels[panelIndex].push(walls.length);
      walls.push({ a: order[i], b: order[i + 1], thickness: t, E: material.modulus, G: material.shearModulus });
      told.push({ member: 'skin', part: 'skin', panel: panelIndex, side: i < xs.length ? 1 : -1 });
    }
    const [first, last] = [order[0], order[order.length - 1]];
    if ((shell.to ?? 1) === 1 && first !== last) {
      walls.push({ a: last, b: first, thickness: t, E: material.modulus, G: material.shearModulus });
      told.push({ member: 'skin', part: 'skin', panel: -1, side: 0 });
    }
    for (const w of webs) {
      const { spar } = w.spar;
      const own = materialOf(spar.kind === 'solid' ? spar.material : (spar.webMaterial ?? spar.material));
      const [top, bottom] = [at[1].get(w.x)!, at[-1].get(w.x)!];
      let before = top;
      for (let k = 1; k <= WEB_PIECES; k++) {
        const share = k / WEB_PIECES;
        const next =
          k === WEB_PIECES ? bottom : corner(w.x, corners[top].z + share * (corners[bottom].z - corners[top].z));
        walls.push({ a: before, b: next, thickness: w.thickness, E: own.modulus, G: own.shearModulus });
        told.push({ member: spar.id, part: spar.kind === 'solid' ? 'bar' : 'web', panel: -1, side: 0, spar: w.spar });
        before = next;
      }
    }
    // What bends: walls exactly, caps as bars of their own.
    for (const w of walls) {
      const [a, b] = [corners[w.a], corners[w.b]];
      const EA = w.E * w.thickness * Math.hypot(b.x - a.x, b.z - a.z);
      fibres.push({ EA, z: 0.5 * (a.z + b.z), own: (EA * (b.z - a.z) ** 2) / 12 });
    }
    for (const s of within) {
      if (s.spar.kind === 'solid') continue;
      const own = materialOf(s.spar.material);
      const mine = webs.filter((w) => w.spar === s);
      for (const side of [1, -1] as const) {
        const skinZ = side === 1 ? place.upper(s.x) : place.lower(s.x);
        const z = skinZ - side * (t + 0.5 * s.cap);
        const EA = bar(own, z, s.width, s.cap);
        for (const w of mine) corners[at[side].get(w.x)!].EA += EA / mine.length;
        pending.push((zero) =>
          spot({ member: s.spar.id, part: 'cap', material: own, z: z + side * 0.5 * s.cap - zero, buckling: Infinity }),
        );
      }
    }
    const flows = shearFlows(corners, walls);
    const EAs = corners.map((c) => c.EA);
    for (const w of walls) {
      const half =
        0.5 * w.E * w.thickness * Math.hypot(corners[w.b].x - corners[w.a].x, corners[w.b].z - corners[w.a].z);
      EAs[w.a] += half;
      EAs[w.b] += half;
    }
    const sum = EAs.reduce((a, b) => a + b, 0);
    const middle = corners.reduce((s, c, i) => s + EAs[i] * c.z, 0) / sum;
    const stiff = corners.reduce((s, c, i) => s + EAs[i] * (c.z - middle) ** 2, 0);
    const limits = panels.map((list) => {
      const line = [walls[list[0]].a, ...list.map((i) => walls[i].b)].map((i) => corners[i]);
      return skinPanel(material, t, line, panel);
    });
    pieces.push({
      EI: stiff,
      GJ: flows.GJ,
      centre: flows.centre / cos,
      spots: (sheared, turned) =>
        pending.push((zero) =>
          walls.forEach((w, i) => {
            const { member, part, spar, side, panel: of } = told[i];
            const own =
              part === 'skin'
                ? material
                : materialOf(part === 'bar' ? spar!.spar.material : (spar!.spar.webMaterial ?? spar!.spar.material));
            const height = spar ? Math.max(1e-6, spar.height) : 0;
            const limit = of >= 0 ? limits[of] : null;
            for (const end of [w.a, w.b])
              spot({
                member,
                part,
                material: own,
                z: corners[end].z + (side * t) / 2 - zero,
                buckling: limit?.compression ?? Infinity,
                shear: (flows.shear[i] * sheared) / w.thickness,
                torque: (flows.torque[i] * turned) / w.thickness,
                shearBuckling:
                  limit?.shear ??
                  (part === 'web' ? plateShearBuckling(own.modulus, w.thickness, height, panel) : Infinity),
              });
          }),
        ),
    });
  }

  function skinPanel(material: Material, t: number, line: readonly Corner[], length: number) {
    if (core) {
      const face = wrinkling(material.modulus, core.modulus, core.shearModulus);
      return { compression: face, shear: face };
    }
    let arc = 0;
    for (let i = 1; i < line.length; i++) arc += Math.hypot(line[i].x - line[i - 1].x, line[i].z - line[i - 1].z);
    const [a, b] = [line[0], line[line.length - 1]];
    const chord = Math.hypot(b.x - a.x, b.z - a.z) || 1e-9;
    const rise = Math.max(...line.map((p) => Math.abs((b.x - a.x) * (p.z - a.z) - (b.z - a.z) * (p.x - a.x)) / chord));
    const radius = rise > 0 ? (0.25 * chord * chord + rise * rise) / (2 * rise) : Infinity;
    const curved = Number.isFinite(radius) ? shellBuckling(material.modulus, t, radius) : 0;
    return {
      compression: Math.max(plateBuckling(material.modulus, t, arc, length), curved),
      shear: plateShearBuckling(material.modulus, t, arc, length),
    };
  }

  function looseSpar(s: SparPlace): void {
    const { spar } = s;
    const material = materialOf(spar.material);
    if (spar.kind === 'tube') {
      const { area, I, stress } = tube(s.width, s.wall);
      const EI = material.modulus * I;
      fibres.push({ EA: material.modulus * area, z: s.z, own: EI });
      const R = 0.5 * s.width;
      const buckling =
        2 * s.wall < 0.98 * s.width ? shellBuckling(material.modulus, s.wall, R - 0.5 * s.wall) : Infinity;
      pieces.push({
        EI,
        GJ: 2 * material.shearModulus * I,
        centre: s.x,
        spots: (sheared, turned) =>
          pending.push((zero) => {
            for (const side of [1, -1])
              spot({
                member: spar.id,
                part: 'tube',
                material,
                z: s.z + side * R - zero,
                buckling,
                torque: (turned * R) / (2 * I),
              });
            spot({
              member: spar.id,
              part: 'tube',
              material,
              z: s.z - zero,
              buckling,
              shear: sheared * stress,
              torque: (turned * R) / (2 * I),
            });
          }),
      });
      return;
    }
    if (spar.kind === 'solid') {
      const EA = bar(material, s.z, s.width, s.height);
      const { J, stress } = rectangleTorsion(s.width, s.height);
      pieces.push({
        EI: (EA * s.height ** 2) / 12,
        GJ: material.shearModulus * J,
        centre: s.x,
        spots: (sheared, turned) =>
          pending.push((zero) => {
            const common = { member: spar.id, part: 'bar' as const, material, buckling: Infinity };
            for (const side of [1, -1]) spot({ ...common, z: s.z + side * 0.5 * s.height - zero });
            spot({
              ...common,
              z: s.z - zero,
              shear: (1.5 * sheared) / (s.width * s.height),
              torque: turned * stress,
            });
          }),
      });
      return;
    }
    // Two caps and their webs, in the middle lines of the walls.
    const own = materialOf(spar.webMaterial ?? spar.material);
    const half = 0.5 * (s.height - s.cap);
    const corners: Corner[] = [];
    const walls: Wall[] = [];
    const parts: ('cap' | 'web')[] = [];
    const corner = (x: number, z: number) => corners.push({ x: x * cos, z, EA: 0 }) - 1;
    const join = (a: number, b: number, part: 'cap' | 'web') => {
      const of = part === 'cap' ? material : own;
      walls.push({ a, b, thickness: part === 'cap' ? s.cap : s.web, E: of.modulus, G: of.shearModulus });
      parts.push(part);
    };
    const feet = spar.kind === 'box' ? [-0.5 * (s.width - s.web), 0.5 * (s.width - s.web)] : [0];
    const ends: Record<1 | -1, number[]> = { 1: [], [-1]: [] };
    for (const side of [1, -1] as const) {
      // Widths are of the spar itself: they are not cut by its sweep.
      const xs = spar.kind === 'box' ? feet : [-0.5 * s.width, 0, 0.5 * s.width];
      const line = xs.map((x) => corner(s.x + x / cos, s.z + side * half));
      for (let i = 1; i < line.length; i++) join(line[i - 1], line[i], 'cap');
      ends[side] = spar.kind === 'box' ? line : [line[1]];
      bar(material, s.z + side * half, s.width, s.cap);
    }
    const clear = s.height - 2 * s.cap;
    feet.forEach((x, k) => {
      let before = ends[1][k];
      for (let i = 1; i <= WEB_PIECES; i++) {
        const next = i === WEB_PIECES ? ends[-1][k] : corner(s.x + x / cos, s.z + half - (2 * half * i) / WEB_PIECES);
        join(before, next, 'web');
        before = next;
      }
      bar(own, s.z, s.web, clear);
    });
    const flows = shearFlows(corners, walls);
    const EI =
      2 * material.modulus * s.width * s.cap * (half ** 2 + s.cap ** 2 / 12) +
      (own.modulus * feet.length * s.web * clear ** 3) / 12;
    const flange =
      spar.kind === 'i'
        ? plateBuckling(material.modulus, s.cap, 0.5 * s.width, panel, true)
        : plateBuckling(material.modulus, s.cap, s.width - s.web, panel);
    pieces.push({
      EI,
      GJ: flows.GJ,
      centre: flows.centre / cos,
      spots: (sheared, turned) =>
        pending.push((zero) =>
          walls.forEach((w, i) => {
            const part = parts[i];
            const of = part === 'cap' ? material : own;
            for (const end of [w.a, w.b])
              spot({
                member: spar.id,
                part,
                material: of,
                z:
                  part === 'cap'
                    ? corners[end].z + Math.sign(corners[end].z - s.z) * 0.5 * s.cap - zero
                    : s.z + Math.max(-0.5 * clear, Math.min(0.5 * clear, corners[end].z - s.z)) - zero,
                buckling: part === 'cap' ? flange : Infinity,
                shear: (flows.shear[i] * sheared) / w.thickness,
                torque: (flows.torque[i] * turned) / w.thickness,
                shearBuckling:
                  part === 'web' ? plateShearBuckling(of.modulus, s.web, Math.max(1e-6, clear), panel) : Infinity,
              });
          }),
        ),
    });
  }

  function corePiece(material: Material): void {
    const n = 40;
    let [EA, first, second, cubed, top, bottom] = [0, 0, 0, 0, -Infinity, Infinity];
    for (let k = 0; k < n; k++) {
      const x = (place.chord * (k + 0.5)) / n;
      const [u, l] = [
        place.upper(x) - skinAt(structure, x, place.chord),
        place.lower(x) + skinAt(structure, x, place.chord),
      ];
      if (!(u > l)) continue;
      const w = (place.chord * cos) / n;
      EA += w * (u - l);
      first += (w * (u * u - l * l)) / 2;
      second += (w * (u ** 3 - l ** 3)) / 3;
      cubed += (w * (u - l) ** 3) / 3;
      top = Math.max(top, u);
      bottom = Math.min(bottom, l);
    }
    const z = first / EA;
    const I = second - EA * z * z;
    fibres.push({ EA: material.modulus * EA, z, own: material.modulus * I });
    const alone = pieces.length === 0;
    pieces.push({
      // Beside spars and skins its share of the shear is nothing to speak of, and they are safe without it.
      EI: alone ? material.modulus * I : 0,
      GJ: material.shearModulus * cubed,
      centre: 0.4 * place.chord,
      spots: (sheared, turned) =>
        pending.push((zero) => {
          for (const at of [top, bottom])
            spot({ member: 'core', part: 'core', material, z: at - zero, buckling: Infinity });
          if (alone)
            spot({
              member: 'core',
              part: 'core',
              material,
              z: z - zero,
              buckling: Infinity,
              shear: (1.5 * sheared) / EA,
              torque: turned * ((top - bottom) / cubed),
            });
        }),
    });
  }
}
