<script setup lang="ts">
import type { Lookalike } from '~~/shared/applications'

/**
 * Other applications that hold the same picture, one that shows the same, or a face alike; asked for when a case is looked at, not with
 * every sheet.
 */
const props = defineProps<{ applicationId: string }>()
const spelling = useSpelling()
const found = shallowRef<Lookalike[]>([])
const how = ({ by, differing }: Lookalike) =>
  by === 'pixels'
    ? say('scrutiny.theVerySamePixels')
    : by === 'picture'
    ? say('scrutiny.showsTheSameOf256Bits', { differing })
    : say('scrutiny.aFaceMuchAlikeOf576', { differing })
const { failure } = useLoaded(async () => {
  found.value = await callApi<Lookalike[]>(`/api/applications/${props.applicationId}/lookalikes`)
})
</script>

<template>
  <div v-if="failure || found.length > 0">
    <h3>{{ say('scrutiny.theSamePictureElsewhereOrA', { hasSome: String(Boolean(found.some(one => one.by === 'face'))) }) }}</h3>
    <p
      v-if="failure"
      class="refusal small"
    >
      {{ say('scrutiny.notLookedFor', { failure }) }}
    </p>
    <p
      v-else
      class="soft small"
    >
      {{ say('scrutiny.aHintNoVerdictOnePerson') }}
    </p>
    <ul>
      <li
        v-for="one in found"
        :key="one.imageId"
      >
        <img
          :src="`/api/images/${one.imageId}`"
          :alt="say('scrutiny.of', { kind: spelling.item(one.kind), number: one.number })"
        >
        <span><NuxtLink :to="`/scrutiny/${one.applicationId}`">{{ one.number }}</NuxtLink> {{ one.name }}<br>
          <span class="soft small">{{ spelling.item(one.kind) }}: {{ how(one) }}</span></span>
      </li>
    </ul>
  </div>
</template>

<style scoped>
h3 { margin: 12px 0 2px; }
ul { list-style: none; padding: 0; margin: 4px 0; }
li { display: grid; grid-template-columns: 52px minmax(0, 1fr); gap: 10px; align-items: center; padding: 4px 0; line-height: 1.3; }
img { width: 52px; max-height: 64px; object-fit: contain; border: 1px solid var(--line-strong); background: #fff; }
</style>
