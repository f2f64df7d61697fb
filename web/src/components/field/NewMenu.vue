<script setup lang="ts" generic="Id extends string">
/** Something new, chosen from a list. */
defineProps<{ label: string; options: readonly { id: Id; name: string }[] }>();
const emit = defineEmits<{ pick: [id: Id] }>();
function choose(e: Event): void {
  const select = e.target as HTMLSelectElement;
  const id = select.value;
  select.value = '';
  if (id) emit('pick', id as Id);
}
</script>

<template>
  <label class="flex items-center gap-1 text-[12.5px] text-soft">
    new
    <select
      class="w-24 rounded border border-rule bg-field px-1 py-[2px] text-ink"
      :aria-label="label"
      :value="''"
      @change="choose"
    >
      <option value="">…</option>
      <option v-for="o in options" :key="o.id" :value="o.id">{{ o.name }}</option>
    </select>
  </label>
</template>
