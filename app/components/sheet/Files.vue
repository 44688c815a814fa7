<script setup lang="ts">
import type { Slot } from '~~/core/application/slots'
import type { Dossier } from '~~/shared/applications'

/** Images and documents of a sheet, each with what was measured on it in the margin. */
defineProps<
  {
    dossier: Dossier,
    slots: Slot[],
    /** Whether a slot may be changed. */
    isOpen: (slot: string) => boolean,
    /** Say what is missing, too. */
    eager: boolean,
  }
>()
defineEmits<{ added: [] }>()
/** The finding whose place is shown on its picture. */
const pointed = ref<string | null>(null)
</script>

<template>
  <div
    v-for="slot in slots"
    :key="slot.id"
    class="sheet-row"
  >
    <div class="body">
      <SheetImageSlot
        v-if="slot.as === 'image'"
        :kind="slot.id"
        :rule="slot.rule"
        :image="dossier.files[slot.id]"
        :application-id="dossier.id"
        :readonly="!isOpen(slot.id)"
        :pointed="pointed"
        @added="$emit('added')"
      />
      <SheetDocumentSlot
        v-else
        :rule="slot.rule"
        :document="dossier.files[slot.id]"
        :application-id="dossier.id"
        :readonly="!isOpen(slot.id)"
        @added="$emit('added')"
      />
    </div>
    <div class="beside">
      <LazyHouseFindingRows
        v-if="dossier.files[slot.id]"
        v-model:pointed="pointed"
        :findings="dossier.files[slot.id]?.findings ?? []"
        :places="dossier.files[slot.id]?.marks.map(mark => mark.code)"
      />
      <p
        v-if="!dossier.files[slot.id] && slot.required && eager"
        class="refusal"
      >
        <b>{{ say('sheet.isMissing', { title: slot.title }) }}</b>
      </p>
    </div>
  </div>
</template>
