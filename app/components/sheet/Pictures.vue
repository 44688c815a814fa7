<script setup lang="ts">
import { imageKindsOf, imageRuleOf, type Notice } from '~~/core/notice/schema'
import type { Dossier } from '~~/shared/applications'

/** The images of a sheet, each with what was measured on it in the margin. */
const props = defineProps<{ dossier: Dossier, notice: Notice, readonly: boolean, /** Say what is missing, too. */ eager: boolean }>()
defineEmits<{ added: [] }>()
const kinds = computed(() => imageKindsOf(props.notice))
/** The finding whose place is shown on its picture. */
const pointed = ref<string | null>(null)
</script>

<template>
  <div
    v-for="kind in kinds"
    :key="kind"
    class="sheet-row"
  >
    <div class="body">
      <SheetImageSlot
        :kind="kind"
        :notice="notice"
        :image="dossier.images[kind]"
        :application-id="dossier.id"
        :readonly="readonly"
        :pointed="pointed"
        @added="$emit('added')"
      />
    </div>
    <div class="beside">
      <HouseFindingRows
        v-model:pointed="pointed"
        :findings="dossier.images[kind]?.findings ?? []"
        :places="dossier.images[kind]?.marks.map(mark => mark.code)"
      />
      <p
        v-if="!dossier.images[kind] && eager"
        class="refusal"
      >
        <b>✕ {{ imageRuleOf(notice, kind).title }} is missing</b>
      </p>
    </div>
  </div>
</template>
