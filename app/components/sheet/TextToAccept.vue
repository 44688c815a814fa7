<script setup lang="ts">
import '~/words/later'
import type { TextView } from '~~/shared/applications'

/** One text of the notice, to be read and ticked, and signed where the notice wants that. */
defineProps<{ text: TextView, tick: string, isSigned: boolean }>()
const ticked = defineModel<boolean>({ default: false })
const typed = defineModel<string>('typed', { default: '' })
</script>

<template>
  <section class="text-to-accept">
    <h3 v-if="text.title">
      {{ text.title }}
    </h3>
    <p
      v-if="text.isChanged"
      class="attention small"
    >
      {{ say('parts.textChanged') }}
    </p>
    <div
      class="words"
      :class="{ long: text.text.length > 900 }"
      :tabindex="text.text.length > 900 ? 0 : undefined"
    >
      {{ text.text }}
    </div>
    <div class="options">
      <label><input
        v-model="ticked"
        type="checkbox"
      ><span>{{ tick }}</span></label>
    </div>
    <label
      v-if="isSigned"
      class="signed"
    >{{ say('parts.signedBy', { signed: text.signed }) }} <input
      v-model="typed"
      class="field"
      autocomplete="off"
      spellcheck="false"
    ></label>
  </section>
</template>

<style scoped>
.text-to-accept { margin-bottom: 16px; }
h3 { margin: 0 0 4px; }
.words { white-space: pre-wrap; max-width: 70ch; }
.long { max-height: 40vh; overflow-y: auto; border: 1px solid var(--line); padding: 8px 12px; }
.options { margin-top: 4px; }
.signed { display: block; max-width: 420px; margin-top: 4px; }
</style>
