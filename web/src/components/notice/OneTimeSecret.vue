<script setup lang="ts">
import { Copy } from 'lucide-vue-next';
import { toast } from 'vue-sonner';

/** A secret that is shown once, to be copied. */
const props = defineProps<{ label: string; value: string }>();
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(props.value);
    toast('Copied');
  } catch {
    toast.error('This page may not use the clipboard.', { description: 'Select the text and copy it.' });
  }
}
</script>

<template>
  <div class="rounded border border-ochre bg-field p-2 text-[13px]">
    <p class="text-soft">{{ label }}; shown only now.</p>
    <p class="flex items-center gap-2">
      <code class="min-w-0 flex-1 font-mono text-[12px] break-all select-all" data-test="secret">{{ value }}</code>
      <button class="icon-btn" type="button" aria-label="Copy" title="Copy" @click="copy"><Copy :size="14" /></button>
    </p>
  </div>
</template>
