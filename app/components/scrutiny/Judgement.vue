<script setup lang="ts">
import { reasonLeast } from '~~/core/application/acts/judge'

/** What somebody says who judges, with their reason; the answers to choose from are in the slot. */
defineProps<{ refusal: string }>()
const reason = defineModel<string>({ required: true })
</script>

<template>
  <form @submit.prevent>
    <input
      v-model="reason"
      class="field"
      maxlength="1000"
      :placeholder="say('scrutiny.pairWhy')"
      :aria-label="say('scrutiny.pairWhy')"
    >
    <slot :unready="reason.trim().length < reasonLeast" />
  </form>
  <HouseAlert
    :text="refusal"
    kind="refusal"
  />
</template>

<style scoped>
form { display: flex; flex-wrap: wrap; gap: 8px; margin-top: 10px; }
.field { flex: 1; min-width: 260px; }
</style>
