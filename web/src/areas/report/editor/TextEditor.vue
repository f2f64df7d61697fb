<script setup lang="ts">
import { computed, ref } from 'vue';
import { LONGEST_TEXT } from '@veldtwind/core/report';
import { usePreferences } from '@/store/preferences';
import MarkdownField from './MarkdownField.vue';
import RichField from './RichField.vue';
import { isRich } from './rich-text';

/** Text of a report: as it is read, or as its Markdown, with live numbers behind "@". */
const props = defineProps<{ modelValue: string; label: string }>();
const emit = defineEmits<{ commit: [text: string]; leave: [] }>();
const preferences = usePreferences();
const text = ref(props.modelValue);
const tooLong = computed(() => text.value.length - LONGEST_TEXT);
const plain = ref(preferences.get<boolean>('report-markdown', false));
/** A text that the editor would not give back as it is. */
const foreign = computed(() => !plain.value && !rich.value);
const rich = ref(isRich(text.value));
function turn(): void {
  plain.value = !plain.value;
  preferences.set('report-markdown', plain.value);
  rich.value = isRich(text.value);
}
function done(): void {
  if (tooLong.value > 0) return;
  // Only what was changed is written: a text that was looked at stays as it was typed.
  if (text.value.trimEnd() !== props.modelValue.trimEnd()) emit('commit', text.value);
  emit('leave');
}
</script>

<template>
  <div class="rounded border border-rule bg-field" data-test="report-editor">
    <component
      :is="plain || !rich ? MarkdownField : RichField"
      v-model="text"
      :label="label"
      :invalid="tooLong > 0"
      @done="done"
    />
    <p v-if="tooLong > 0" class="border-t border-rule-light px-3 py-1 text-[12.5px] text-clay" role="alert">
      The text is {{ tooLong }} letters longer than a block holds ({{ LONGEST_TEXT }}). Split it into several blocks;
      nothing is lost.
    </p>
    <div class="flex items-center gap-3 border-t border-rule-light px-3 py-1.5 text-[12px] text-soft">
      <span v-if="foreign">This text has formatting that can only be edited as Markdown.</span>
      <span v-else>Type @ for a live number.</span>
      <span class="flex-1" />
      <button v-if="!foreign" type="button" class="link" data-test="report-editor-mode" @click="turn">
        {{ plain ? 'Formatted text' : 'Markdown' }}
      </button>
      <button type="button" class="btn btn-main" data-test="report-editor-done" :disabled="tooLong > 0" @click="done">
        Done
      </button>
    </div>
  </div>
</template>
