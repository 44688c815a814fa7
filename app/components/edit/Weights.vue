<script setup lang="ts">
/** How often each of some is taken, against its neighbours; 1 where nothing was said. */
defineProps<{ title: string, members: readonly { id: string, title: string }[] }>()
const weights = defineModel<Record<string, number>>({ required: true })
const set = (id: string, event: Event) => {
  weights.value = { ...weights.value, [id]: Math.max(0, Number((event.target as HTMLInputElement).value) || 0) }
}
</script>

<template>
  <fieldset>
    <legend>{{ title }}</legend>
    <label
      v-for="member in members"
      :key="member.id"
    ><span>{{ member.title }}</span> <input
      class="field"
      type="number"
      min="0"
      step="any"
      :value="weights[member.id] ?? 1"
      @change="set(member.id, $event)"
    ></label>
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; flex: 1 1 240px; max-width: 340px; align-self: start; }
label { display: flex; justify-content: space-between; gap: 8px; padding: 2px 0; }
legend { font-weight: 600; padding: 0; }
input { width: 84px; }
</style>
