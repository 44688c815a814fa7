<script setup lang="ts">
import '~/words/later'
import type { ImageView } from '~~/shared/applications'

/** The pages of a stored document, small; a press shows one large, and from there the others. */
const props = defineProps<{ document: ImageView, title: string }>()
const address = (page: number) => `/api/images/${props.document.id}?page=${page}`
const large = ref<number | null>(null)
const count = computed(() => props.document.pages.length)
</script>

<template>
  <div class="pages">
    <button
      v-for="(size, i) in document.pages"
      :key="i"
      type="button"
      :aria-label="say('documents.pageShowLarge', { title, i: i + 1 })"
      @click="large = i + 1"
    >
      <img
        :src="pictureSource(address(i + 1))"
        :alt="say('documents.versionPage', { title, version: document.version, i: i + 1 })"
        :width="size.width"
        :height="size.height"
        loading="lazy"
      >
    </button>
    <ElDialog
      v-if="large !== null"
      :model-value="true"
      :title="say('documents.pageOf', { title, large, count })"
      width="min(980px, 98vw)"
      top="3vh"
      append-to-body
      @close="large = null"
    >
      <img
        class="large"
        :src="address(large)"
        :alt="say('documents.pageAlone', { title, large })"
      >
      <template
        v-if="count > 1"
        #footer
      >
        <HouseButton
          :disabled="large === 1"
          @click="large -= 1"
        >
          {{ say('documents.pageBefore') }}
        </HouseButton>
        <HouseButton
          :disabled="large === count"
          @click="large += 1"
        >
          {{ say('documents.nextPage') }}
        </HouseButton>
      </template>
    </ElDialog>
  </div>
</template>

<style scoped>
.pages { display: flex; flex-wrap: wrap; gap: 8px; }
.pages > button { border: 1px solid var(--line-strong); background: #fff; padding: 0; cursor: zoom-in; line-height: 0; }
.pages > button img { height: 150px; width: auto; max-width: 236px; object-fit: contain; }
.large { display: block; width: 100%; height: auto; border: 1px solid var(--line-strong); }
</style>
