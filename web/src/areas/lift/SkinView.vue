<script setup lang="ts">
import { useElementSize } from '@vueuse/core';
import CameraControls from 'camera-controls';
import { interpolateRgbBasis } from 'd3-interpolate';
import { color } from 'd3-color';
import * as THREE from 'three';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import type { ThickResult } from '@veldtwind/core/lift';
import { formatNumber } from '@veldtwind/core/units';
import { whileMoving } from '@/lib/while-moving';
import { usePreferences } from '@/store/preferences';

/** Pressure on the surfaces, in colours of a scale that stands beside it. */
const props = defineProps<{ result: ThickResult; index: number; station: number | null; surface: string }>();
CameraControls.install({ THREE });
const preferences = usePreferences();
const box = ref<HTMLElement | null>(null);
const canvas = ref<HTMLCanvasElement | null>(null);
const { width, height } = useElementSize(box);
const failure = ref('');
const scene = new THREE.Scene();
const camera = new THREE.PerspectiveCamera(26, 1, 0.01, 500);
camera.up.set(0, 0, 1);
let renderer: THREE.WebGLRenderer | undefined;
let controls: CameraControls | undefined;
let mesh: THREE.Mesh | undefined;
let edges: THREE.LineSegments | undefined;

const point = computed(() => props.result.points[props.index]);
/** Limits of the scale: stagnation above, and the suction that all but the last hundredth of the panels stay within. */
const limits = computed<[number, number]>(() => {
  const sorted = Float32Array.from(point.value.cp).sort();
  const low = sorted[Math.floor(0.01 * sorted.length)] ?? -1;
  return [Math.min(-0.5, Math.floor(low * 4) / 4), 1];
});
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888';
const scale = () => interpolateRgbBasis(['--clay', '--ochre', '--leaf', '--sky', '--slate'].map(css));
const shades = computed(() => {
  void preferences.theme;
  const shade = scale();
  return Array.from({ length: 24 }, (_, i) => shade(i / 23));
});
const marks = computed(() => {
  const [low, high] = limits.value;
  return [0, 0.25, 0.5, 0.75, 1].map((t) => ({ at: 100 * (1 - t), text: formatNumber(low + t * (high - low), 2) }));
});

function build(): void {
  const { corners, half } = props.result;
  const count = corners.length / 12;
  const sides = half ? [1, -1] : [1];
  const place = new Float32Array(18 * count * sides.length);
  const shade = new Float32Array(18 * count * sides.length);
  const colours = scale();
  const [low, high] = limits.value;
  let at = 0;
  for (const side of sides)
    for (let k = 0; k < count; k++) {
      const { cp } = point.value;
      const t = Math.min(1, Math.max(0, (cp[k] - low) / (high - low)));
      const { r, g, b } = color(colours(t))!.rgb();
      const c = new THREE.Color(r / 255, g / 255, b / 255).convertSRGBToLinear();
      for (const corner of side > 0 ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]) {
        place.set(
          [corners[12 * k + 3 * corner], side * corners[12 * k + 3 * corner + 1], corners[12 * k + 3 * corner + 2]],
          at,
        );
        shade.set([c.r, c.g, c.b], at);
        at += 3;
      }
    }
  mesh?.geometry.dispose();
  if (mesh) scene.remove(mesh);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(place, 3));
  geometry.setAttribute('color', new THREE.BufferAttribute(shade, 3));
  mesh = new THREE.Mesh(geometry, new THREE.MeshBasicMaterial({ vertexColors: true, side: THREE.DoubleSide }));
  scene.add(mesh);
  cut();
}
/** The strip whose pressures are drawn beside it, as a line around the wing. */
function cut(): void {
  if (edges) {
    scene.remove(edges);
    edges.geometry.dispose();
    edges = undefined;
  }
  const { corners, columns } = props.result;
  const own = columns.filter((c) => c.id === props.surface && c.station >= 0);
  if (own.length > 0 && props.station !== null) {
    const near = own.reduce((a, b) =>
      Math.abs(b.station - props.station!) < Math.abs(a.station - props.station!) ? b : a,
    );
    const line: number[] = [];
    for (let i = 0; i < near.fractions.length; i++) {
      const k = 12 * (near.from + i);
      // The inner edge of the strip, a little outside of the skin.
      line.push(...corners.slice(k, k + 3), ...corners.slice(k + 9, k + 12));
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(Float32Array.from(line), 3));
    edges = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ color: new THREE.Color(css('--ink')) }));
    scene.add(edges);
  }
  redraw();
}
function redraw(): void {
  if (renderer) renderer.render(scene, camera);
}
function fit(): void {
  if (!mesh || !controls) return;
  void controls.fitToSphere(new THREE.Box3().setFromObject(mesh).getBoundingSphere(new THREE.Sphere()), false);
  camerawork.wake();
}
const camerawork = whileMoving((seconds) => {
  const moved = controls?.update(seconds) ?? false;
  if (moved) redraw();
  return moved;
});
onMounted(() => {
  try {
    renderer = new THREE.WebGLRenderer({ canvas: canvas.value!, antialias: true, alpha: true });
  } catch {
    failure.value = 'This browser draws no space here (WebGL is off).';
    return;
  }
  renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
  controls = new CameraControls(camera, canvas.value!);
  void controls.setLookAt(-3, -4, 3.2, 0, 0, 0, false);
  for (const kind of ['controlstart', 'control', 'transitionstart'] as const)
    controls.addEventListener(kind, camerawork.wake);
  build();
  fit();
});
watch([width, height], ([w, h]) => {
  if (!renderer || w < 2 || h < 2) return;
  renderer.setSize(w, h, false);
  camera.aspect = w / h;
  camera.updateProjectionMatrix();
  redraw();
});
watch(() => [props.result, props.index, preferences.theme], build);
watch(() => [props.station, props.surface], cut);
onBeforeUnmount(() => {
  camerawork.stop();
  controls?.dispose();
  mesh?.geometry.dispose();
  edges?.geometry.dispose();
  renderer?.dispose();
});
</script>

<template>
  <div ref="box" class="relative min-h-0 overflow-hidden" role="img" aria-label="Surface pressure">
    <canvas ref="canvas" class="absolute inset-0 h-full w-full" />
    <p v-if="failure" class="absolute inset-0 grid place-items-center text-soft">{{ failure }}</p>
    <div class="absolute top-3 right-3 flex gap-1.5 text-[11.5px] text-soft" aria-hidden="true">
      <div class="flex h-40 w-2.5 flex-col-reverse overflow-hidden rounded-sm">
        <span v-for="(s, i) in shades" :key="i" class="flex-1" :style="{ background: s }" />
      </div>
      <div class="relative h-40 w-9">
        <span v-for="m in marks" :key="m.at" class="absolute -translate-y-1/2" :style="{ top: `${m.at}%` }">{{
          m.text
        }}</span>
        <span class="absolute -bottom-6 -left-4">cp</span>
      </div>
    </div>
  </div>
</template>
