<script setup lang="ts">
import type { DocumentRule } from '~~/core/notice/schema'
import type { Dossier } from '~~/shared/applications'

/** The documents that the answers of a sheet ask for, each with what was measured on it in the margin. */
defineProps<{ dossier: Dossier, asked: DocumentRule[], readonly: boolean, /** Say what is missing, too. */ eager: boolean }>()
defineEmits<{ added: [] }>()
</script>

<template>
  <div
    v-for="rule in asked"
    :key="rule.id"
    class="sheet-row"
  >
    <div class="body">
      <SheetDocumentSlot
        :rule="rule"
        :document="dossier.documents[rule.id]"
        :application-id="dossier.id"
        :readonly="readonly"
        @added="$emit('added')"
      />
    </div>
    <div class="beside">
      <HouseFindingRows :findings="dossier.documents[rule.id]?.findings ?? []" />
      <p
        v-if="!dossier.documents[rule.id] && rule.required && eager"
        class="refusal"
      >
        <b>✕ {{ rule.title }} is missing</b>
      </p>
    </div>
  </div>
</template>
