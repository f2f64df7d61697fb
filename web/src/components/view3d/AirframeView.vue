<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import CameraControls from 'camera-controls';
import { BookPlus } from 'lucide-vue-next';
import * as THREE from 'three';
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { sectionLookup } from '@veldtwind/core/candidate';
import type { ViewDirection } from '@veldtwind/core/figures';
import { DEG } from '@veldtwind/core/numerics';
import { placeStations, planformOf, referenceSurface, standingIn } from '@veldtwind/core/airframe';
import type { CandidatePart } from '@veldtwind/core/project';
import type { SectionPart } from '@/lib/types';
import { displayUnit, formatQuantity } from '@veldtwind/core/units';
import { keptByPart } from '@/lib/by-part';
import { clearLabels, type MassPoint } from '@/lib/mass-points';
import { drawnBody, surfaceRings } from '@/lib/airframe-mesh';
import { seriesStyle } from '@/lib/series-style';
import { whileMoving } from '@/lib/while-moving';
import { usePreferences } from '@/store/preferences';
import { overallDimensions, stationFrames } from './dimensions-3d';
import { lineSegments, loft, panelLines, ribbonOf, segmentsOf, type PartStyle, type Skin } from './parts-3d';

/** The airframe in space: matt parts in the candidate's colour, ink outlines, a soft shadow, dimensions as on a drawing. */
const props = withDefaults(
  defineProps<{
    candidates: CandidatePart[];
    activeId: string;
    sections: Record<string, SectionPart>;
    /** Marked points in the airframe's axes, m. */
    points?: { x: number; y: number; z: number; text: string; colour: string }[];
    /** Share of the half span that the shared cursor is at. */
    station?: number | null;
    /** `smooth` without lines, `outlined`, or `see-through`. */
    mode?: Skin;
    parallel?: boolean;
    /** How a part is drawn where it is not as all are, by its id. */
    looks?: Record<string, PartStyle>;
    /** Mass items, as balls whose volume goes with the mass. */
    masses?: MassPoint[];
    /** A colour a part, instead of the candidate's. */
    byPart?: boolean;
    /** Overall dimensions, and the panels of the lattice. */
    dimensions?: boolean;
    panels?: boolean;
    /** Lines of the sections at the stations; drawn where it is not said. */
    ribs?: boolean;
    /** The part that is chosen, by its id. */
    selected?: string | null;
    /** Lines about it, and ribbons between two lines of as many points; x, y, z of each point. */
    lines?: { points: number[]; colour: string; opacity: number }[];
    ribbons?: { foot: number[]; edge: number[]; colour: string }[];
    /** How much more room than the airframe needs is seen. */
    room?: number;
    /** Whether the view can be put into the report. */
    reportable?: boolean;
  }>(),
  { dimensions: true, ribs: true },
);
const emit = defineEmits<{ pick: [part: string, station: number | null]; report: [view: ViewDirection] }>();
/** Where it is looked from now. */
function direction(): ViewDirection {
  const target = controls!.getTarget(new THREE.Vector3());
  const { x, y, z } = camera.position.clone().sub(target).normalize();
  return { azimuthDeg: Math.round(Math.atan2(y, -x) * DEG), elevationDeg: Math.round(Math.asin(z) * DEG) };
}
/** The same list as long as the same candidates are in it: a page that is drawn again makes a new one each time, and to build the scene costs. */
const candidates = computed<CandidatePart[]>((last) =>
  last?.length === props.candidates.length && last.every((c, i) => c === props.candidates[i]) ? last : props.candidates,
);
/** Candidates with their surfaces where they stand; one that cannot be placed is left out. */
const placed = computed(() => candidates.value.flatMap((c) => safe(() => [standingIn(c)], [])));
CameraControls.install({ THREE });
const preferences = usePreferences();
const box = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const { width, height } = useElementSize(box);
const failure = ref('');
const labels = shallowRef<{ text: string; left: number; top: number; colour: string; id: string }[]>([]);

let renderer: THREE.WebGLRenderer | undefined;
let controls: CameraControls | undefined;
const scene = new THREE.Scene();
const FIELD = 26;
/** Radius of the heaviest mass item, over the span. */
const MASS_BALL = 0.022;
const perspective = new THREE.PerspectiveCamera(FIELD, 1, 0.01, 500);
const flat = new THREE.OrthographicCamera(-1, 1, 1, -1, 0.01, 500);
for (const c of [perspective, flat]) c.up.set(0, 0, 1);
let camera: THREE.PerspectiveCamera | THREE.OrthographicCamera = perspective;
const model = new THREE.Group();
const cursor = new THREE.Group();
scene.add(model, cursor);
const sun = new THREE.DirectionalLight(0xffffff, 2.1);
const ground = new THREE.Mesh(new THREE.PlaneGeometry(60, 60), new THREE.ShadowMaterial({ opacity: 0.16 }));
ground.receiveShadow = true;
scene.add(new THREE.HemisphereLight(0xffffff, 0xd8ccb4, 1.7), sun, sun.target, ground);
let anchors: { at: THREE.Vector3; text: string; colour: string; id: string }[] = [];

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888';
const colourOf = (v: string) => new THREE.Color(css(v.replace(/^var\(|\)$/g, '')));

const rings = keptByPart<object, ReturnType<typeof surfaceRings>>();
function build(): void {
  model.traverse((o) => {
    if (o instanceof THREE.Mesh || o instanceof THREE.LineSegments || o instanceof THREE.Line) {
      o.geometry.dispose();
      (o.material as THREE.Material).dispose();
    }
  });
  model.clear();
  anchors = [];
  const lookup = sectionLookup(props.sections);
  const ink = colourOf('--ink');
  for (const c of placed.value) {
    const active = c.id === props.activeId;
    const colour = colourOf(seriesStyle(c.style).colour).lerp(new THREE.Color(css('--paper')), 0.34);
    const line = active ? ink : colourOf(seriesStyle(c.style).colour);
    let order = 0;
    const add = (
      id: string,
      drawn: { rings: Float64Array[]; stations: Set<number> } | null,
      twice: boolean,
      closed: boolean,
    ) => {
      const own = props.byPart
        ? colourOf(seriesStyle(order).colour).lerp(new THREE.Color(css('--paper')), 0.34)
        : colour;
      order++;
      const look = (active ? props.looks?.[id] : undefined) ?? props.mode ?? 'outlined';
      if (!drawn || look === 'hidden') return;
      for (const side of twice ? [1, -1] : [1]) {
        const part = drawn.rings.map((r) => {
          const m = r.slice();
          if (side < 0) for (let i = 1; i < m.length; i += 3) m[i] = -m[i];
          return m;
        });
        const chosen = active && props.selected === id;
        model.add(
          ...loft(part, {
            id,
            colour: chosen ? own.clone().lerp(colourOf('--ochre'), 0.35) : own,
            ink: line,
            active,
            mode: look,
            stations: drawn.stations,
            sections: props.ribs,
            closed,
          }),
        );
      }
    };
    for (const surface of c.surfaces)
      add(
        surface.id,
        safe(() => rings(props.sections, surface, '', () => surfaceRings(surface, lookup)), null),
        surface.mirrored,
        false,
      );
    for (const body of c.bodies)
      add(
        body.id,
        safe(() => rings(props.sections, body, '', () => drawnBody(body)), null),
        body.mirrored,
        true,
      );
    if (active && props.panels) {
      const lines = safe(() => panelLines(c.surfaces, lookup), []);
      model.add(lineSegments(lines, ink, 0.5, true));
    }
  }
  if (props.dimensions) drawDimensions(ink);
  const own = new THREE.Box3().setFromObject(model);
  for (const l of props.lines ?? []) model.add(lineSegments(segmentsOf(l.points), colourOf(l.colour), l.opacity));
  for (const r of props.ribbons ?? []) {
    model.add(ribbonOf(r.foot, r.edge, colourOf(r.colour)));
    model.add(lineSegments(segmentsOf(r.edge), colourOf(r.colour), 1));
  }
  for (const p of props.points ?? []) {
    const ball = new THREE.Mesh(
      new THREE.SphereGeometry(size() * 0.009, 20, 14),
      new THREE.MeshBasicMaterial({ color: colourOf(p.colour), depthTest: false }),
    );
    ball.position.set(p.x, p.y, p.z);
    ball.renderOrder = 5;
    model.add(ball);
    anchors.push({ at: ball.position, text: p.text, colour: p.colour, id: p.text });
  }
  for (const m of props.masses ?? []) {
    const ball = new THREE.Mesh(
      new THREE.SphereGeometry(size() * MASS_BALL * Math.cbrt(m.share), 24, 16),
      new THREE.MeshBasicMaterial({ color: colourOf('--plum'), transparent: true, opacity: 0.45, depthTest: false }),
    );
    ball.position.set(m.x, m.y, m.z);
    ball.renderOrder = 4;
    model.add(ball);
    if (!m.key.endsWith('-mirrored'))
      anchors.push({ at: ball.position, text: m.name, colour: 'var(--plum)', id: `mass-${m.key}` });
  }
  const bounds = own.isEmpty() ? new THREE.Box3().setFromObject(model) : own;
  ground.position.z = (Number.isFinite(bounds.min.z) ? bounds.min.z : 0) - 0.12 * size();
  sun.position.set(-2 * size(), -1.2 * size(), 4 * size());
  sun.target.position.set(0.3 * size(), 0, 0);
  const s = size() * 1.3;
  Object.assign(sun.shadow.camera, { left: -s, right: s, top: s, bottom: -s, near: 0.1, far: 12 * size() });
  sun.shadow.camera.updateProjectionMatrix();
  drawCursor();
  draw();
}

const size = (): number => {
  const c = placed.value.find((k) => k.id === props.activeId);
  const span = c && c.surfaces.length > 0 ? safe(() => planformOf(referenceSurface(c.surfaces)).span, 3) : 3;
  return Math.max(0.05, span);
};
function safe<T>(work: () => T, otherwise: T): T {
  try {
    return work();
  } catch {
    return otherwise;
  }
}

const ray = new THREE.Raycaster();
let pressed: { x: number; y: number } | null = null;
/** A click that did not turn the view picks the part under it, and the station that is nearest. */
function release(e: PointerEvent): void {
  const from = pressed;
  pressed = null;
  if (!from || Math.hypot(e.clientX - from.x, e.clientY - from.y) > 4 || !canvas.value) return;
  const r = canvas.value.getBoundingClientRect();
  ray.setFromCamera(
    new THREE.Vector2((2 * (e.clientX - r.left)) / r.width - 1, 1 - (2 * (e.clientY - r.top)) / r.height),
    camera,
  );
  const hit = ray.intersectObjects(model.children, false).find((h) => h.object.userData.part);
  if (!hit) return;
  const id = hit.object.userData.part as string;
  const surface = placed.value.find((c) => c.id === props.activeId)?.surfaces.find((k) => k.id === id);
  const near = surface
    ? safe(() => {
        const far = placeStations(surface).map(({ leadingEdge: q }) =>
          surface.plane === 'vertical' ? Math.abs(q.z - hit.point.z) : Math.abs(q.y - Math.abs(hit.point.y)),
        );
        return far.indexOf(Math.min(...far));
      }, null)
    : null;
  emit('pick', id, near);
}

/** Span and length of the active candidate, as on a drawing. */
function drawDimensions(ink: THREE.Color): void {
  const c = placed.value.find((k) => k.id === props.activeId);
  if (!c || c.surfaces.length === 0) return;
  const show = (v: number) =>
    `${formatQuantity(v, 'length', preferences.units, preferences.units === 'metric' ? 2 : undefined)} ${displayUnit('length', preferences.units).symbol}`;
  safe(() => {
    const { lines, span, length } = overallDimensions(c, size());
    model.add(lineSegments(lines, ink, 0.4));
    for (const [id, { at, value }] of Object.entries({ span, length }))
      anchors.push({ at, text: show(value), colour: 'var(--soft)', id });
  }, undefined);
}

/** A frame around both wings at the station that the cursor of a chart is at. */
function drawCursor(): void {
  cursor.clear();
  const c = placed.value.find((k) => k.id === props.activeId);
  if (props.station == null || !c || c.surfaces.length === 0) return;
  safe(() => {
    for (const corners of stationFrames(referenceSurface(c.surfaces), props.station!))
      cursor.add(
        new THREE.LineLoop(
          new THREE.BufferGeometry().setFromPoints(corners),
          new THREE.LineBasicMaterial({ color: colourOf('--clay') }),
        ),
      );
  }, undefined);
}

function draw(): void {
  if (!renderer || width.value < 2) return;
  renderer.render(scene, camera);
  const all = anchors.map((a) => {
    const p = a.at.clone().project(camera);
    return {
      text: a.text,
      colour: a.colour,
      id: a.id,
      left: (p.x * 0.5 + 0.5) * width.value,
      top: (-p.y * 0.5 + 0.5) * height.value,
    };
  });
  // Names of mass items give way to each other and to all else.
  const mass = (l: { id: string }) => l.id.startsWith('mass-');
  const others = all.filter((l) => !mass(l));
  const clear = clearLabels(
    [...others, ...all.filter(mass)],
    (l) => ({ x: l.left, y: l.top + (l.id === 'span' || l.id === 'NP' ? 24 : 0), width: 7 * l.text.length }),
    all.length,
  );
  labels.value = [...others, ...clear.filter(mass)];
}
const camerawork = whileMoving((seconds) => {
  const moved = controls?.update(seconds) ?? false;
  if (moved) draw();
  return moved;
});

const VIEWS = { space: [-1.45, 1.25, 0.95], top: [0, 0, 1], front: [-1, 0, 0], side: [0, 1, 0] } as const;
const view = ref<keyof typeof VIEWS>(preferences.get('view-3d', 'space'));
const NAMES = { space: 'In space', top: 'From above', front: 'From ahead', side: 'From the right' };
/** Where there is little room. */
const SHORT = { space: 'Space', top: 'Above', front: 'Ahead', side: 'Right' };
function look(to: keyof typeof VIEWS, smooth = !matchMedia('(prefers-reduced-motion: reduce)').matches): void {
  view.value = to;
  preferences.set('view-3d', to);
  const [x, y, z] = VIEWS[to];
  const c = placed.value.find((k) => k.id === props.activeId);
  const points =
    c?.surfaces.flatMap((s) =>
      safe(() => placeStations(s).flatMap((p) => [p.leadingEdge.x, p.leadingEdge.x + p.chord]), []),
    ) ?? [];
  const middle = points.length ? (Math.min(...points) + Math.max(...points)) / 2 : 0.5;
  const d =
    (to === 'space' ? 1.22 : 2.1) *
    (props.room ?? 1) *
    size() *
    Math.max(0.6, 1.35 / Math.max(0.6, width.value / Math.max(1, height.value)));
  const tall = d * Math.tan((FIELD * Math.PI) / 360);
  const wide = tall * (width.value / Math.max(1, height.value));
  Object.assign(flat, { left: -wide, right: wide, top: tall, bottom: -tall, zoom: 1 });
  flat.updateProjectionMatrix();
  if (props.parallel) void controls?.zoomTo(1, false);
  void controls?.setLookAt(middle + x * d, y * d, z * d + 0.02, middle + (to === 'top' ? 0.0001 : 0), 0, 0, smooth);
  camerawork.wake();
}
/** The camera is changed under the controls; they begin anew where the view stands. */
function mount(): void {
  controls?.dispose();
  camera = props.parallel ? flat : perspective;
  controls = new CameraControls(camera, canvas.value!);
  controls.smoothTime = 0.12;
  controls.draggingSmoothTime = 0.06;
  controls.updateCameraUp();
  for (const kind of ['controlstart', 'control', 'transitionstart'] as const)
    controls.addEventListener(kind, camerawork.wake);
}
const reset = () => look(view.value);

let gone = false;
// The page stands first: a renderer takes long to begin with.
onMounted(() => requestAnimationFrame(() => setTimeout(() => !gone && start())));
function start(): void {
  try {
    renderer = new THREE.WebGLRenderer({
      canvas: canvas.value!,
      antialias: true,
      alpha: true,
      preserveDrawingBuffer: true,
    });
  } catch {
    failure.value = 'This browser gives no WebGL, so the view in space cannot be drawn. The plan below is complete.';
    return;
  }
  renderer.setPixelRatio(Math.min(2, devicePixelRatio));
  renderer.shadowMap.enabled = true;
  renderer.shadowMap.type = THREE.PCFSoftShadowMap;
  sun.castShadow = true;
  sun.shadow.mapSize.set(768, 768);
  sun.shadow.radius = 6;
  mount();
  build();
  look(view.value, false);
  fit();
}
onBeforeUnmount(() => {
  gone = true;
  camerawork.stop();
  controls?.dispose();
  renderer?.dispose();
});
/** Takes the size of its box. */
function fit(): void {
  const [w, h] = [width.value, height.value];
  if (!renderer || w < 2 || h < 2) return;
  renderer.setSize(w, h, false);
  perspective.aspect = w / h;
  perspective.updateProjectionMatrix();
  look(view.value, false);
  controls?.update(0);
  draw();
}
watch([width, height], fit);
/** Rebuilt at most once a frame, however fast the values move. */
let queued = false;
watch(
  [
    candidates,
    () => props.activeId,
    () => props.sections,
    () => JSON.stringify([props.points, props.masses, props.looks]),
    () => props.lines,
    () => props.ribbons,
    () => preferences.theme,
    () => preferences.units,
    () => [props.mode, props.byPart, props.dimensions, props.panels, props.ribs, props.selected].join(),
  ],
  () => {
    if (queued) return;
    queued = true;
    requestAnimationFrame(() => {
      queued = false;
      build();
    });
  },
);
watch(() => props.activeId, reset);
watch(
  () => props.parallel,
  () => {
    if (!renderer) return;
    mount();
    look(view.value, false);
    controls?.update(0);
    draw();
  },
);
watch(
  () => props.station,
  () => (drawCursor(), draw()),
);
const summary = computed(
  () =>
    `The airframe in space: ${props.candidates.map((c) => `${c.letter} ${c.name}`).join(', ')}. ${NAMES[view.value]}.`,
);
</script>

<template>
  <div class="flex min-h-0 flex-col">
    <div ref="box" class="relative min-h-0 flex-1 overflow-hidden" data-test="view-3d">
      <p v-if="failure" class="p-6 text-soft" role="alert">{{ failure }}</p>
      <canvas
        v-show="!failure"
        ref="canvas"
        class="absolute inset-0 h-full w-full touch-none"
        role="img"
        :aria-label="summary"
        tabindex="0"
        @dblclick="reset"
        @pointerdown="(e) => (pressed = { x: e.clientX, y: e.clientY })"
        @pointerup="release"
      />
      <span
        v-for="l in labels"
        :key="l.id"
        class="pointer-events-none absolute text-[12.5px] font-semibold whitespace-nowrap"
        :style="{
          left: `${l.left + 7}px`,
          top: `${l.top + (l.id === 'span' || l.id === 'NP' ? 4 : -20)}px`,
          color: l.colour,
        }"
        >{{ l.text }}</span
      >
      <div class="absolute top-2 right-3 flex gap-1" role="group" aria-label="Views">
        <button
          v-for="(name, key) in NAMES"
          :key="key"
          class="rounded border px-2 py-0.5 text-[12px]"
          :class="view === key ? 'border-ochre bg-leaf font-semibold' : 'border-rule text-soft hover:border-ochre'"
          :aria-pressed="view === key"
          :aria-label="name"
          @click="look(key)"
        >
          {{ width < 430 ? SHORT[key] : name }}
        </button>
        <button
          v-if="reportable"
          class="icon-btn"
          aria-label="Put the view into the report"
          title="Put into the report"
          data-test="view-report"
          @click="emit('report', direction())"
        >
          <BookPlus :size="14" />
        </button>
      </div>
    </div>
  </div>
</template>
