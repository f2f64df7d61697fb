import { emptyLayers, type Layers } from './layers';
import type { SolvedState } from './viscous-section';

/** First bytes of a stored state: its kind and version. */
const MARK = 0x76730001;
const HEAD = 4 + 4 + 6 * 8;
const LISTS = ['c', 'theta', 'mass', 'velocity'] as const;

/**
 * A solved state as bytes: its four lists in single precision, which is what every state is rounded to; then sides and kinds.
 * 16 bytes a node and two more: about 3.3 kB for 160 panels.
 */
export function stateBytes(state: SolvedState): Uint8Array {
  const { layers } = state;
  const n = layers.c.length;
  const out = new Uint8Array(HEAD + n * (4 * LISTS.length + 2));
  const view = new DataView(out.buffer);
  view.setUint32(0, MARK);
  view.setUint16(4, n);
  view.setUint8(6, (layers.held[0] ? 1 : 0) + (layers.held[1] ? 2 : 0));
  [state.alpha, state.reynolds, layers.stagnation, ...layers.transition].forEach((v, i) =>
    view.setFloat64(8 + 8 * i, v),
  );
  let at = HEAD;
  for (const list of LISTS) for (let i = 0; i < n; i++, at += 4) view.setFloat32(at, layers[list][i]);
  for (let i = 0; i < n; i++) view.setInt8(at++, layers.side[i]);
  for (let i = 0; i < n; i++) view.setUint8(at++, layers.turbulent[i]);
  return out;
}

/** The state of such bytes. @returns undefined where they are none, or cut off. */
export function stateOf(bytes: Uint8Array): SolvedState | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.byteLength < HEAD || view.getUint32(0) !== MARK) return undefined;
  const n = view.getUint16(4);
  if (bytes.byteLength !== HEAD + n * (4 * LISTS.length + 2)) return undefined;
  const layers = emptyLayers(n);
  const held = view.getUint8(6);
  layers.held = [(held & 1) !== 0, (held & 2) !== 0];
  const [alpha, reynolds, stagnation, upper, lower] = [0, 1, 2, 3, 4].map((i) => view.getFloat64(8 + 8 * i));
  layers.stagnation = stagnation;
  layers.transition = [upper, lower];
  let at = HEAD;
  for (const list of LISTS) for (let i = 0; i < n; i++, at += 4) layers[list][i] = view.getFloat32(at);
  for (let i = 0; i < n; i++) layers.side[i] = view.getInt8(at++);
  for (let i = 0; i < n; i++) layers.turbulent[i] = view.getUint8(at++);
  return { alpha, reynolds, layers };
}

/** Rounds the lists of layers to what is stored, so that going on from a stored state and from the state itself is the same. */
export function roundLayers(layers: Layers): Layers {
  for (const list of LISTS) {
    const values = layers[list];
    for (let i = 0; i < values.length; i++) values[i] = Math.fround(values[i]);
  }
  return layers;
}
