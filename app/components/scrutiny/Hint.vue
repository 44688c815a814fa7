<script setup lang="ts">
import type { PrintHint } from '~~/core/documents/print'

/**
 * What a machine read on a paper for one answer, with the place on the page enlarged, so that the eye need not search. A hint: the person
 * ticks.
 */
const props = defineProps<
  { hint: PrintHint, image: string, /** Sizes of its pages in pixels. */ pages: { width: number, height: number }[] }
>()
/** The place as a part of the page, with some room around it. */
const strip = computed(() => {
  const page = props.pages[props.hint.page - 1]
  if (!props.hint.box || !page) return null
  const [left, top, right, bottom] = props.hint.box
  const [width, height] = [Math.min(1, (right - left) * 1.2 + 0.03), Math.min(1, (bottom - top) * 1.9)]
  const place = (from: number, to: number, size: number) =>
    size >= 1 ? 0 : 100 * Math.min(1, Math.max(0, (from + to - size) / 2 / (1 - size)))
  return {
    backgroundImage: `url(/api/images/${props.image}?page=${props.hint.page})`,
    backgroundSize: `${100 / width}% ${100 / height}%`,
    backgroundPosition: `${place(left, right, width)}% ${place(top, bottom, height)}%`,
    aspectRatio: `${width * page.width} / ${height * page.height}`,
  }
})
</script>

<template>
  <p
    class="hint small"
    :class="{ attention: hint.result === 'near' }"
  >
    {{ say('scrutiny.machineRead', { result: hint.result.replace(' ', '_'), read: hint.read }) }}
  </p>
  <span
    v-if="strip"
    class="strip"
    role="img"
    :aria-label="say('scrutiny.stripOf', { read: hint.read })"
    :style="strip"
  />
</template>

<style scoped>
.hint { white-space: normal; padding-top: 4px; }
.hint:not(.attention) { color: var(--ink-soft); }
.strip {
  display: block; width: 100%; max-width: 320px; max-height: 60px; border: 1px solid var(--line); background-color: var(--sheet);
  background-repeat: no-repeat;
}
</style>
