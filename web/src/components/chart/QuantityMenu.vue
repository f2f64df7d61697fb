<script setup lang="ts">
/** Quantities that can stand on an axis. */
defineProps<{ axis: 'x' | 'y'; options: { id: string; name: string }[]; chosen?: string }>();
defineEmits<{ choose: [id: string] }>();
</script>

<template>
  <div
    class="menu absolute max-h-56 overflow-y-auto"
    :style="axis === 'x' ? { right: '20px', bottom: '28px' } : { left: '8px', top: '20px' }"
    role="menu"
  >
    <button
      v-for="o in options"
      :key="o.id"
      class="menu-item"
      role="menuitem"
      :data-on="o.id === chosen"
      @click="$emit('choose', o.id)"
    >
      {{ o.name }}
    </button>
  </div>
</template>
