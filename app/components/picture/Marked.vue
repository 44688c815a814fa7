<script setup lang="ts">
import type { Mark } from '~~/core/imaging/image-finding'

/** A picture with where its findings were measured drawn over it: one finding's marks, or the face's own. */
const props = defineProps<
  {
    src: string,
    alt: string,
    marks: Mark[],
    /** Code of the finding that is pointed at. */
    pointed: string | null,
    /** Draw the usual marks when nothing is pointed at. */
    all?: boolean,
    version?: number,
  }
>()
const usual = ['photograph.faces', 'photograph.eyeLine', 'photograph.headHeight']
const shown = computed(() =>
  props.pointed
    ? props.marks.filter(mark => mark.code === props.pointed)
    : props.all
    ? props.marks.filter(mark => usual.includes(mark.code))
    : []
)
const points = (mark: Mark) => mark.points.map(({ x, y }) => `${(x * 1000).toFixed(1)},${(y * 1000).toFixed(1)}`).join(' ')
</script>

<template>
  <div class="marked">
    <img
      :src="pictureSource(src)"
      :alt="alt"
    >
    <svg
      viewBox="0 0 1000 1000"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <g
        v-for="(mark, i) in shown"
        :key="i"
      >
        <polygon
          v-if="mark.shape === 'area'"
          :points="points(mark)"
        />
        <template v-else>
          <polyline
            :points="points(mark)"
            class="under"
          />
          <polyline :points="points(mark)" />
        </template>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.marked {
  position: relative; width: fit-content; max-width: 100%; line-height: 0; overflow: hidden; border: 1px solid var(--line-strong);
  background: #fff;
}
img { display: block; max-width: 100%; }
svg { position: absolute; inset: 0; width: 100%; height: 100%; }
polygon, polyline { fill: none; stroke: #0e7490; stroke-width: 2; vector-effect: non-scaling-stroke; }
polygon { fill: rgb(14 116 144 / 12%); }
polyline { stroke-dasharray: 5 3; }
.under { stroke: #fff; stroke-width: 4; stroke-dasharray: none; opacity: 0.7; }
</style>
