<script setup lang="ts">
import type { ImageRule } from '~~/core/notice/file-rules'

/** The colours that a notice allows behind a person, as it names them. */
defineProps<{ rule: ImageRule }>()
</script>

<template>
  <span
    v-if="rule.backgrounds.length > 0"
    class="swatches"
  > {{ say('pictures.background') }} <span
    v-for="one in rule.backgrounds"
    :key="one.title"
    class="nowrap"
  ><i :style="{ background: one.colour }" />{{ one.title }} </span></span>
</template>

<style scoped>
i { display: inline-block; width: 14px; height: 14px; border: 1px solid var(--line-strong); vertical-align: -2px; margin: 0 5px 0 4px; }
</style>
