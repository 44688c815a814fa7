<script setup lang="ts">
import { linkPieces } from '~~/shared/links'

/** A text of the notice in which web addresses can be followed. */
defineProps<{ text: string }>()
</script>

<template>
  <template
    v-for="(piece, i) in linkPieces(text)"
    :key="i"
  >
    <a
      v-if="piece.isLink"
      :href="piece.text"
      target="_blank"
      rel="noopener noreferrer"
    >{{ piece.text }}</a><template v-else>
      {{ piece.text }}
    </template>
  </template>
</template>
