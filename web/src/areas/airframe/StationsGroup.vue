<script setup lang="ts">
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-vue-next';
import { computed, ref } from 'vue';
import {
  insertStation,
  MOST_STATIONS,
  moveStation,
  removeStation,
  SURFACE_LIMITS,
  type EdgeFlow,
  type LiftingSurface,
  type StationEdges,
} from '@veldtwind/core/airframe';
import BoundField from '@/components/field/BoundField.vue';
import SelectRow from '@/components/field/SelectRow.vue';
import SheetGroup from '@/components/field/SheetGroup.vue';
import SwitchRow from '@/components/field/SwitchRow.vue';
import type { DocumentPath } from '@/lib/document-path';
import { useProject } from '@/store/project';
import DimensionGroup from './DimensionGroup.vue';
import { useCandidateEdit } from '@/store/candidate-edit';

/** Stations and the bays between them, from the root outward: one of each is open. */
const props = defineProps<{ surface: LiftingSurface; at: (...rest: (string | number)[]) => DocumentPath }>();
const chosen = defineModel<number>('station', { required: true });
const project = useProject();
const { changeSurface } = useCandidateEdit();
const set = (label: string, edit: (s: LiftingSurface) => void) =>
  changeSurface(`${props.surface.name}: ${label}`, props.surface.id, edit);
const last = computed(() => props.surface.stations.length - 1);
const name = (i: number) => (i === 0 ? 'Root' : i === last.value ? 'Tip' : `Station ${i + 1}`);
const sectionOptions = computed(() => project.sections.map(({ id, name: n }) => ({ id, name: n })));
const bay = ref<number | null>(null);

const LINES = [
  { id: 'leading', name: 'Leading edge' },
  { id: 'trailing', name: 'Trailing edge' },
  { id: 'rise', name: 'Dihedral' },
] as const;
type Line = (typeof LINES)[number]['id'];
/** Only runs that have a neighbour are offered. */
const runs = (i: number, line: Line) => [
  { id: 'straight' as const, name: line === 'rise' ? 'as the leading edge' : 'straight' },
  { id: 'held' as const, name: 'at an angle' },
  ...(i > 0 || props.surface.mirrored
    ? [{ id: 'inboard' as const, name: i === 0 ? 'normal to the plane of symmetry' : 'tangent to the inboard bay' }]
    : []),
  ...(i < last.value ? [{ id: 'outboard' as const, name: 'tangent to the outboard bay' }] : []),
];
const flowOf = (i: number, line: Line): EdgeFlow | undefined => props.surface.stations[i].edges?.[line];
/** Where a held angle reaches into a bay on each side. */
const twoSided = (i: number, line: Line) => flowOf(i, line)?.run === 'held' && i > 0 && i < last.value;
function run(i: number, line: Line, to: EdgeFlow['run']): void {
  set('edge flow', (s) => {
    const station = s.stations[i];
    const edges: StationEdges = { ...station.edges };
    if (to === 'straight') delete edges[line];
    else
      edges[line] = {
        run: to,
        reach: edges[line]?.reach ?? 0.35,
        ...(to === 'held' ? { angleDeg: edges[line]?.angleDeg ?? 0 } : {}),
      };
    if (Object.keys(edges).length > 0) station.edges = edges;
    else delete station.edges;
  });
}
/** Both edges at once: the usual way into a tip that is turned up. */
function blend(i: number): void {
  set('blended', (s) => {
    const flow = (): EdgeFlow => ({ run: 'inboard', reach: 0.35 });
    s.stations[i].edges = { leading: flow(), trailing: flow() };
  });
}
function insert(i: number): void {
  set('new station', (s) => insertStation(s, i));
  chosen.value = i + 1;
}
function move(i: number, by: 1 | -1): void {
  set('stations change places', (s) => moveStation(s, i, by));
  chosen.value = i + by;
}
function remove(i: number): void {
  set('remove a station', (s) => removeStation(s, i));
  chosen.value = Math.max(0, i - 1);
}
</script>

<template>
  <SheetGroup title="Stations and bays">
    <template #aside>
      <button
        class="link"
        data-test="add-station"
        :disabled="surface.stations.length >= MOST_STATIONS"
        @click="insert(surface.bays.length - 1)"
      >
        Add a station ›
      </button>
    </template>
    <template v-for="(t, i) in surface.stations" :key="i">
      <div class="mb-1 border-l-2 pl-2.5" :class="i === chosen ? 'border-ochre' : 'border-rule'">
        <div class="flex items-center justify-between">
          <button
            class="flex-1 text-left text-[12.5px] font-semibold hover:text-ochre-text"
            :aria-expanded="i === chosen"
            :data-test="`station-${i}`"
            @click="chosen = i"
          >
            {{ name(i) }}
            <span v-if="t.edges" class="font-normal text-soft">· flows</span>
          </button>
          <span v-if="i === chosen" class="flex">
            <button
              v-if="i > 0"
              class="icon-btn"
              :aria-label="`Move ${name(i)} inboard`"
              title="Change places with the one inboard"
              @click="move(i, -1)"
            >
              <ArrowUp :size="12" />
            </button>
            <button
              v-if="i < last"
              class="icon-btn"
              :aria-label="`Move ${name(i)} outboard`"
              title="Change places with the one outboard"
              @click="move(i, 1)"
            >
              <ArrowDown :size="12" />
            </button>
            <button
              v-if="surface.stations.length > 2"
              class="icon-btn"
              :aria-label="`Remove ${name(i)}`"
              title="Remove"
              @click="remove(i)"
            >
              <Trash2 :size="12" />
            </button>
          </span>
        </div>
        <BoundField
          :path="at('stations', i, 'chord')"
          :limit="SURFACE_LIMITS.station.chord"
          :step="`${surface.name}: chord`"
          held
        />
        <BoundField
          :path="at('stations', i, 'twistDeg')"
          :limit="SURFACE_LIMITS.station.twistDeg"
          :label="t.twistRelative ? 'Twist, from inboard' : undefined"
          :step="`${surface.name}: twist`"
          held
        />
        <SelectRow
          label="Section"
          :model-value="t.section"
          :options="sectionOptions"
          @update:model-value="(id) => set('section', (s) => (s.stations[i].section = id))"
        />
        <template v-if="i === chosen">
          <BoundField
            :path="at('stations', i, 'twistAbout')"
            :limit="SURFACE_LIMITS.station.twistAbout"
            :rest="0.25"
            :step="`${surface.name}: twist`"
          />
          <SwitchRow
            v-if="i > 0"
            label="Twist from the station inboard"
            :model-value="t.twistRelative ?? false"
            @update:model-value="(v) => set('twist', (s) => (s.stations[i].twistRelative = v))"
          />
          <template v-for="line in LINES" :key="line.id">
            <SelectRow
              :label="line.name"
              :model-value="flowOf(i, line.id)?.run ?? 'straight'"
              :options="runs(i, line.id)"
              :test="`edge-${line.id}`"
              @update:model-value="(v) => run(i, line.id, v)"
            />
            <template v-if="flowOf(i, line.id)">
              <BoundField
                v-if="flowOf(i, line.id)!.run === 'held'"
                :path="at('stations', i, 'edges', line.id, 'angleDeg')"
                :limit="SURFACE_LIMITS.edge.angleDeg"
                :step="`${surface.name}: edge flow`"
              />
              <BoundField
                :path="at('stations', i, 'edges', line.id, 'reach')"
                :limit="{
                  ...SURFACE_LIMITS.edge.reach,
                  label: twoSided(i, line.id) ? 'Reach inboard' : SURFACE_LIMITS.edge.reach.label,
                }"
                :rest="0.35"
                :step="`${surface.name}: edge flow`"
              />
              <BoundField
                v-if="twoSided(i, line.id)"
                :path="at('stations', i, 'edges', line.id, 'reachOutboard')"
                :limit="SURFACE_LIMITS.edge.reachOutboard"
                :rest="flowOf(i, line.id)!.reach ?? 0.35"
                :step="`${surface.name}: edge flow`"
              />
            </template>
          </template>
          <button v-if="i > 0 && i < last && !t.edges" class="link text-[12.5px]" data-test="blend" @click="blend(i)">
            Blend the bay outboard into this one ›
          </button>
        </template>
      </div>
      <div v-if="i < surface.bays.length" class="mb-1 ml-2.5 border-l border-dashed border-rule pl-2.5">
        <div class="flex items-center justify-between">
          <button
            class="flex-1 text-left text-[12.5px] text-soft hover:text-ochre-text"
            :aria-expanded="bay === i"
            :data-test="`bay-${i}`"
            @click="bay = bay === i ? null : i"
          >
            Bay {{ i + 1 }}
          </button>
          <button
            class="icon-btn"
            :aria-label="`Put a station into bay ${i + 1}`"
            title="Put a station into it"
            :disabled="surface.stations.length >= MOST_STATIONS"
            @click="insert(i)"
          >
            <Plus :size="12" />
          </button>
        </div>
        <BoundField
          :path="at('bays', i, 'span')"
          :limit="SURFACE_LIMITS.bay.span"
          :label="`Bay ${i + 1}, span`"
          :step="`${surface.name}: bay span`"
          held
        />
        <BoundField
          :path="at('bays', i, 'sweepDeg')"
          :limit="SURFACE_LIMITS.bay.sweepDeg"
          :label="`Bay ${i + 1}, sweep`"
          :step="`${surface.name}: bay sweep`"
          held
        />
        <BoundField
          :path="at('bays', i, 'dihedralDeg')"
          :limit="SURFACE_LIMITS.bay.dihedralDeg"
          :label="`Bay ${i + 1}, dihedral${surface.bays[i].dihedralRelative ? ' more' : ''}`"
          :step="`${surface.name}: bay dihedral`"
          held
        />
        <template v-if="bay === i">
          <BoundField
            :path="at('bays', i, 'sweepAt')"
            :limit="SURFACE_LIMITS.bay.sweepAt"
            :rest="0.25"
            :step="`${surface.name}: bay sweep`"
          />
          <SwitchRow
            v-if="i > 0"
            label="Dihedral from the bay inboard"
            :model-value="surface.bays[i].dihedralRelative ?? false"
            @update:model-value="(v) => set('dihedral', (s) => (s.bays[i].dihedralRelative = v))"
          />
          <DimensionGroup :surface="surface" :bay="i" />
        </template>
      </div>
    </template>
  </SheetGroup>
</template>
